"""The tables of a printed page whose lines are drawn."""

from collections.abc import Iterable, Iterator, Sequence
from itertools import chain
from typing import Any

from olive_compass.core.apps.listing_row import Row
from olive_compass.core.keys.spellings import MODIFIER_SPELLINGS
from olive_compass.desk.importing.blocks import plain
from olive_compass.desk.importing.line_pairs import is_keys
from olive_compass.desk.importing.paper_columns import JOINERS
from olive_compass.desk.importing.side_by_side import Table

#: A part of a page: left, top, right, bottom.
Area = tuple[float, float, float, float]

_LIGATURES = str.maketrans({"ﬁ": "fi", "ﬂ": "fl", "ﬀ": "ff", "ﬃ": "ffi", "ﬄ": "ffl"})


def ruled_tables(page: Any, before: int) -> Iterator[tuple[Area, Table]]:
    """The tables between lines that are drawn, with the areas that they take."""
    for table in page.find_tables():
        texts = [tuple(clean(cell or "") for cell in row) for row in table.extract()]
        if len(texts) > 1 and max(map(len, texts)) > 1 and _has_titles(texts):
            lines = tuple(Row(line=before + n, cells=cells) for n, cells in enumerate(texts, 1))
            yield table.bbox, Table(_filled_down(lines))


def _has_titles(rows: Iterable[Sequence[str]]) -> bool:
    """Whether any cell is more than keys: the frames around the keys of a card are no table."""
    return not all(map(_is_of_keys, chain.from_iterable(rows)))


def _is_of_keys(cell: str) -> bool:
    """Whether a cell is empty, keys, a modifier, or what joins them."""
    return (
        not cell
        or cell in JOINERS
        or all(part.casefold() in MODIFIER_SPELLINGS for part in cell.split())
        or is_keys(cell)
    )


def _goes_without_first(cells: tuple[str, ...]) -> bool:
    """Whether the first cell of a row is empty, and another is not."""
    return bool(cells) and not cells[0] and any(cells)


def _filled_down(rows: tuple[Row, ...]) -> tuple[Row, ...]:
    """Rows in which an empty first cell goes on saying what stands above it."""
    found: list[Row] = []
    for row in rows:
        cells = row.cells
        if found and _goes_without_first(cells):
            cells = (found[-1].cells[0], *cells[1:])
        found.append(Row(line=row.line, cells=cells, heading=row.heading))
    return tuple(found)


def clean(text: str) -> str:
    """Text without ligatures; a hyphen at the end of a line joins what it parted."""
    text = text.translate(_LIGATURES)
    return plain(text.replace("-\n", "").replace("\u00ad", ""))
