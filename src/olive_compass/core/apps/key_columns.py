"""Keys that stand in several columns of a listing, as people lay out their own: the modifiers beside the key, a column
to tick for each modifier, a second shortcut in a column of its own. They are put into the one column of the keys."""

import re
from collections.abc import Iterable, Mapping, Sequence
from itertools import chain

from msgspec import Struct

from olive_compass.core.apps.columns import (
    ALONE,
    MOST_LOOKED_AT,
    by_heading,
    named_column,
    names_same_platform,
    plain_heading,
)
from olive_compass.core.apps.columns_by_cells import looks_like_key
from olive_compass.core.apps.headings import WORDS
from olive_compass.core.apps.listing_row import Row, filled_cells
from olive_compass.core.keys.cells import NO_KEY
from olive_compass.core.keys.names import MODIFIER_SIGNS
from olive_compass.core.keys.spellings import MODIFIER_SPELLINGS
from olive_compass.core.keys.written_cells import JOIN
from olive_compass.structs import replace

#: Headings of a column with the modifiers of the key beside it.
_MODIFIERS = frozenset(
    [
        "modifier",
        "modifiers",
        "mod",
        "mods",
        "modifikator",
        "modifikatoren",
        "zusatztaste",
        "zusatztasten",
        "modificateur",
        "modificateurs",
        "modificador",
        "modificadores",
        "modificatore",
        "modificatori",
    ]
)

#: The modifiers as people name them, by word or sign: what heads a column to tick.
MODIFIERS_NAMED = {**MODIFIER_SPELLINGS, **MODIFIER_SIGNS}

#: What a ticked cell holds, and a cell that is not ticked.
TICKS = frozenset(
    ["x", "✓", "✔", "☑", "•", "●", "*", "+", "1", "y", "yes", "true", "on", "ja", "oui", "sí", "si"]
)
_BLANKS = frozenset(["0", "n", "no", "-", "–", "false", "off", "nein", "non", "☐", "○"])

#: Words in a heading that set its keys apart from those of another column: one platform's, those of before, a person's own.
_APART = (
    re.compile(r"\b(?:windows|win|pc|linux|mac|macos|os x|osx|apple)\b"),
    re.compile(r"\b(?:default|factory|standard|old|previous)\b"),
    re.compile(r"\b(?:current|custom|user|own|my|new)\b"),
)

#: How many of a hundred cells of a column with further keys read as keys.
_SHARE = 60


class Gathered(Struct, frozen=True, kw_only=True):
    """A listing with its keys in one column; ``note`` says which columns they came from, ``""``: there were no others."""

    head: tuple[str, ...]
    rows: list[Row]
    note: str = ""


class _Parts(Struct, frozen=True, kw_only=True):
    """Which columns hold parts of the keys: the keys themselves, ticks by modifier, modifiers, further keys."""

    keys: int
    ticks: Mapping[int, str]
    beside: Sequence[int]
    further: Sequence[int]

    @property
    def others(self) -> tuple[int, ...]:
        """All but the column of the keys, from the left."""
        return tuple(sorted((*self.ticks, *self.beside, *self.further)))


def gather_keys(
    head: tuple[str, ...], rows: list[Row], named: Mapping[str, str], platform: str
) -> Gathered:
    """The rows with modifiers and further keys put to the keys. ``named`` are the columns that a person named."""
    body = [row for row in rows if not row.heading]
    each = _all_parts(head, body[:MOST_LOOKED_AT], named, platform)
    others = sorted(chain.from_iterable(parts.others for parts in each))
    if not others:
        return Gathered(head=head, rows=rows)
    made = rows
    for parts in each:
        made = [row if row.heading else _gathered(row, parts) for row in made]
    names = ", ".join(f"“{head[n].strip()}”" for n in others)
    shown = tuple("" if n in others else cell for n, cell in enumerate(head))
    return Gathered(head=shown, rows=made, note=f", with {names}")


def _all_parts(
    head: Sequence[str], body: Sequence[Row], named: Mapping[str, str], platform: str
) -> list[_Parts]:
    """What the columns hold; where each of two platforms has its keys, for each of them."""
    plain = list(map(plain_heading, head))
    found = by_heading(plain, platform)
    if "keys" in named or "keys_elsewhere" not in found:
        parts = _parts(head, body, named, platform)
        return [parts] if parts else []
    return [
        _Parts(keys=keys, ticks={}, beside=(), further=_of_one_platform(body, plain, keys))
        for keys in (found["keys"], found["keys_elsewhere"])
    ]


def _of_one_platform(body: Sequence[Row], plain: Sequence[str], keys: int) -> list[int]:
    """The columns with more keys for the platform that the heading of a column of keys names."""
    return [
        n
        for n, text in enumerate(plain)
        if n != keys and names_same_platform(text, plain[keys]) and _is_further(body, plain, n)
    ]


def _parts(
    head: Sequence[str], body: Sequence[Row], named: Mapping[str, str], platform: str
) -> _Parts | None:
    """What the columns hold that nobody named for something else; None where no column has the keys."""
    plain = list(map(plain_heading, head))
    keys = _column_of_keys(plain, head, named, platform)
    if keys is None:
        return None
    taken = {keys, *_named(plain, head, named)}
    open_ = [n for n, text in enumerate(plain) if text and n not in taken]
    further: list[int] = []
    # Who names the column of the keys means that one alone.
    if "keys" not in named:
        further = [
            n for n in open_ if _is_further(body, plain, n) and not _is_apart(plain, keys, n)
        ]
    return _Parts(
        keys=keys,
        ticks={n: MODIFIERS_NAMED[plain[n]] for n in open_ if _is_ticked(body, plain, n)},
        beside=[n for n in open_ if plain[n] in _MODIFIERS],
        further=further,
    )


def _column_of_keys(
    plain: list[str], head: Sequence[str], named: Mapping[str, str], platform: str
) -> int | None:
    if "keys" in named:
        return next(iter(_named(plain, head, {"keys": named["keys"]})), None)
    found = by_heading(plain, platform)
    # Where the keys of two platforms have a column each, it is known which is whose.
    if "keys_elsewhere" in found:
        return None
    return found.get("keys")


def _named(plain: list[str], head: Sequence[str], named: Mapping[str, str]) -> set[int]:
    """The columns that a person named for something; missing ones are refused later."""
    found = set()
    for given in named.values():
        try:
            found.add(named_column(given, plain, head, len(head)))
        except LookupError:
            continue
    return found


def _is_ticked(rows: Sequence[Row], plain: Sequence[str], column: int) -> bool:
    """Whether a column is one of ticks for the modifier that it is called."""
    name = plain[column]
    if name not in MODIFIERS_NAMED:
        return False
    cells = {cell.strip().casefold() for cell in filled_cells(rows, column)}
    return bool(cells & (TICKS | {name})) and cells <= TICKS | _BLANKS | {name}


def _is_further(rows: Sequence[Row], plain: Sequence[str], column: int) -> bool:
    """Whether a column holds more keys of the same commands, by its heading and by its cells."""
    if not _names_keys(plain[column]):
        return False
    cells = [cell for cell in filled_cells(rows, column) if cell.strip().lower() not in NO_KEY]
    return bool(cells) and sum(map(looks_like_key, cells)) * 100 >= _SHARE * len(cells)


def _names_keys(heading: str) -> bool:
    words = re.split(r"[^\w]+", heading)
    return heading in ALONE or any(word in WORDS["keys"] for word in words)


def own_keys_column(unused: Iterable[tuple[str, str]]) -> str:
    """The heading of a person's own keys among the columns that nothing was read from, each with a sample of its cells;
    ``""``: none.

    >>> own_keys_column([("Since", "1.0"), ("My shortcut", "F5")]), own_keys_column([("Key code", "0x41")])
    ('My shortcut', '')
    """
    for heading, sample in unused:
        if _names_keys(plain_heading(heading)) and looks_like_key(sample):
            return heading
    return ""


def _is_apart(plain: Sequence[str], keys: int, column: int) -> bool:
    """Whether a column has keys of which its heading says that they are not those of the first column."""
    return any(words.search(plain[column]) and not words.search(plain[keys]) for words in _APART)


def _gathered(row: Row, parts: _Parts) -> Row:
    """A row with its keys in their column, and the others empty."""
    key = row.cell(parts.keys).strip()
    held = _held(row, parts)
    if held and not _is_none(key):
        key = "+".join((*held, key))
    further = [row.cell(n).strip() for n in parts.further]
    # “n/a” in the column of further keys says that there are none.
    every = [each for each in (key, *further) if not _is_none(each)]
    cells = list(row.cells) + [""] * (parts.keys + 1 - len(row.cells))
    for n in parts.others:
        if n < len(cells):
            cells[n] = ""
    cells[parts.keys] = JOIN.join(every) or key
    return replace(row, cells=tuple(cells))


def _is_none(cell: str) -> bool:
    """Whether a cell says that there is no key, or nothing at all."""
    return cell.lower() in NO_KEY


def _held(row: Row, parts: _Parts) -> list[str]:
    """The modifiers of a row: the ticked ones, and the ones in a column of their own."""
    held = []
    for n, name in parts.ticks.items():
        if row.cell(n).strip().casefold() in TICKS | {name.casefold()}:
            held.append(name)
    for n in parts.beside:
        held += _modifiers(row.cell(n))
    return held


def _modifiers(cell: str) -> list[str]:
    """The modifiers that a cell names (``Ctrl + Shift``), as it names them; none where it says that there are none."""
    if cell.strip().lower() in NO_KEY:
        return []
    return [word for word in re.split(r"[+,&/\s]+", cell) if word]
