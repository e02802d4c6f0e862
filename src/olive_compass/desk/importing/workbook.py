"""XLSX workbooks: the one sheet with keys, or all sheets, each under its name."""

import io
import zipfile
from collections.abc import Sequence
from typing import Any

from msgspec import Struct

from olive_compass.core.apps.listing_result import SetAside
from olive_compass.core.apps.listing_row import Row
from olive_compass.desk.importing.blocks import Block, Heading, has_keys, read_blocks
from olive_compass.desk.importing.side_by_side import Table
from olive_compass.desk.importing.source import MOST_COLUMNS, Read, Source, too_wide
from olive_compass.errors import UserError
from olive_compass.structs import replace

SUFFIXES = (".xlsx", ".xlsm")

#: The most that a workbook may hold when unpacked, in bytes.
LARGEST_UNPACKED = 400_000_000


def suits(source: Source) -> bool:
    """Whether it is a packed folder with a workbook in it: other documents are packed alike."""
    return source.data.startswith(b"PK\x03\x04") and b"xl/" in source.data


def read(source: Source) -> Read:
    """The rows of the sheets that have keys, their numbers those of the sheet."""
    try:
        sheets = _sheets(source)
    except UserError:
        raise
    except Exception as error:
        # Whatever a damaged workbook does to the reader, to the person it is one thing.
        raise UserError(
            f"This workbook cannot be read ({type(error).__name__}).",
            file=source.path,
            hint="Save it again, or save the sheet as CSV.",
        ) from error
    if not sheets:
        raise UserError("This workbook has no sheet.", file=source.path)
    found = of_sheets([(sheet.name, sheet.shown) for sheet in sheets])
    aside = [
        SetAside(line=row.line, what="row", why="it is hidden in the workbook", text=_joined(row))
        for sheet in sheets
        for row in sheet.rows
        if row.line in sheet.hidden
    ]
    return replace(found, set_aside=(*found.set_aside, *aside))


class _Sheet(Struct, frozen=True):
    """A sheet: its name, its rows, and the numbers of the hidden ones."""

    name: str
    rows: list[Row]
    hidden: set[int]

    @property
    def shown(self) -> list[Row]:
        """The rows that are not hidden."""
        return [row for row in self.rows if row.line not in self.hidden]


def _sheets(source: Source) -> list[_Sheet]:
    from openpyxl import load_workbook

    # Only a workbook that is read as a whole says which cells are one, and which rows are hidden.
    whole = _must_be_whole(source)
    book = load_workbook(io.BytesIO(source.data), read_only=not whole, data_only=True)
    sheets = []
    for sheet in book.worksheets:
        hidden = set()
        if whole:
            _fill_down(sheet)
            hidden = {number for number, row in sheet.row_dimensions.items() if row.hidden}
        sheets.append(_Sheet(sheet.title, _rows(sheet, source.path), hidden))
    return sheets


def _must_be_whole(source: Source) -> bool:
    """Whether a workbook has merged cells or hidden rows. Raises ``UserError`` where it is too large."""
    with zipfile.ZipFile(io.BytesIO(source.data)) as packed:
        if sum(info.file_size for info in packed.infolist()) > LARGEST_UNPACKED:
            raise UserError("This workbook is too large when unpacked.", file=source.path)
        for name in packed.namelist():
            if name.startswith("xl/worksheets/"):
                text = packed.read(name)
                if b"<mergeCell " in text or b'hidden="1"' in text:
                    return True
    return False


def _joined(row: Row) -> str:
    return " | ".join(filter(None, row.cells))


def of_sheets(sheets: Sequence[tuple[str, list[Row]]]) -> Read:
    """The rows of a workbook's sheets: of one alone as they are, of several each under the sheet's name."""
    tables = {name: Table(tuple(rows)) for name, rows in sheets}
    keyed = [name for name, table in tables.items() if has_keys([table])]
    if len(keyed) < 2:
        if keyed:
            name = keyed[0]
        else:
            name = max(sheets, key=lambda sheet: len(sheet[1]))[0]
        aside = [
            SetAside(
                line=row.line, what="row", why=f"the sheet “{other}” has no keys", text=_joined(row)
            )
            for other, rows in sheets
            for row in rows
            if other != name
        ]
        return Read(
            rows=list(tables[name].rows),
            set_aside=tuple(aside),
            note=f"sheet “{name}” of {len(sheets)}",
        )
    blocks: list[Block] = []
    for name, table in tables.items():
        blocks += [Heading(1, name), table]
    return read_blocks(blocks, f"{len(sheets)} sheets")


def _rows(sheet: Any, file: str) -> list[Row]:
    rows = []
    # Each row as wide as it is: the size that a sheet states may be that of the whole grid.
    if hasattr(sheet, "reset_dimensions"):
        sheet.reset_dimensions()
    for number, cells in enumerate(sheet.iter_rows(values_only=True), 1):
        if len(cells) > MOST_COLUMNS and any(cells[MOST_COLUMNS:]):
            raise too_wide(file, number)
        texts = tuple(_text(cell) for cell in cells[:MOST_COLUMNS])
        if any(texts):
            rows.append(Row(line=number, cells=texts))
    return rows


def _fill_down(sheet: Any) -> None:
    """Gives every row of a merged cell what stands in it, as a person reads it: a menu beside its commands."""
    for area in list(sheet.merged_cells.ranges):
        if area.max_row == area.min_row:
            continue
        value = sheet.cell(area.min_row, area.min_col).value
        sheet.unmerge_cells(area.coord)
        for row in range(area.min_row + 1, area.max_row + 1):
            sheet.cell(row, area.min_col).value = value


def _text(value: object) -> str:
    if value is None:
        return ""
    if isinstance(value, float) and value.is_integer():
        return str(int(value))
    return str(value)
