"""Guesses what the columns of a listing hold, from their headings and from their cells."""

import re
from collections.abc import Mapping, Sequence

from msgspec import Struct

from olive_compass.core.apps.columns_by_cells import ByCells, looks_like_key
from olive_compass.core.apps.headings import WORDS
from olive_compass.counts import parse_count

#: How many rows are looked at where columns are told by their cells.
MOST_LOOKED_AT = 400

#: What a column can hold, in the order in which they are guessed.
FIELDS = ("keys", "id", "title", "menu", "modes", "kind", "does")

#: Headings of key columns that hold for one platform.
_PLATFORM_WORDS = {
    "pc": re.compile(r"\b(?:windows|win|pc|linux)\b"),
    "mac": re.compile(r"\b(?:mac|macos|os x|osx|apple)\b"),
}


def names_same_platform(one: str, other: str) -> bool:
    """Whether two headings are for the keys of one platform, by its name."""
    return any(words.search(one) and words.search(other) for words in _PLATFORM_WORDS.values())


def family(platform: str) -> str:
    """The platform whose keys an application's documents give for it: ``pc`` or ``mac``."""
    if platform == "mac":
        return "mac"
    return "pc"


#: What heads keys where it stands alone: “Primary” is no key in “Primary colour”.
ALONE = ("primary", "secondary", "alternate", "alternative")


class Columns(Struct, frozen=True):
    """Which column (counted from 0) holds which field; ``why`` says how each was recognised."""

    fields: dict[str, int]
    why: dict[str, str]


#: The most words of the heading of a column.
_MOST_WORDS = 7


def find_heading(rows: Sequence[Sequence[str]], named: Mapping[str, str]) -> int | None:
    """Which of the first rows has the headings of the columns, or None.

    It is the first one in which a person's named heading stands, or in which words for two
    fields stand; or the very first row, if it has the word for one field and no keys.
    """
    wanted = {plain_heading(given) for given in named.values() if not parse_count(given)}
    # Prefaces are short; further down a row of field names is a command about them.
    for n, row in enumerate(rows[:15]):
        head = [plain_heading(cell) for cell in row]
        if wanted & set(head):
            return n
        if _heads_columns(head, first=n == 0):
            return n
    return None


def _heads_columns(cells: Sequence[str], first: bool) -> bool:
    """Whether the cells of a row can be headings: words for two fields, or in the first row for all there are."""
    if any("+" in cell and looks_like_key(cell) for cell in cells):
        return False
    # A sentence heads no column, whatever words are in it.
    head = [cell if len(cell.split()) <= _MOST_WORDS else "" for cell in cells]
    told = [cell for cell in head if cell]
    # A row with a key in it is a command, even where its title is “Menu” or “Mode”.
    if any(looks_like_key(cell) for cell in told if not is_head(cell)):
        return False
    if len(by_heading(head, "pc")) > 1:
        return True
    return first and bool(told) and all(map(_is_word_of_a_field, told))


def _is_word_of_a_field(text: str) -> bool:
    return any(text in WORDS[field] for field in FIELDS)


def is_head(text: str) -> bool:
    """Whether a text is the heading of a column.

    >>> is_head("Shortcut"), is_head("The shortcuts of this sheet"), is_head("Save sheet")
    (True, True, False)
    """
    return any(_heading_score(field, plain_heading(text)) > 0 for field in FIELDS)


def is_heads(text: str) -> bool:
    """Whether a line is nothing but the headings of columns: ``Command Shortcut``."""
    words = text.casefold().split()
    known = sum(map(_is_word_of_a_field, words))
    # One word more may belong to a heading of two: “raccourci clavier”.
    return known > 1 and known + 1 >= len(words)


def guess_columns(
    head: Sequence[str], rows: Sequence[Sequence[str]], named: Mapping[str, str], platform: str
) -> Columns:
    """The columns of a listing.

    ``head`` are its headings (empty: it has none), ``rows`` its first rows; ``named`` gives
    the columns that a person named, by heading or by number from 1. Raises ``LookupError``
    where a named column does not exist, or no column of titles or menus can be told.
    """
    if not rows:
        raise LookupError("it has no rows")
    width = max(len(head), *map(len, rows))
    plain = [plain_heading(cell) for cell in head] + [""] * (width - len(head))
    fields: dict[str, int] = {}
    why: dict[str, str] = {}
    for field, given in named.items():
        fields[field], why[field] = named_column(given, plain, head or rows[0], width), "named"
    _take_by_heading(fields, why, head, by_heading(plain, platform))
    if "title" not in fields and "does" in fields and not _ends_with_commands(rows, fields):
        # Many handbooks name no command, only what the key does.
        fields["title"], why["title"] = fields.pop("does"), why.pop("does")
    body = [list(row) + [""] * (width - len(row)) for row in rows[:MOST_LOOKED_AT]]
    if "keys" in fields:
        _clear_further_keys(body, plain, fields)
    ByCells(body, width, fields, why).guess()
    if not {"title", "menu"} & fields.keys():
        raise LookupError("no column looks like the titles of commands")
    return Columns(fields, why)


def _take_by_heading(
    fields: dict[str, int], why: dict[str, str], head: Sequence[str], headed: Mapping[str, int]
) -> None:
    """Adds the columns that are recognised by their headings; what a person named comes before that."""
    for field, column in headed.items():
        if field not in fields and column not in fields.values():
            fields[field], why[field] = column, f"heading “{head[column].strip()}”"


def _ends_with_commands(rows: Sequence[Sequence[str]], fields: Mapping[str, int]) -> bool:
    """Whether the menus are paths that end with their command: such a path stands once, a menu that many commands
    are in often."""
    at = fields.get("menu")
    if at is None:
        return False
    menus = [row[at] for row in rows if at < len(row)]
    return len({*filter(None, menus)}) * 10 > len(menus) * 9 > 0


def _clear_further_keys(
    body: list[list[str]], head: Sequence[str], fields: Mapping[str, int]
) -> None:
    """Empties the columns of further keys that were not taken: they are no titles, and nothing else."""
    further = [n for n, text in enumerate(head) if _heading_score("keys", text) > 0]
    for row in body:
        for n in further:
            if n not in fields.values():
                row[n] = ""


def by_heading(head: list[str], platform: str) -> dict[str, int]:
    found: dict[str, int] = {}
    own = _PLATFORM_WORDS[family(platform)]
    (other,) = (words for words in _PLATFORM_WORDS.values() if words is not own)
    for field in FIELDS:
        # A column is one field: whichever comes first in the order of the fields has it.
        open_ = {n: text for n, text in enumerate(head) if text and n not in found.values()}
        scores = {n: _heading_score(field, text) for n, text in open_.items()}
        if field == "keys":
            for n, text in open_.items():
                scores[n] = _for_platform(scores[n], text, platform, own, other)
        best = max(scores, key=lambda n: (scores[n], -n), default=-1)
        if scores.get(best, 0) > 0:
            found[field] = best
    beside = None
    if "keys" in found:
        beside = _keys_elsewhere(head, found, own, other)
    if beside is not None:
        found["keys_elsewhere"] = beside
    return found


def _for_platform(
    score: int, heading: str, platform: str, own: re.Pattern[str], other: re.Pattern[str]
) -> int:
    """The score of a heading as that of the keys of one platform, by the words for it and for the other."""
    if own.search(heading):
        # A platform's own name says more than the family's: Linux beside Windows.
        return max(score, 0) + 20 + 200 * (platform in heading)
    if other.search(heading):
        # The keys of the other platform are better than none, and worse than any of our own.
        return max(score - 10, 0) + 1
    return score


def _keys_elsewhere(
    head: list[str], found: dict[str, int], own: re.Pattern[str], other: re.Pattern[str]
) -> int | None:
    """The column with the keys of the other platform, where the one of the keys is not it: the first that
    names that platform, or that names none where the column of the keys names its own."""
    keys = head[found["keys"]]
    if other.search(keys) and not own.search(keys):
        return None
    open_ = [n for n, heading in enumerate(head) if heading and n not in found.values()]
    fitting = [n for n in open_ if other.search(head[n])]
    if own.search(keys):
        fitting += [n for n in open_ if head[n] in WORDS["keys"]]
    return next(iter(fitting), None)


def _heading_score(field: str, heading: str) -> int:
    words = WORDS[field]
    if field == "keys" and heading in ALONE:
        return 5
    if heading in words:
        return 100 - min(words.index(heading), 40)
    parts = re.split(r"[^\w]+", heading)
    hits = [words.index(part) for part in parts if part in words]
    if hits:
        return 40 - min(min(hits), 30)
    return 0


def named_column(given: str, head: list[str], row: Sequence[str], width: int) -> int:
    if 1 <= parse_count(given) <= width:
        return parse_count(given) - 1
    if plain_heading(given) in head:
        return head.index(plain_heading(given))
    headings = ", ".join(f"“{cell.strip()}”" for cell in row if cell.strip())
    raise LookupError(f"there is no column “{given}”; the first row has {headings}")


def plain_heading(text: str) -> str:
    return " ".join(text.replace("\ufeff", "").split()).casefold().strip(" :*")
