"""Patterns of triggers, with ``*`` for what may be anything: ``Ctrl+*``, ``*+C``, ``S *``."""

from collections.abc import Callable

from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.spellings import MODIFIER_SPELLINGS
from olive_compass.core.keys.triggers import Run, Stroke

ANY = "*"


def is_pattern(text: str) -> bool:
    """Whether a text has an asterisk that stands for anything: the key ``*`` itself stands for itself.

    >>> is_pattern("Ctrl+*"), is_pattern("S *"), is_pattern("*"), is_pattern("Ctrl+S")
    (True, True, False, False)
    """
    return ANY in text and text.strip() != ANY and not text.strip().endswith("Num*")


def pattern(text: str, keyboard: Keyboard, typed: int = 0) -> Callable[[Run], bool]:
    """Tells the triggers that a pattern fits, by the presses that they are.

    ``*`` is any key where it stands for the key, any modifiers (at least one) before a ``+``, and one
    stroke or more at the end of a run. Raises ``TriggerError`` for what cannot be read.
    """
    pieces = text.split()
    goes_on = len(pieces) > 1 and pieces[-1] == ANY
    wanted = [_stroke(piece, keyboard, typed) for piece in (pieces[:-1] if goes_on else pieces)]

    def fits(run: Run) -> bool:
        if goes_on and len(run.strokes) <= len(wanted):
            return False
        if not goes_on and len(run.strokes) != len(wanted):
            return False
        return all(one(stroke) for one, stroke in zip(wanted, run.strokes, strict=False))

    return fits


def _stroke(text: str, keyboard: Keyboard, typed: int) -> Callable[[Stroke], bool]:
    if ANY not in text:
        presses = set(keyboard.made(read_trigger(text, typed).strokes[0]).presses)
        return lambda stroke: bool(presses & set(keyboard.made(stroke).presses))
    if not text.endswith("++"):
        *held, key = text.split("+")
    else:
        *held, key = (*text[:-2].split("+"), "+")
    if key == ANY:
        names = [MODIFIER_SPELLINGS.get(name.strip().lower(), name) for name in held]
        wanted = set(keyboard.main_resolved(tuple(names)))
        any_held = ANY in names
        return lambda stroke: (
            bool(stroke.modifiers)
            if any_held
            else set(keyboard.main_resolved(stroke.modifiers)) == wanted
        )
    plain = read_trigger(key, typed).strokes[0].key
    return lambda stroke: bool(stroke.modifiers) and stroke.key == plain
