"""Tables of a document, and lists that stand side by side in one."""

from collections.abc import Sequence

from msgspec import Struct

from olive_compass.core.apps.listing_row import Row, filled_cells, widest
from olive_compass.core.keys.cells import NO_KEY, names_keys


class Table(Struct, frozen=True):
    """Rows of cells; a cell over several rows stands in each of them, one over several columns in the first."""

    rows: tuple[Row, ...]


def parallel(table: Table) -> list[Table]:
    """A table as it is, or the two and more that stand side by side in it: the same columns come again."""
    rows = [row for row in table.rows if any(row.cells)]
    width = widest(rows)
    for parts in (3, 2):
        size, rest = divmod(width, parts)
        if size >= 2 and not rest and _repeats(rows, size, parts):
            return [
                Table(
                    tuple(
                        Row(line=row.line, cells=cells, heading=row.heading)
                        for row in rows
                        if any(cells := row.cells[n * size : (n + 1) * size])
                    )
                )
                for n in range(parts)
            ]
    return [table]


def _repeats(rows: Sequence[Row], size: int, parts: int) -> bool:
    """Whether every ``size`` columns are alike: by their headings, or by where the keys stand."""
    first = rows[0].cells
    heads = [tuple(first[n * size : (n + 1) * size]) for n in range(parts)]
    if _are_repeated(heads):
        return True
    shares = []
    for column in range(size * parts):
        cells = filled_cells(rows[:200], column)
        keys = sum(map(is_key, cells))
        shares.append(bool(cells) and keys * 2 > len(cells))
    groups = [tuple(shares[n * size : (n + 1) * size]) for n in range(parts)]
    return len(set(groups)) == 1 and sum(groups[0]) == 1


def _are_repeated(heads: list[tuple[str, ...]]) -> bool:
    return len(set(heads)) == 1 and all(heads[0]) and not any(map(is_key, heads[0]))


def is_key(cell: str) -> bool:
    text = cell.strip()
    return len(text) > 1 and text.lower() not in NO_KEY and names_keys(text)
