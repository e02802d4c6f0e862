"""A map of the keyboard as a table: a key in each row, modifiers in each column, and commands in the cells. It is read as
the list that it holds."""

import re
from collections.abc import Iterator, Sequence

from olive_compass.core.apps.columns import plain_heading
from olive_compass.core.apps.headings import WORDS
from olive_compass.core.apps.key_columns import MODIFIERS_NAMED, TICKS
from olive_compass.core.apps.listing_result import SetAside
from olive_compass.core.apps.listing_row import Row
from olive_compass.core.keys.cells import NO_KEY, read_cell

#: What heads the column of the keys alone.
_ALONE = frozenset(
    [
        "",
        "alone",
        "plain",
        "none",
        "no modifier",
        "unmodified",
        "key alone",
        "allein",
        "ohne",
        "seul",
        "solo",
    ]
)

#: How far down the headings may stand, and how many of a hundred rows below them begin with a key.
_MOST_BEFORE, _SHARE = 15, 50


def as_list(rows: Sequence[Row]) -> tuple[list[Row], list[SetAside]]:
    """The rows of a map as commands with their keys, one cell a row, and the remarks among them; other rows as they are."""
    at = map_heading(rows)
    if at is None:
        return list(rows), []
    head = rows[at]
    held = [_modifiers(cell) or "" for cell in head.cells]
    found = [*rows[:at], Row(line=head.line, cells=("Command", "Key"), heading=True)]
    aside = []
    for row in rows[at + 1 :]:
        key = _key(row.cell(0))
        if key:
            found += _commands(row, key, held)
        elif any(row.cells):
            aside.append(_remark(row))
    return found, aside


def map_heading(rows: Sequence[Row]) -> int | None:
    """Which row heads a map of the keyboard; None: the rows are no map."""
    at = next((n for n, row in enumerate(rows[:_MOST_BEFORE]) if _heads_map(row)), None)
    if at is None:
        return None
    body = rows[at + 1 :]
    keyed = [row for row in body if _key(row.cell(0))]
    if not keyed or len(keyed) * 100 < _SHARE * len(body) or _is_ticked(keyed):
        return None
    return at


def _is_ticked(rows: Sequence[Row]) -> bool:
    """Whether the cells are ticks: then each row is a command with the modifiers of its key."""
    cells = [cell.strip().casefold() for row in rows for cell in row.cells[1:] if cell.strip()]
    return sum(cell in TICKS for cell in cells) * 2 > len(cells)


def _remark(row: Row) -> SetAside:
    """A row that begins with no key: it is reported with all that it holds."""
    text = " | ".join(filter(None, row.cells))
    return SetAside(line=row.line, what="row", why="it begins with no key", text=text)


def _commands(row: Row, key: str, held: Sequence[str]) -> Iterator[Row]:
    """The commands on a key, one for each column of modifiers."""
    for modifiers, cell in zip(held[1:], row.cells[1:], strict=False):
        if cell.strip().lower() not in NO_KEY:
            yield Row(line=row.line, cells=(cell, f"{modifiers}{key}"))


def _heads_map(row: Row) -> bool:
    """Whether a row heads a map: the word for a key, or nothing, and then modifiers only, two columns at least."""
    first, *others = row.cells or ("",)
    if plain_heading(first) not in ("", *WORDS["keys"]):
        return False
    while others and not others[-1].strip():
        others.pop()
    named = [_modifiers(each) for each in others]
    return len(named) > 1 and None not in named and len(set(named)) == len(named) and any(named)


def _modifiers(text: str) -> str | None:
    """The modifiers of a heading as they stand before a key (``Ctrl+Shift+``), ``""`` for the key alone; None: it is
    something else."""
    plain = plain_heading(text)
    if plain in _ALONE:
        return ""
    words = re.findall(r"[^\W_]+|[^\w\s+-]", plain)
    if not words or not MODIFIERS_NAMED.keys() >= set(words):
        return None
    return "".join(f"{MODIFIERS_NAMED[word]}+" for word in words)


def _key(cell: str) -> str:
    """The key that a row begins with, ``""`` where it begins with something else."""
    triggers = read_cell(cell.strip()).triggers if cell.strip() else ()
    if (
        len(triggers) == 1
        and len(triggers[0].strokes) == 1
        and not triggers[0].strokes[0].modifiers
    ):
        return str(triggers[0])
    return ""
