"""Headings in two rows: “Windows” over “Key” and “Alternate key”."""

from collections.abc import Sequence

from olive_compass.core.apps.columns import find_heading, is_head
from olive_compass.core.apps.columns_by_cells import looks_like_key
from olive_compass.core.apps.listing_row import Row
from olive_compass.structs import replace


def joined_headings(rows: Sequence[Row]) -> list[Row]:
    """The rows, with a heading of two rows joined into one: the words of both rows for each column.

    >>> above, below = ("Command", "Windows", ""), ("", "Key", "Alternate key")
    >>> joined_headings([Row(line=1, cells=above), Row(line=2, cells=below)])[0].cells
    ('Command', 'Windows Key', 'Windows Alternate key')
    """
    found = list(rows)
    at = find_heading([row.cells for row in found], {})
    if at is None or at + 1 >= len(found):
        return found
    above, below = found[at].cells, found[at + 1].cells
    width = max(len(above), len(below))
    upper, lower = ([*cells, *[""] * (width - len(cells))] for cells in (above, below))
    if not _goes_on_below(upper, lower):
        return found
    cells = tuple(_joined(upper, lower, n) for n in range(width))
    found[at : at + 2] = [replace(found[at], cells=cells)]
    return found


def _goes_on_below(upper: Sequence[str], lower: Sequence[str]) -> bool:
    """Whether the row below holds further headings, and a heading above it covers several columns."""
    if len({*filter(None, upper)}) < 2:
        # The title of the whole stands alone above them.
        return False
    new = [n for n, text in enumerate(lower) if text and text != upper[n]]
    if len(new) < 2 or not all(is_head(lower[n]) for n in new):
        return False
    if any("+" in lower[n] and looks_like_key(lower[n]) for n in new):
        return False
    # A merged cell stands in its first column alone, or in each of them.
    return any(n > 0 and upper[n] in ("", upper[n - 1]) for n in new)


def _joined(upper: Sequence[str], lower: Sequence[str], n: int) -> str:
    """The heading of a column."""
    if not lower[n] or lower[n] == upper[n]:
        return upper[n]
    above = next((upper[m] for m in range(n, -1, -1) if upper[m]), "")
    return f"{above} {lower[n]}".strip()
