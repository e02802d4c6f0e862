"""Capital letters as keys: in some lists ``F`` is Shift and F, where ``f`` is the plain key."""

import re
from collections.abc import Iterable

from olive_compass.core.keys.spellings import KEY_SPELLINGS, MODIFIER_SPELLINGS

#: Modifiers with which a capital letter is the same key as the small one.
_SAME_EITHER_WAY = {"Ctrl", "Meta", "Shift", "Main"}

#: What stands between the keys of a cell is none of these.
_PIECE = re.compile(r"[^\s,;/|()]+")


def capital_is_shift(text: str) -> str:
    """A stroke with a capital letter as Shift and that letter.

    >>> capital_is_shift("F"), capital_is_shift("Alt+F"), capital_is_shift("Ctrl+F"), capital_is_shift("F1")
    ('Shift+F', 'Alt+Shift+F', 'Ctrl+F', 'F1')
    """
    held, plus, key = text.rpartition("+")
    is_capital = len(key) == 1 and key.isalpha() and key.isupper()
    if not is_capital or set(held.split("+")) & _SAME_EITHER_WAY:
        return text
    return f"{held}{plus}Shift+{key}"


def capitals_are_shift(cell: str) -> str:
    """A cell of keys with each capital letter as Shift and that letter.

    >>> capitals_are_shift("g or G, Alt+X"), capitals_are_shift("Z Z / Ctrl+C")
    ('g or Shift+G, Alt+Shift+X', 'Shift+Z Shift+Z / Ctrl+C')
    """
    return _PIECE.sub(lambda found: capital_is_shift(found[0]), cell)


def typed_capitals(cell: str, longest: int) -> str:
    """A cell of keys in which letters that are typed one after another stand by themselves, where one is a capital.

    >>> typed_capitals("dT", 2), typed_capitals("Up, gg", 2), typed_capitals("dT", 1)
    ('d T', 'Up, gg', 'dT')
    """
    return _PIECE.sub(lambda found: _apart(found[0], longest), cell)


def _apart(piece: str, longest: int) -> str:
    """The letters of a piece, each by itself, where they can only be typed."""
    are_letters = piece.isalpha() and 1 < len(piece) <= longest
    known = piece.lower() in KEY_SPELLINGS or piece.lower() in MODIFIER_SPELLINGS
    if not are_letters or known or piece.islower():
        return piece
    return " ".join(piece)


def has_both_cases(cells: Iterable[str]) -> bool:
    """Whether a letter is a key by itself both small and as a capital, in cells that never say Shift and a letter.

    >>> has_both_cases(["f", "F or Space"]), has_both_cases(["f", "Shift+F", "F"]), has_both_cases(["f", "g"])
    (True, False, False)
    """
    seen: set[str] = set()
    for cell in cells:
        if re.search(r"\bshift\b\W*[A-Za-z]\b", cell, re.IGNORECASE):
            return False
        seen.update(piece for piece in _PIECE.findall(cell) if len(piece) == 1)
    return any(letter.isupper() and letter.lower() in seen for letter in seen)
