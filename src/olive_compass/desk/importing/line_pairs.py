"""A title and its keys in one line, however they stand there: ``Save: Ctrl+S``, ``Ctrl+S – Save``, ``Save (F2)``."""

import re
from collections.abc import Sequence
from functools import lru_cache

from olive_compass.core.keys.cells import NO_KEY, is_sentence, read_cell
from olive_compass.core.keys.spellings import KEY_SPELLINGS
from olive_compass.core.keys.triggers import Run
from olive_compass.desk.importing.cutting import before_keys, cut
from olive_compass.desk.importing.list_items import BULLET

_SIGNS = re.compile(r"\s*(?::|(?<!=)=|–|—|->|→)\s+|\s+-\s+")
#: A lone sign right after a word, as in “ODD(1)”, is no key of it.
_END = re.compile(r"^(.*\S)(?:\s+[(\[]|[(\[](?=[^()\[\]]{2}))([^()\[\]]+)[)\]]\s*[.;,]?$")
_IN_BRACKETS = re.compile(r"[(\[]([^()\[\]]{2,})[)\]]")

#: The signs for the minus key, where something else shows that they are a key.
MINUS = ("-", "\N{MINUS SIGN}", "–")
#: How it is called where it is a key.
MINUS_KEY = "minus"

#: Keys without a blank in them, and the title after a sign. A hash begins a remark.
_LED = re.compile(r"(?!#)(\S+)\s+(?:[-–—:=]|->|→)\s+(\S.*)")

#: How many words of a line that is keys may be none.
_MOST_OTHER_WORDS = 6

#: The most words of the keys that begin a line.
_MOST_WORDS = 6


# A line is looked at again wherever the lines around it decide.
@lru_cache(maxsize=4096)
def pair(text: str) -> tuple[str, str] | None:
    """The title and the keys of a line; None where no part of it can only be keys.

    >>> pair("Save sheet: Ctrl+S"), pair("Ctrl+S – Save sheet"), pair("Save sheet (Ctrl+S)")
    (('Save sheet', 'Ctrl+S'), ('Save sheet', 'Ctrl+S'), ('Save sheet', 'Ctrl+S'))
    >>> pair("Ctrl+F - Next page (PageDown)"), pair("- - Zoom out")
    (('Next page', 'Ctrl+F or PageDown'), ('Zoom out', 'minus'))
    >>> pair("Press the button: it saves")
    """
    text = text.strip()
    if _led_by_keys(text) is None:
        text = BULLET.sub("", text)
    if (" " in text and is_keys(text)) or has_several(text):
        return None
    if (found := _END.match(text)) and is_keys(found[2]) and not is_keys(_titled(found[1])):
        if led := _led_by_keys(found[1]):
            # The keys in brackets are another way to the same.
            return led[0], f"{led[1]} or {found[2].strip()}"
        return _titled(found[1]), found[2].strip()
    return (
        _led_by_keys(text) or _at_a_sign(text) or _after_the_title(text) or _before_the_title(text)
    )


def _led_by_keys(text: str) -> tuple[str, str] | None:
    """The title and the keys of a line that begins with what can only be keys, and a sign: ``* - Toggle the grid``."""
    found = _LED.match(text)
    if found is None or is_keys(_titled(found[2])):
        return None
    keys, title = found[1], _titled(found[2])
    if keys in MINUS:
        return title, MINUS_KEY
    # A word in capitals among others is no word of a sentence.
    as_name = keys.isupper() and not title.isupper()
    if is_keys(keys, alone=False) or (is_keys(keys) and (len(keys) == 1 or as_name)):
        return title, keys
    return None


def _at_a_sign(text: str) -> tuple[str, str] | None:
    """The title and the keys of a line that wide blanks or a sign part, as ``Save sheet: Ctrl+S``."""
    cells = cut(text)
    if len(cells) == 2 and (known := _one_of(*cells)):
        return known
    for sign in _SIGNS.finditer(text):
        if known := _one_of(text[: sign.start()], text[sign.end() :]):
            return known
    return None


def _after_the_title(text: str) -> tuple[str, str] | None:
    """Those of a line whose last words can only be keys."""
    ended = before_keys(text)
    if _is_title_before_keys(ended):
        return _titled(ended[0]), ended[1]
    return None


def _is_title_before_keys(ended: tuple[str, ...]) -> bool:
    return len(ended) == 2 and is_keys(ended[1]) and not is_keys(_titled(ended[0]))


def _before_the_title(text: str) -> tuple[str, str] | None:
    """Those of a line whose first words can only be keys."""
    words = text.split()
    for at in range(min(_MOST_WORDS, len(words) - 1), 0, -1):
        keys, title = " ".join(words[:at]), " ".join(words[at:])
        if is_keys(keys, alone=False) and not is_keys(_titled(title)):
            return _titled(title), keys
    return None


def in_two_cells(cells: Sequence[str]) -> tuple[str, str] | None:
    """The title and the keys that stand in two cells, in this order; None: the cells are something else.

    >>> in_two_cells(["Save sheet", "Ctrl+S"]), in_two_cells(["Ctrl+S", "Save sheet"])
    (('Save sheet', 'Ctrl+S'), None)
    """
    if _is_title_and_keys(cells):
        return cells[0], cells[1]
    return None


def _is_title_and_keys(cells: Sequence[str]) -> bool:
    return len(cells) == 2 and is_keys(cells[1]) and not is_keys(cells[0])


def has_several(text: str) -> bool:
    """Whether a sentence names several keys in brackets: which of its words each belongs to, nobody can tell."""
    return sum(map(is_keys, _IN_BRACKETS.findall(text))) > 1


def _one_of(one: str, other: str) -> tuple[str, str] | None:
    """The two sides of a sign, where one of them is keys and the other is none."""
    first, second = is_keys(one), is_keys(other)
    if first == second or not (one.strip() and other.strip()):
        return None
    if first:
        return (_titled(other), one.strip())
    return (_titled(one), other.strip().rstrip("."))


def _titled(text: str) -> str:
    """A title without the signs around it."""
    return text.strip().strip(":–—-*•").strip()


@lru_cache(maxsize=4096)
def is_keys(text: str, alone: bool = True) -> bool:
    """Whether a text can only be keys; ``alone``: a letter or a name of one word is enough."""
    text = text.strip()
    if not text or text.lower() in NO_KEY or len(text) > 80 or is_sentence(text, _MOST_OTHER_WORDS):
        return False
    cell = read_cell(text)
    if not cell.triggers or cell.problem:
        return False
    return alone or (any(map(_begins_plainly, cell.triggers)) and not _begins_a_sentence(text))


def _begins_plainly(run: Run) -> bool:
    """Whether a trigger begins with a modifier, or with a key that has a name."""
    first = run.strokes[0]
    return bool(first.modifiers) or len(first.key) > 1


def _begins_a_sentence(text: str) -> bool:
    """Whether the first word may be a plain one: “Up” and “Home” begin sentences as well; a function key does not."""
    word = text.split()[0].lower()
    return "+" not in text and "-" not in text and word.isalpha() and word in KEY_SPELLINGS
