"""Triggers as values, and the one way in which they are written."""

from msgspec import Struct

from olive_compass.core.keys.names import MODIFIER_RANK


class Stroke(Struct, frozen=True):
    """One key, with the modifiers held.

    ``modifiers`` are in the order of ``names.MODIFIERS``; ``key`` is what the key types
    (``B``, ``=``, ``F6``) or, where ``by_place``, a W3C ``code`` value (``KeyC``). What is no key of
    a keyboard is a stroke too: its key is the prefix of its kind (``kinds``) and what follows.
    """

    modifiers: tuple[str, ...]
    key: str
    by_place: bool = False

    def __str__(self) -> str:
        if self.by_place:
            key = "@" + self.key
        else:
            key = self.key
        return "+".join((*self.modifiers, key))


class Run(Struct, frozen=True):
    """Strokes one after another; a single stroke is a run of one."""

    strokes: tuple[Stroke, ...]

    def __str__(self) -> str:
        return " ".join(map(str, self.strokes))


#: What a person does to start a command.
Trigger = Run


def stroke(key: str, *modifiers: str, by_place: bool = False) -> Stroke:
    """A stroke with its modifiers put in order and doubles taken out."""
    ordered = tuple(sorted(set(modifiers), key=MODIFIER_RANK.__getitem__))
    return Stroke(ordered, key, by_place)
