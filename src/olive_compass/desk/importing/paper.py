"""PDF: tables with lines, and lines of words; words that stand far apart are cells."""

import csv
import io
from collections.abc import Iterable, Mapping, Sequence
from statistics import median
from typing import Any

from olive_compass.core.apps.columns import is_heads
from olive_compass.core.apps.listing_row import Row, widest
from olive_compass.core.wording import counted
from olive_compass.desk.importing.blocks import Block, Heading, Line, has_keys, read_blocks
from olive_compass.desk.importing.line_pairs import in_two_cells, is_keys, pair
from olive_compass.desk.importing.paper_columns import (
    Cell,
    Column,
    Word,
    cells_of,
    columns,
    crosses,
    of_column,
    row_of,
)
from olive_compass.desk.importing.paper_frames import Area, clean, ruled_tables
from olive_compass.desk.importing.paper_margins import is_at_the_edge, without_number
from olive_compass.desk.importing.side_by_side import Table
from olive_compass.desk.importing.source import Read, Source
from olive_compass.desk.texts.cells import restored
from olive_compass.errors import UserError

SUFFIXES = (".pdf",)

#: The most pages that are read.
MOST_PAGES = 400


def suits(source: Source) -> bool:
    return source.data.startswith(b"%PDF")


def read(source: Source) -> Read:
    """The commands of all pages; places are counted as lines from the first page on."""
    import pdfplumber

    blocks: list[Block] = []
    seen = lettered = 0
    try:
        with pdfplumber.open(io.BytesIO(source.data)) as paper:
            if own := _own_sheet(paper.metadata):
                return Read(rows=own, set_aside=(), note="a sheet of ours")
            if len(paper.pages) > MOST_PAGES:
                raise UserError(f"This paper has more than {MOST_PAGES} pages.", file=source.path)
            pages = len(paper.pages)
            for page in paper.pages:
                words = page.extract_words(use_text_flow=False, extra_attrs=["size", "fontname"])
                seen += len(words)
                lettered += sum("(cid:" not in word["text"] for word in words)
                blocks += _of_page(page, words, len(blocks))
                page.close()
    except UserError:
        raise
    except Exception as error:
        # Whatever a damaged file does to the reader, to the person it is one thing.
        raise UserError(
            f"This PDF cannot be read ({type(error).__name__}).", file=source.path
        ) from error
    if lettered * 3 < seen:
        raise UserError(
            "This PDF stores no text for its letters.",
            file=source.path,
            hint="Print the original to PDF again, or recognise the text first.",
        )
    if not seen:
        raise UserError(
            "This PDF has pictures of pages and no text.",
            file=source.path,
            hint="Have the text recognised first, or use the document that it was printed from.",
        )
    if not has_keys(blocks):
        raise UserError("This PDF has no keys in a table or a line.", file=source.path)
    return read_blocks(_together(blocks), counted(pages, "page"))


def _of_page(page: Any, words: list[dict[str, Any]], before: int) -> list[Block]:
    """The blocks of a page, from above to below, with what is printed at its edges first."""
    tables = list(ruled_tables(page, before))
    outside = _outside(words, [area for area, _ in tables])
    lines = list(enumerate(without_number(_lines(outside), page.height), before + 1))
    edges = [each for each in lines if is_at_the_edge(each[1], page.height)]
    margins = [Line(n, _text_of(line)) for n, line in edges]
    printed = [each for each in lines if each not in edges]
    usual = 10.0
    if words:
        usual = median([word["size"] for word in words])
    return [*margins, *_of_printed(printed, tables, usual)]


def _of_printed(
    printed: Sequence[tuple[int, list[Word]]], tables: Sequence[tuple[Area, Table]], usual: float
) -> list[Block]:
    """The blocks of the lines of a page, by their numbers, and of its tables; ``usual`` is the size of most letters."""
    cells = [cells_of(line, usual) for _, line in printed]
    parallel = []
    if not tables:
        parallel = columns(cells)
    if parallel:
        return _of_columns(printed, cells, parallel, usual)
    found: list[tuple[float, Block]] = [(area[1], table) for area, table in tables]
    for n, line in printed:
        found.append((line[0]["top"], _block(line, n, usual)))
    return [block for _, block in sorted(found, key=lambda each: each[0])]


def _outside(words: list[Word], areas: list[Area]) -> list[Word]:
    """The words that stand in none of these areas."""
    return [word for word in words if not any(_inside(word, area) for area in areas)]


def _text_of(line: Iterable[Word]) -> str:
    return clean(" ".join(word["text"] for word in line))


def _own_sheet(about: Mapping[str, Any]) -> list[Row]:
    """The rows of a sheet that this program printed: it carries them in what it says of itself."""
    text = about.get("Keywords")
    if about.get("Creator") != "Olive Compass" or not isinstance(text, str):
        return []
    lines = list(csv.reader(io.StringIO(text)))
    return [
        Row(line=n, cells=tuple(map(restored, cells)), heading=n == 1)
        for n, cells in enumerate(lines, 1)
    ]


def _of_columns(
    lines: Sequence[tuple[int, list[Word]]],
    cells: Sequence[list[Cell]],
    parallel: Sequence[Column],
    usual: float,
) -> list[Block]:
    """The blocks of a card, whose lines have their numbers: column by column, each part between lines that go over
    all of them."""
    found: list[Block] = []
    part: list[tuple[int, list[Cell]]] = []
    for (n, line), own in zip(lines, cells, strict=True):
        if crosses(own, parallel):
            found += _columns_of(part, parallel)
            part = []
            found.append(_block(line, n, usual))
        else:
            part.append((n, own))
    return found + _columns_of(part, parallel)


def _columns_of(part: Sequence[tuple[int, list[Cell]]], parallel: Sequence[Column]) -> list[Block]:
    """The headings and rows of lines in columns, one column after another."""
    found: list[Block] = []
    for place, column in enumerate(parallel):
        rows: list[Row] = []
        for n, line in part:
            own = of_column(line, place, parallel)
            if not own:
                continue
            apart = _heading_or_line(n, own, column)
            if apart is not None:
                found += [*_table(rows), apart]
                rows = []
                continue
            cells = row_of(own, column)
            if rows and (longer := _goes_on(rows[-1], cells)):
                rows[-1] = longer
            else:
                rows.append(Row(line=n, cells=tuple(map(clean, cells))))
        found += _table(rows)
    return found


def _heading_or_line(number: int, own: Sequence[Cell], column: Column) -> Block | None:
    """What a line of a column is where it is no row of a table: a heading, or a title with its keys right after it."""
    texts = [clean(cell.text) for cell in own]
    if len(own) == 1 and own[0].large and not is_keys(own[0].text):
        return Heading(number, texts[0])
    if len(column.parts) == 1 or (len(own) == 1 and pair(texts[0])):
        return _one_line(number, texts)
    in_one_part = sum(map(bool, row_of(own, column))) == 1
    if in_one_part and in_two_cells(texts):
        return _one_line(number, texts)
    return None


def _table(rows: Sequence[Row]) -> list[Block]:
    if rows:
        return [Table(tuple(rows))]
    return []


def _goes_on(row: Row, texts: tuple[str, ...]) -> Row | None:
    """The row with what goes on below it: where the keys come first, a title on two lines, or more keys."""
    if sum(map(bool, texts)) != 1:
        return None
    # “Ctrl+Shift+S or” on one line, “F12” on the next.
    for n, (cell, text) in enumerate(zip(row.cells, texts, strict=True)):
        if _are_keys_together(text, cell):
            cells = (*row.cells[:n], f"{cell} {text}", *row.cells[n + 1 :])
            return Row(line=row.line, cells=cells, heading=row.heading)
    if not is_keys(row.cells[0]):
        return None
    if texts[0]:
        if not is_keys(texts[0]):
            return None
        return Row(
            line=row.line,
            cells=(f"{row.cells[0]} or {texts[0]}", *row.cells[1:]),
            heading=row.heading,
        )
    joined = (f"{cell} {clean(text)}".strip() for cell, text in zip(row.cells, texts, strict=True))
    return Row(line=row.line, cells=tuple(joined), heading=row.heading)


def _are_keys_together(text: str, cell: str) -> bool:
    return bool(text and cell and not is_keys(cell) and is_keys(f"{cell} {text}"))


def _inside(word: dict[str, Any], area: Area) -> bool:
    left, top, right, bottom = area
    middle = (word["top"] + word["bottom"]) / 2
    return bool(left - 1 <= word["x0"] <= right + 1 and top - 1 <= middle <= bottom + 1)


def _lines(words: Iterable[Word]) -> list[list[Word]]:
    """Words on one line, from left to right; lines from above to below."""
    found: list[list[Word]] = []
    for word in sorted(words, key=lambda w: (round(w["bottom"]), w["x0"])):
        if found and abs(found[-1][-1]["bottom"] - word["bottom"]) < 3:
            found[-1].append(word)
        else:
            found.append([word])
    return [sorted(line, key=lambda w: w["x0"]) for line in found]


def _is_bold_heading(line: Sequence[Word], text: str) -> bool:
    """Whether a line is all bold, and neither keys nor the headings of columns."""
    if pair(text) or is_keys(text) or is_heads(text):
        return False
    return all("bold" in word["fontname"].lower() for word in line)


def _block(line: Sequence[Word], number: int, usual: float) -> Block:
    """A line: a heading where its letters are larger, a row where gaps part it, else a line."""
    texts = tuple(clean(cell.text) for cell in cells_of(line, usual))
    large = line[0]["size"] > usual * 1.12
    if len(texts) == 1 and (large or _is_bold_heading(line, texts[0])):
        level = 2
        if line[0]["size"] > usual * 1.6:
            level = 1
        return Heading(number, texts[0], level)
    if len(texts) > 1:
        return Table((Row(line=number, cells=texts),))
    return Line(number, texts[0])


def _together(blocks: Sequence[Block]) -> list[Block]:
    """Rows of as many cells, one below the other, as one table; a row that no table has as a line."""
    found: list[Block] = []
    for block in blocks:
        last = found[-1] if found else None
        if isinstance(block, Table) and isinstance(last, Table) and _wide(block) == _wide(last):
            found[-1] = Table((*last.rows, *block.rows))
        else:
            found.append(block)
    done: list[Block] = []
    for block in found:
        if isinstance(block, Table) and len(block.rows) == 1:
            done += [_as_line(block.rows[0])]
        else:
            done.append(block)
    return done


def _as_line(row: Row) -> Line:
    return _one_line(row.line, [cell for cell in row.cells if cell])


def _one_line(number: int, cells: Sequence[str]) -> Line:
    """The cells of a line as one; a title and keys that stand apart stay so, however short the keys are."""
    text = "  ".join(cells)
    if pair(text):
        return Line(number, text)
    if known := in_two_cells(cells):
        return Line(number, *known)
    return Line(number, " ".join(cells))


def _wide(table: Table) -> int:
    return widest(table.rows)
