"""A modifier pressed and released alone (``tap:Alt``), with ``*2`` for twice."""

from typing import TYPE_CHECKING

from olive_compass.core.keys.kinds.kind import Kind, Sits, UnreadableError, once_and_twice, twice
from olive_compass.core.keys.presses import Made, Physical
from olive_compass.core.keys.spellings import MODIFIER_SPELLINGS
from olive_compass.core.keys.triggers import Stroke

if TYPE_CHECKING:
    from olive_compass.core.keys.kinds.kind import Board

PREFIX = "tap:"

#: The key that is tapped for each modifier, where a keyboard has two of them.
_KEYS = {
    "Ctrl": "ControlLeft",
    "Alt": "AltLeft",
    "AltGr": "AltRight",
    "Shift": "ShiftLeft",
    "Meta": "MetaLeft",
}


class Tap(Kind):
    name = "tap"
    plural = "taps of a modifier"
    prefix = PREFIX
    must_be_taken = True

    def read(self, text: str) -> str:
        name, times = twice(text)
        modifier = MODIFIER_SPELLINGS.get(name.lower())
        if modifier is None:
            raise UnreadableError(f"“{name}” is no modifier, and only a modifier can be tapped")
        return PREFIX + modifier + times

    def named(self, words: str) -> str:
        for lead, times in (("tap ", ""), ("double tap ", "*2"), ("press twice ", "*2")):
            modifier = MODIFIER_SPELLINGS.get(words.removeprefix(lead))
            if words.startswith(lead) and modifier:
                return PREFIX + modifier + times
        return ""

    def made(self, stroke: Stroke, held: list[str], keyboard: "Board") -> Made:
        name, _, times = stroke.key.removeprefix(PREFIX).partition("*")
        name = keyboard.main_resolved((name,))[0]
        code = PREFIX + name + (f"*{times}" if times else "")
        key = _KEYS.get(name, "")
        if keyboard.has_key(key):
            gone = ""
        else:
            gone = f"the keyboard has no {name}"
        if held:
            gone = gone or "a modifier is tapped alone, with no other held"
        return Made(presses=((keyboard.real(held), code),), missing=gone)

    def sits(self, code: str, keyboard: "Board") -> Sits | None:
        name, _, times = code.removeprefix(PREFIX).partition("*")
        return Sits(_KEYS.get(name, ""), "", 1.0 if times else 0.0)

    def twins(self, physical: Physical) -> tuple[Physical, ...]:
        return once_and_twice(physical)

    def there(self, keyboard: "Board") -> dict[str, tuple[str, ...]]:
        has = [name for name, key in _KEYS.items() if keyboard.has_key(key)]
        return {"taps": tuple(f"{PREFIX}{name}{times}" for times in ("", "*2") for name in has)}


KIND = Tap()
