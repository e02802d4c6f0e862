"""A workbook, with filters and headings that stay in sight."""

from olive_compass.drawing.documents import (
    COLUMNS,
    Sheet,
    SheetDocument,
    TableDocument,
    Written,
    rows_of,
)
from olive_compass.drawing.forms import Form
from olive_compass.drawing.workbooks import Grid, as_workbook


def _table(document: TableDocument) -> Written:
    rows = tuple(tuple(cell.whole for cell in row) for row in document.table.rows)
    grid = Grid(document.title, document.table.headings, rows)
    return Written(data=as_workbook([grid], document.title))


def _sheets(document: SheetDocument) -> Written:
    """A sheet for each application."""
    title = ", ".join(sheet.about.title for sheet in document.sheets)
    return Written(data=as_workbook([_grid(sheet) for sheet in document.sheets], title))


def _grid(sheet: Sheet) -> Grid:
    lines = [line for group in sheet.groups for line in group.lines]
    rows = tuple(
        (*row, line.does, ", ".join(line.asks))
        for row, line in zip(rows_of(sheet), lines, strict=True)
    )
    return Grid(sheet.about.title, (*COLUMNS, "does", "asks"), rows)


FORM = Form(endings=(".xlsx",), write_table=_table, write_sheets=_sheets, only_file=True)
