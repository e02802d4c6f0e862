"""How a line of text is cut into a title and keys."""

import re

from olive_compass.core.keys.cells import names_keys
from olive_compass.core.keys.names import MODIFIER_SIGNS
from olive_compass.core.keys.spellings import MODIFIER_SPELLINGS

_GAP = re.compile(r"\s*(?:\.(?:\s?\.){2,}|…+|\t+|\s{2,})\s*")
_WORDS = "|".join(sorted(map(re.escape, MODIFIER_SPELLINGS), key=len, reverse=True))
_MODIFIER = re.compile(rf"(?i)(?:{_WORDS})(?![^\W_])|[{''.join(MODIFIER_SIGNS)}^]")

#: The most words that the keys at the end of a line take.
_MOST_WORDS = 8

Cells = tuple[str, ...]


def cut(text: str) -> Cells:
    """The pieces of a line that gaps, tabs or leading dots part."""
    return tuple(filter(None, _GAP.split(text)))


def before_keys(text: str) -> Cells:
    """A title and the keys that end the line; a lone letter is no key here, it may be a word."""
    words = text.split()
    for at in range(max(1, len(words) - _MOST_WORDS), len(words)):
        keys = " ".join(words[at:])
        plain = _MODIFIER.match(keys) or re.fullmatch(r"F\d{1,2}", keys)
        if plain and len(keys) > 1 and names_keys(keys):
            return " ".join(words[:at]), keys
    return (text,)
