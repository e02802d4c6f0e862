"""A row of a listing, before anybody has said what its cells are."""

from collections.abc import Iterable
from typing import Literal

from msgspec import Struct

#: Whether rows with one cell are headings.
Groups = Literal["guess", "yes", "no"]

#: What headings are.
Headings = Literal["guess", "menu", "mode"]


class Row(Struct, frozen=True, kw_only=True):
    """A row as the file has it: where it stands, its cells, and whether it is a heading (None: the
    file does not say). ``is_exact``: every blank of its cells counts, as in the names of a shortcuts file."""

    line: int
    cells: tuple[str, ...]
    heading: bool | None = None
    is_exact: bool = False

    def cell(self, column: int) -> str:
        """The text in a column, ``""`` where the row is shorter."""
        if 0 <= column < len(self.cells):
            return self.cells[column]
        return ""


def filled_cells(rows: Iterable[Row], column: int) -> list[str]:
    """The texts that stand in a column, without the empty ones."""
    return [cell for row in rows if (cell := row.cell(column))]


def widest(rows: Iterable[Row]) -> int:
    """How many cells the longest row has, 0 where there is no row."""
    return max((len(row.cells) for row in rows), default=0)
