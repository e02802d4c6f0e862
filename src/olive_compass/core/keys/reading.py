"""Reads a trigger from any spelling that people use.

A modifier is followed by a joiner (``+``, ``-`` or a space) or is a sign that needs none
(``⌘``). The rest up to the next space is the key: a name, a sign, one character, or ``@``
and a W3C ``code`` value. Strokes after a space make a run.
"""

from olive_compass.core.keys.kinds import UnreadableError, prefixed
from olive_compass.core.keys.names import MODIFIER_RANK, NAMED_KEYS
from olive_compass.core.keys.triggers import Run, Stroke

#: The most strokes of a typed run written without spaces that any application takes.
MOST_TYPED = 9

_read: dict[tuple[str, int], Run] = {}


def read_trigger(text: str, typed: int = 0) -> Run:
    """The run that ``text`` spells.

    ``typed`` is how many letters and digits without spaces between them may be a run of
    plain strokes (``GD`` for ``G D``), as applications with typed letters write it; a named
    key (``Up``, ``F1``) is still that key. Raises ``TriggerError``.

    >>> str(read_trigger("⌘⇧b")), str(read_trigger("ctrl - shift - PgDn"))
    ('Shift+Meta+B', 'Ctrl+Shift+PageDown')
    >>> str(read_trigger("GD", typed=4)), str(read_trigger("Ctrl++"))
    ('G D', 'Ctrl++')
    """
    known = _read.get((text, typed))
    if known is None:
        known = canonical(text)
        if known is None:
            # Loaded here: what we wrote ourselves is read without the words of every language.
            from olive_compass.core.keys.any_spelling import read_spelling

            known = read_spelling(text, typed, read_trigger)
        _read[text, typed] = known
    return known


def canonical(text: str) -> Run | None:
    """The run that ``text`` spells if it is plainly written in our own way, else None.

    What we write ourselves is most of what we read, and this takes a tenth of the time.
    """
    strokes = []
    for part in text.split(" "):
        stroke = _canonical_strokes.get(part) or _canonical_stroke(part)
        if stroke is None:
            return None
        strokes.append(stroke)
    return Run(tuple(strokes))


_canonical_strokes: dict[str, Stroke] = {}


def _canonical_stroke(part: str) -> Stroke | None:
    # A plus at the end is part of the key: “Ctrl++”, “Num+”.
    body = part.removesuffix("+")
    before, _, end = body.rpartition("+")
    held, key = tuple(before.split("+")) if before else (), end + part[len(body) :]
    plain = key in NAMED_KEYS or (len(key) == 1 and "!" <= key <= "~" and key == key.upper())
    if not plain and (":" not in key or not _is_written_so(key)):
        return None
    ranks = [MODIFIER_RANK.get(name, -1) for name in held]
    stroke = Stroke(held, key)
    if -1 in ranks or ranks != sorted(set(ranks)) or str(stroke) != part:
        return None
    _canonical_strokes[part] = stroke
    return stroke


def _is_written_so(key: str) -> bool:
    """Whether that is how we write a trigger of a kind with a prefix."""
    # “ctrl-deck:K3” begins with a modifier, not with the name of a device.
    kind = None
    if key.partition(":")[0].isalnum():
        kind = prefixed(key)
    try:
        return kind is not None and kind.read(key[len(kind.prefix) :]) == key
    except UnreadableError:
        return False
