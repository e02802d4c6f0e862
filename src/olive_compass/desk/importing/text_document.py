"""DOCX documents: headings, tables with their merged cells, lists and paragraphs."""

import io
from typing import Any

from olive_compass.core.apps.listing import Row
from olive_compass.core.plain import lines_of
from olive_compass.desk.importing.blocks import (
    Block,
    Heading,
    Line,
    Table,
    has_keys,
    plain,
    read_blocks,
)
from olive_compass.desk.importing.source import Read, Source
from olive_compass.errors import Refused
from olive_compass.whole import whole

SUFFIXES = (".docx",)


def suits(source: Source) -> bool:
    return source.data.startswith(b"PK\x03\x04") and b"word/" in source.data


def read(source: Source) -> Read:
    """The commands of a document; places are counted as its paragraphs and rows."""
    from docx import Document

    try:
        body = Document(io.BytesIO(source.data))
        blocks = list(_blocks(body))
    except Exception as error:
        # Whatever a damaged document does to the reader, to the person it is one thing.
        raise Refused(
            f"This document cannot be read ({type(error).__name__}).",
            file=source.path,
            hint="Save it again, or save it as a web page.",
        ) from error
    if not has_keys(blocks):
        raise Refused("This document has no keys in a table, a list or a line.", file=source.path)
    return read_blocks(blocks, "a text document")


def _blocks(body: Any) -> list[Block]:
    from docx.table import Table as DocxTable

    found: list[Block] = []
    number = 0
    for part in body.iter_inner_content():
        if isinstance(part, DocxTable):
            rows = []
            for row in part.rows:
                number += 1
                rows.append(Row(number, _cells(row)))
            found.append(Table(tuple(rows)))
            continue
        number += 1
        style = part.style.name if part.style is not None else ""
        if style.startswith(("Heading", "Title")) and part.text.strip():
            level = whole(style.rpartition(" ")[2]) + 1 if style.startswith("Heading") else 1
            found.append(Heading(number, plain(part.text), level))
        else:
            found += [Line(number, text.strip()) for text in lines_of(part.text) if text.strip()]
    return found


def _cells(row: Any) -> tuple[str, ...]:
    """The texts of a row: a cell over several columns stands in the first of them."""
    texts: list[str] = []
    before: Any = None
    for cell in row.cells:
        # A merged cell is given once a column, and once a row.
        texts.append("" if cell._tc is before else cell.text.strip())
        before = cell._tc
    return tuple(texts)
