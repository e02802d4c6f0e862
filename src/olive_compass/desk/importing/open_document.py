"""ODT documents and ODS workbooks: headings, tables with their spans, lists and paragraphs; all sheets."""

import io
from typing import Any

from olive_compass.core.apps.listing_row import Row
from olive_compass.core.plain import lines_of
from olive_compass.counts import parse_count
from olive_compass.desk.importing.blocks import Block, Heading, Line, has_keys, plain, read_blocks
from olive_compass.desk.importing.side_by_side import Table
from olive_compass.desk.importing.source import MOST_COLUMNS, Read, Source, damaged
from olive_compass.desk.importing.workbook import of_sheets
from olive_compass.errors import UserError

SUFFIXES = (".odt", ".ods")

#: Where a document keeps its text, and the most of it that is read, in bytes.
_CONTENT = "content.xml"
LARGEST_CONTENT = 200_000_000


def suits(source: Source) -> bool:
    return source.data.startswith(b"PK\x03\x04") and b"application/vnd.oasis" in source.data[:200]


def read(source: Source) -> Read:
    """The commands of a document, or of all sheets; places are counted as its paragraphs and rows."""
    try:
        body = _body(source)
        if body.localName == "spreadsheet":
            sheets = [
                (sheet.getAttribute("table:name"), list(_rows(sheet, [0])))
                for sheet in body.childNodes
                if _kind(sheet) == "table"
            ]
            blocks: list[Block] = []
        else:
            sheets, blocks = [], _blocks(body, [0])
    except UserError:
        raise
    except Exception as error:
        raise damaged(
            source.path, error, "Save it again, or save it as a web page or as CSV."
        ) from error
    if sheets:
        return of_sheets(sheets)
    if not has_keys(blocks):
        raise UserError("This document has no keys in a table, a list or a line.", file=source.path)
    return read_blocks(blocks, "a text document")


def _body(source: Source) -> Any:
    """The element that holds what a document says. How it looks is in other parts, which may be as they like."""
    import zipfile
    from xml.dom import minidom

    with zipfile.ZipFile(io.BytesIO(source.data)) as packed:
        if packed.getinfo(_CONTENT).file_size > LARGEST_CONTENT:
            raise UserError(
                f"This document has more than {LARGEST_CONTENT // 1_000_000} MB of text.",
                file=source.path,
            )
        content = minidom.parseString(packed.read(_CONTENT))
    (body,) = content.getElementsByTagName("office:body")
    return next(child for child in body.childNodes if child.nodeType == child.ELEMENT_NODE)


def _kind(node: Any) -> str:
    return str(node.localName or "")


def _text(node: Any) -> str:
    """The text of a paragraph; an end of line within it parts lines."""
    if node.nodeType == node.TEXT_NODE:
        # Ends of lines and indents of the file itself are blanks.
        if "\n" in node.data:
            return " ".join(node.data.split("\n"))
        return str(node.data)
    kind = _kind(node)
    if kind in ("line-break", "tab", "s"):
        return {"line-break": "\n", "tab": "\t", "s": " "}[kind]
    return "".join(_text(child) for child in node.childNodes)


def _blocks(node: Any, count: list[int]) -> list[Block]:
    found: list[Block] = []
    for child in node.childNodes:
        kind = _kind(child)
        if kind == "table":
            found.append(Table(tuple(_rows(child, count))))
        elif kind in ("h", "p"):
            count[0] += 1
            text = _text(child).strip()
            if kind == "h" and text:
                level = parse_count(child.getAttribute("text:outline-level") or "1") + 1
                found.append(Heading(count[0], plain(text), level))
            else:
                found += [Line(count[0], each.strip()) for each in lines_of(text) if each.strip()]
        elif kind in ("list", "list-item", "section", "list-header", "soft-page-break"):
            found += _blocks(child, count)
    return found


def _rows(table: Any, count: list[int]) -> list[Row]:
    """The rows of a table, with what stands over several of them in each."""
    found: list[Row] = []
    #: What cells of rows above go on saying: by column, for how many rows, and what.
    pending: dict[int, tuple[int, str]] = {}
    for row in _table_rows(table):
        count[0] += 1
        cells: list[str] = []
        for cell in row.childNodes:
            if _kind(cell) not in ("table-cell", "covered-table-cell"):
                continue
            text = _cell_text(cell, len(cells), pending)
            times = parse_count(cell.getAttribute("table:number-columns-repeated") or "1") or 1
            # A sheet repeats its last empty cell to the edge of the grid.
            cells += [text] * min(times, MOST_COLUMNS - len(cells) if text else 50)
        while cells and not cells[-1]:
            cells.pop()
        if cells:
            found.append(Row(line=count[0], cells=tuple(cells)))
    return found


def _cell_text(cell: Any, column: int, pending: dict[int, tuple[int, str]]) -> str:
    """What a cell says, or the one above that covers it; ``pending`` learns what goes on in the rows below."""
    parts = [part for part in cell.childNodes if _kind(part) in ("p", "h", "list")]
    text = "\n".join(_text(part).strip() for part in parts).strip()
    if _kind(cell) == "covered-table-cell":
        left, above = pending.pop(column, (0, ""))
        if left > 1:
            pending[column] = (left - 1, above)
        return text or above
    down = parse_count(cell.getAttribute("table:number-rows-spanned") or "1")
    if down > 1:
        pending[column] = (down - 1, text)
    return text


def _table_rows(table: Any) -> list[Any]:
    found: list[Any] = []
    for child in table.childNodes:
        if _kind(child) == "table-row":
            found.append(child)
        elif _kind(child) in ("table-header-rows", "table-rows", "table-row-group"):
            found += _table_rows(child)
    return found
