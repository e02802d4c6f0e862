"""Tables as a workbook: a sheet for each, with filters and headings that stay in sight."""

import io
from collections.abc import Sequence

from msgspec import Struct

#: The widest that a column begins with, in characters.
WIDEST = 60

#: What a name of a sheet cannot have, and how long one is at most (ECMA-376, part 1, 18.2.19).
FORBIDDEN, LONGEST = "\\/*?:[]", 31


class Grid(Struct, frozen=True):
    """A sheet: its name, its headings, and rows of as many texts."""

    name: str
    headings: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]


def as_workbook(grids: Sequence[Grid], title: str) -> bytes:
    """The sheets as one workbook (XLSX), the same bytes each time; every cell is text, and none is
    run as a formula."""
    from datetime import datetime

    from openpyxl import Workbook
    from openpyxl.cell.cell import ILLEGAL_CHARACTERS_RE
    from openpyxl.styles import Alignment, Font
    from openpyxl.utils import get_column_letter

    book = Workbook()
    book.remove(book.active)
    book.properties.title = title
    book.properties.creator = "Olive Compass"
    book.properties.created = book.properties.modified = datetime(2000, 1, 1)
    names: set[str] = set()
    for grid in grids:
        sheet = book.create_sheet(_name(grid.name, names))
        for n, row in enumerate((grid.headings, *grid.rows), 1):
            for m, text in enumerate(row, 1):
                cell = sheet.cell(n, m, ILLEGAL_CHARACTERS_RE.sub("", text))
                # Text for good, as if typed after an apostrophe: it is never run, and reads back as it was.
                cell.data_type = "s"
                cell.quotePrefix = True
                cell.alignment = Alignment(vertical="top", wrap_text=True)
                if n == 1:
                    cell.font = Font(bold=True)
        for m, heading in enumerate(grid.headings, 1):
            widest = max([len(heading) + 4, *(len(row[m - 1]) + 2 for row in grid.rows)])
            sheet.column_dimensions[get_column_letter(m)].width = min(widest, WIDEST)
        sheet.freeze_panes = "A2"
        last = f"{get_column_letter(len(grid.headings))}{len(grid.rows) + 1}"
        sheet.auto_filter.ref = f"A1:{last}"
        sheet.print_title_rows = "1:1"
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _name(wanted: str, taken: set[str]) -> str:
    """A name that a sheet can have and no other has, whatever their case."""
    plain = "".join("-" if char in FORBIDDEN else char for char in wanted).strip("' ") or "keys"
    name, n = plain[:LONGEST], 1
    while name.casefold() in taken:
        n += 1
        name = f"{plain[: LONGEST - 4]} {n}"
    taken.add(name.casefold())
    return name
