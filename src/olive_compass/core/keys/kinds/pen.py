"""The buttons of a pen: its tip, barrel and eraser (``button`` 0, 2 and 5 of W3C Pointer Events)."""

from typing import TYPE_CHECKING

from olive_compass.core.keys.kinds.kind import Kind, Sits, UnreadableError, once_and_twice, twice
from olive_compass.core.keys.presses import Made, Physical
from olive_compass.core.keys.triggers import Stroke

if TYPE_CHECKING:
    from olive_compass.core.keys.kinds.kind import Board

PREFIX = "pen:"
PARTS = ("tip", "barrel", "barrel-2", "eraser")

_WORDS = {
    "tip": "pen tip, stylus tip, stiftspitze",
    "barrel": "pen button, barrel button, pen barrel, stylus button, stifttaste, bouton du stylet",
    "barrel-2": "second pen button, second barrel button, pen button 2, upper barrel button",
    "eraser": "pen eraser, eraser tip, stylus eraser, radierer",
}
_NAMED = {word: part for part, words in _WORDS.items() for word in words.split(", ")}


class Pen(Kind):
    name = "pen"
    plural = "buttons of a pen"
    prefix = PREFIX
    must_be_taken = True

    def read(self, text: str) -> str:
        name, times = twice(text.lower())
        if name not in PARTS:
            raise UnreadableError(f"“{name}” is no part of a pen ({', '.join(PARTS)})")
        return PREFIX + name + times

    def named(self, words: str) -> str:
        if words in _NAMED:
            return PREFIX + _NAMED[words]
        return ""

    def made(self, stroke: Stroke, held: list[str], keyboard: "Board") -> Made:
        part = stroke.key.removeprefix(PREFIX).removesuffix("*2")
        has = keyboard.controls("pen")
        if has is None:
            gone = "the desk has no pen; if it has one, describe it as a device"
        else:
            gone = ""
            if part not in has:
                gone = f"the pen of this desk has no {part}"
        return Made(presses=((keyboard.real(held), stroke.key),), missing=gone)

    def sits(self, code: str, keyboard: "Board") -> Sits | None:
        return Sits("", "pen", 3.0 if code.endswith("*2") else 1.5)

    def twins(self, physical: Physical) -> tuple[Physical, ...]:
        return once_and_twice(physical)

    def there(self, keyboard: "Board") -> dict[str, tuple[str, ...]]:
        has = keyboard.controls("pen") or ()
        if has:
            return {"pen": tuple(PREFIX + part for part in PARTS if part in has)}
        return {}


KIND = Pen()
