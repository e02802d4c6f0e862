"""HTML pages: tables, lists, terms and lines with keys, each under its headings.

Where all that has keys is one table, or several with the same headings, they are taken with the columns that they
have; else everything on the page is read as blocks (``blocks.py``).
"""

from olive_compass.core.apps.headings import without_keys
from olive_compass.core.apps.listing_result import SetAside
from olive_compass.core.apps.listing_row import Row, filled_cells, widest
from olive_compass.core.keys.cells import names_keys
from olive_compass.desk.importing.blocks import Line, has_keys, read_blocks
from olive_compass.desk.importing.handbook import HandbookParser, is_handbook
from olive_compass.desk.importing.page_parser import PageParser
from olive_compass.desk.importing.side_by_side import Table
from olive_compass.desk.importing.source import Read, Source
from olive_compass.desk.importing.table_parts import TableParts
from olive_compass.errors import UserError

SUFFIXES = (".html", ".htm", ".xhtml")


def suits(source: Source) -> bool:
    head = source.text[:2000].lower()
    if is_handbook(source.text):
        return True
    if source.path.lower().endswith(SUFFIXES) and "<" in head:
        return True
    return any(tag in head for tag in ("<html", "<!doctype html", "<table", "<dl", "<body", "<ul"))


def read(source: Source) -> Read:
    """The rows of the best table; tables like it follow, each under its own heading."""
    page = (HandbookParser if is_handbook(source.text) else PageParser)(source.path)
    page.feed(source.text)
    page.close()
    tables = [table for table in page.tables if len(table.rows) > 1]
    best = max(tables, key=lambda table: (table.keys(), len(table.rows)), default=None)
    alike = [table for table in tables if best is not None and table.like(best)]
    if best is None or _is_more_than(page, alike):
        blocks = page.blocks
        if not has_keys(blocks):
            raise UserError(
                "This page has no keys in a table, a list or a line.",
                file=source.path,
                hint="If they are there in a browser, save the page from it: a script may fill it in.",
            )
        return read_blocks(blocks, "a page of several parts")
    others = [table for table in page.tables if table not in alike]
    note = f"{len(alike)} of {len(page.tables)} tables"
    if others:
        note += f"; {len(others)} of other headings left out"
    return Read(rows=_rows_of(alike), set_aside=tuple(_left_out(page, others)), note=note)


def _rows_of(alike: list[TableParts]) -> list[Row]:
    """The rows of tables of one kind, each table under its own heading."""
    head = None
    if alike[0].rows[0].heading:
        head = alike[0].rows[0]
    # The row of headings comes first, before the first group.
    rows: list[Row] = []
    if head:
        rows = [head]
    for table in alike:
        if len(alike) > 1 and table.heading:
            # Where the keys come first, a heading stands beside them: nobody takes it for one.
            before = ("",) * _first_titles(table)
            cells = (*before, without_keys(table.heading))
            rows.append(Row(line=table.rows[0].line, cells=cells, heading=True))
        repeats_head = head is not None and table.rows[0].cells == head.cells
        rows.extend(table.rows[1:] if repeats_head else table.rows)
    return rows


def _first_titles(table: TableParts) -> int:
    """The first column of a table whose cells are no keys."""
    for n in range(widest(table.rows)):
        cells = filled_cells(table.rows[1:200], n)
        if sum(names_keys(cell) for cell in cells) * 2 <= len(cells):
            return n
    return 0


def _is_more_than(page: PageParser, alike: list[TableParts]) -> bool:
    """Whether a page has keys elsewhere than in these tables, or two tables side by side in one."""
    taken = [block for block in page.blocks if isinstance(block, Table)]
    own = {id(table) for table in alike}
    others = [
        block for block, table in zip(taken, page.tables, strict=True) if id(table) not in own
    ]
    lines = [block for block in page.blocks if isinstance(block, Line)]
    if has_keys([*others, *lines]):
        return True
    return any(_keyed_columns(table) > 1 for table in alike)


def _keyed_columns(table: TableParts) -> int:
    """In how many columns most cells are keys, with those of two platforms counted once."""
    head = table.rows[0]
    if head.heading and len(set(head.cells)) == len(head.cells):
        return 1
    width = widest(table.rows)
    count = 0
    for n in range(width):
        cells = filled_cells(table.rows[1:200], n)
        keys = sum(names_keys(cell) for cell in cells)
        count += keys * 2 > len(cells) > 0
    return count


def _left_out(page: PageParser, tables: list[TableParts]) -> list[SetAside]:
    """The rows and lines of a page that are not taken: each is set aside with its text."""
    rows = [row for table in tables for row in table.rows]
    found = [
        SetAside(
            line=row.line,
            what="row",
            why="its table has no keys",
            text=" | ".join(filter(None, row.cells)),
        )
        for row in rows
    ]
    lines = [block for block in page.blocks if isinstance(block, Line)]
    return [
        *found,
        *(
            SetAside(line=b.line, what="text", why="it names no key", text=b.text[:500])
            for b in lines
        ),
    ]
