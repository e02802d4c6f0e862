"""Keys in brackets: keycaps as manuals set them (``[Ctrl]+[C]``), and the accelerators of settings files
(``<Control><Shift>s``, ``<Control-Key-x>``).

It is asked where a text cannot be read as it stands: a bracket is a key, too.
"""

import re

from olive_compass.core.keys.names import MODIFIER_SIGNS
from olive_compass.core.keys.spellings import KEY_SPELLINGS, MODIFIER_SPELLINGS

_CAP = re.compile(
    "|".join(
        rf"{re.escape(opens)}([^{re.escape(opens + closes)}]+){re.escape(closes)}"
        for opens, closes in map(tuple, ("<>", "[]", "{}", "‹›", "⟨⟩", "【】", "「」"))
    )
)

#: What accelerators call modifiers besides. Source: the names of modifiers in the X Keyboard Extension.
_MODIFIERS = {**MODIFIER_SPELLINGS, "primary": "Main", "mod1": "Alt", "mod4": "Meta"}

#: The words of an event that stand before its key.
_EVENTS = ("key", "keypress")

#: The first word in a bracket, with the sign that joins it to the rest.
_FIRST = re.compile(r"(\w[\w ]*)(?:[-+](?=.)|$)")

#: What may join a modifier in brackets to what follows it.
_JOINER = re.compile(r"\s*[-+–]?\s*")


def without_brackets(text: str) -> str:
    """Keys without the brackets around them; the same text where something else stands in one.

    >>> without_brackets("[Ctrl]+[C]"), without_brackets("<Control><Shift>s"), without_brackets("[G] [D]")
    ('Ctrl+C', 'Ctrl+Shift+s', 'G D')
    >>> without_brackets("<Control-Key-x><Key-F5>"), without_brackets("[number] + Enter"), without_brackets("Ctrl+[")
    ('Ctrl+x F5', '[number] + Enter', 'Ctrl+[')
    """
    put, at, holds = "", 0, False
    for found in _CAP.finditer(text):
        held, key = _pressed(str(found[found.lastindex or 0]))
        if not held and not key:
            return text
        put += _between(text[at : found.start()], holds, bool(put)) + held + key
        at, holds = found.end(), not key
    rest = text[at:]
    # At the end a sign is the key: ``<Ctrl>-``.
    if holds and rest.strip() in ("+", "-"):
        return put + rest.strip()
    return put + (rest and _between(rest, holds, bool(put)))


def _between(text: str, holds: bool, goes_on: bool) -> str:
    """What stands after a bracket: where that ``holds`` modifiers they take what they are joined to; else another key
    begins, if anything stood before it."""
    if holds:
        return _JOINER.sub("", text, count=1)
    if goes_on and not text.strip():
        return " "
    return text


def _pressed(text: str) -> tuple[str, str]:
    """What stands in one bracket: modifiers (``Ctrl+``) and a key, each ``""`` where there is none."""
    if text in MODIFIER_SIGNS:
        return f"{MODIFIER_SIGNS[text]}+", ""
    held, key = "", text
    while found := _FIRST.match(key):
        word, rest = found[1].lower().replace(" ", ""), key[found.end() :]
        if word in _EVENTS and rest:
            key = rest
            break
        if word not in _MODIFIERS:
            break
        held, key = f"{held}{_MODIFIERS[word]}+", rest
    # More than one character must be the name of a key: what stands between the brackets of ``[ / ]`` is none.
    spellings = {key.lower(), re.sub(r"[-_\s]+", " ", key).lower()}
    if len(key) > 1 and not spellings & KEY_SPELLINGS.keys():
        return "", ""
    return held, key
