"""How an application writes its keys: its own words for modifiers and keys, learnt and kept.

A word may have what joins it to the rest (``C-`` for ``Ctrl+``). ``a`` for ``A`` says that letters are
in lower case, ``A`` for ``Shift+A`` that a capital letter is Shift and that letter.
"""

import re
from collections.abc import Mapping
from types import MappingProxyType

from msgspec import Struct

from olive_compass.core.keys.letter_case import capitals_are_shift
from olive_compass.core.keys.names import MODIFIER_RANK, NAMED_KEYS
from olive_compass.core.keys.triggers import Run, Stroke
from olive_compass.structs import replace

#: What stands before the application's own word for a key that nobody else knows (``kinds/own.py``).
OWN = "own:"

#: The words that say that letters are written in lower case.
LOWER = ("a", "A")

#: The words that say that a capital letter is Shift and that letter.
CAPITAL = ("A", "Shift+A")

#: What a word stands for that needs no joiner after it.
_JOINED = frozenset(f"{name}+" for name in MODIFIER_RANK)

#: The words that are about all letters, and stand for no key.
OF_LETTERS = (LOWER[0], CAPITAL[0])


class Spelling(Struct, frozen=True):
    """The application's words, each with ours."""

    words: Mapping[str, str] = MappingProxyType({})

    def read(self, text: str) -> str:
        """A cell as we would write it.

        >>> Spelling({"C-": "Ctrl+", "Ent": "Enter"}).read("C-M or C-Ent")
        'Ctrl+M or Ctrl+Enter'
        """
        known = {word: ours for word, ours in self.words.items() if word not in OF_LETTERS}
        if known and any(word in text for word in known):
            text = re.sub(_pattern(known), lambda found: self.words[found[0]], text)
        if self.has_capitals:
            return capitals_are_shift(text)
        return text

    def _but_capitals(self) -> dict[str, str]:
        return {word: ours for word, ours in self.words.items() if word != CAPITAL[0]}

    @property
    def has_capitals(self) -> bool:
        """Whether a capital letter is Shift and that letter."""
        return self.words.get(CAPITAL[0]) == CAPITAL[1]

    def write(self, run: Run) -> str:
        """A trigger as the application writes it, with its modifiers in the order of its words.

        >>> from olive_compass.core.keys.reading import read_trigger
        >>> Spelling({"C-": "Ctrl+", "Ent": "Enter", "a": "A"}).write(read_trigger("Ctrl+Enter Ctrl+B"))
        'C-Ent C-b'
        >>> Spelling({"M-": "Alt+", "A": "Shift+A"}).write(read_trigger("Alt+Shift+G G Ctrl+C"))
        'M-G g Ctrl+C'
        """
        theirs = {ours: word for word, ours in reversed(list(self.words.items()))}
        return " ".join(self._stroke(each, theirs) for each in run.strokes)

    def _letter(self, stroke: Stroke) -> str:
        """A letter that itself says whether Shift is held."""
        plain = replace(
            stroke, modifiers=tuple(name for name in stroke.modifiers if name != "Shift")
        )
        text = Spelling(self._but_capitals()).write(Run((plain,)))
        if "Shift" in stroke.modifiers:
            return text[:-1] + text[-1].upper()
        return text[:-1] + text[-1].lower()

    def _stroke(self, stroke: Stroke, theirs: Mapping[str, str]) -> str:
        if self.has_capitals and len(stroke.key) == 1 and not _is_either_way(stroke):
            return self._letter(stroke)
        if stroke.by_place or stroke.key in _plain_words(self.words):
            return str(stroke)
        held = self._in_their_order(stroke.modifiers)
        parts = [theirs.get(f"{name}+") or f"{theirs.get(name, name)}+" for name in held]
        key = theirs.get(stroke.key, stroke.key.removeprefix(OWN))
        if self.words.get(LOWER[0]) == LOWER[1] and len(key) == 1:
            key = key.lower()
        return "".join(parts) + key

    def _in_their_order(self, held: tuple[str, ...]) -> tuple[str, ...]:
        """Modifiers in the order of the application's own words, where it has a word for each."""
        order = [ours.removesuffix("+") for ours in self.words.values()]
        if set(held) <= set(order):
            return tuple(sorted(held, key=order.index))
        return held


def _is_either_way(stroke: Stroke) -> bool:
    """Whether a capital letter would be the same key as the small one."""
    return (
        not stroke.key.isalpha()
        or stroke.by_place
        or bool({"Ctrl", "Meta", "Main"} & {*stroke.modifiers})
    )


def is_kept_so(word: str, ours: str) -> bool:
    """Whether that is plainly a word as it is kept, so that ``new_words.checked`` need not be asked."""
    if (word, ours) in (LOWER, CAPITAL):
        return True
    if len(word) < 2 or word != word.strip():
        return False
    if ours.removesuffix("+") in MODIFIER_RANK:
        return ours.endswith("+") or word[-1].isalnum()
    return ours in NAMED_KEYS and word[-1].isalnum()


def _plain_words(words: Mapping[str, str]) -> set[str]:
    """Words of the application that are also keys of ours: those cannot be written without doubt."""
    return {word for word in words if word in NAMED_KEYS and words[word] != word}


def _pattern(words: Mapping[str, str]) -> str:
    """Each word where it stands by itself, the longest first; a modifier with its joiner stands before a key."""
    parts = []
    for word in sorted(words, key=len, reverse=True):
        before = ""
        if word[0].isalnum():
            before = r"(?<![^\W_])"
        after = r"(?=\S)"
        if word[-1].isalnum() and words[word] not in _JOINED:
            after = r"(?![^\W_])"
        parts.append(before + re.escape(word) + after)
    return "|".join(parts)
