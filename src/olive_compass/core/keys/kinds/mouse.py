"""The buttons of the mouse (``mouse:middle``, ``mouse:4``), with ``*2`` for twice.

The names stand for the values of ``button`` in W3C UI Events: main 0, middle 1, second 2, and 4 and
5 for the two at the side, which are 3 and 4 there.
"""

from collections.abc import Iterator
from functools import cache
from typing import TYPE_CHECKING

from olive_compass.core.keys.kinds.kind import (
    Broken,
    Kind,
    Sits,
    StrokeQuery,
    UnreadableError,
    once_and_twice,
    twice,
)
from olive_compass.core.keys.presses import Made, Physical
from olive_compass.core.keys.triggers import Stroke

if TYPE_CHECKING:
    from olive_compass.core.keys.kinds.kind import Board

PREFIX = "mouse:"
BUTTONS = ("main", "middle", "second", "4", "5")

#: What each button is called in listings, and what follows its name there.
_CALLED = {
    "main": "main, left, primary, linke, linker, gauche, izquierdo, sinistro, esquerdo, links, левая",
    "middle": "middle, centre, center, wheel, mittlere, mittlerer, milieu, central, centrale, medio, "
    "средняя",
    "second": "second, secondary, right, rechte, rechter, droit, derecho, destro, direito, rechts, "
    "правая",
    "4": "4, x1, fourth, back, vierte",
    "5": "5, x2, fifth, forward, fünfte",
}
#: To turn the wheel is no press of it: it must be said that it is.
_TURNED = ("wheel mouse", "wheelmouse", "mouse wheel", "mousewheel")
_PRESSED = "button, mouse, mouse button, click, mausklick, maustaste, klick, кнопка мыши"
_BEFORE = "mouse, mouse button, button, mb, mousebutton, maustaste, bouton, clic, clique, botón"


@cache
def _words() -> dict[str, str]:
    """The buttons by their names in handbooks. Only listings need them: they are six hundred."""
    # Buttons 2 and 3 are left out: one half of the trade counts the middle one second, the other third.
    found: dict[str, str] = {}
    for button, names in _CALLED.items():
        for name in names.split(", "):
            found.update(dict.fromkeys(_calls(name), button))
    found |= {
        "button 1": "main",
        "button1": "main",
        "mouse 1": "main",
        "mouse1": "main",
        "lmb": "main",
        "mmb": "middle",
        "rmb": "second",
        "click": "main",
        "klick": "main",
        "clic": "main",
        "clique": "main",
        "щелчок": "main",
        "mouse wheel click": "middle",
        "mouse wheel button": "middle",
    }
    for words in _TURNED:
        found.pop(words, None)
    return found


def _calls(name: str) -> Iterator[str]:
    """What a press of the button of that name is called."""
    for gap in (" ", ""):
        yield from (f"{name}{gap}{pressed}" for pressed in _PRESSED.split(", "))
        yield from (f"{before}{gap}{name}" for before in _BEFORE.split(", "))


_TWICE = ("double", "dbl", "doppel", "doble", "doppio", "duplo", "dubbel", "двойной")


class Mouse(Kind):
    name = "mouse"
    plural = "buttons of the mouse"
    prefix = PREFIX
    must_be_taken = True

    def read(self, text: str) -> str:
        name, times = twice(text.lower())
        if name in BUTTONS:
            button = name
        else:
            button = _words().get(f"{name} button", "")
        if not button:
            raise UnreadableError(f"“{name}” is no button of a mouse ({', '.join(BUTTONS)})")
        return PREFIX + button + times

    def named(self, words: str) -> str:
        times = ""
        for word in _TWICE:
            if words.startswith(word) and words != word:
                words, times = words.removeprefix(word).strip(), "*2"
        button = _words().get(words, "")
        if button:
            return PREFIX + button + times
        return ""

    def made(self, stroke: Stroke, held: list[str], keyboard: "Board") -> Made:
        button = _button(stroke.key)
        has = keyboard.controls("mouse")
        if has is None or button in has:
            gone = ""
        else:
            gone = f"the mouse of this desk has no {button} button"
        return Made(presses=((keyboard.real(held), stroke.key),), missing=gone)

    def sits(self, code: str, keyboard: "Board") -> Sits | None:
        once = {"main": 1.0, "second": 1.0, "middle": 1.5}.get(_button(code), 2.0)
        return Sits("", "mouse", once * (2 if code.endswith("*2") else 1))

    def twins(self, physical: Physical) -> tuple[Physical, ...]:
        return once_and_twice(physical)

    def there(self, keyboard: "Board") -> dict[str, tuple[str, ...]]:
        has = keyboard.controls("mouse") or BUTTONS
        return {"mouse": tuple(PREFIX + button for button in BUTTONS if button in has)}

    def broken(self, query: StrokeQuery) -> Iterator[Broken]:
        yield from super().broken(query)
        if query.alone and not query.stroke.modifiers and query.stroke.key == PREFIX + "main":
            yield Broken(
                rule="takes", why="the main button alone points and draws, in every application"
            )


def _button(code: str) -> str:
    return code.removeprefix(PREFIX).removesuffix("*2")


KIND = Mouse()
