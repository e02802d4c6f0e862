"""The wheel, by where its top or side is turned: ``wheel:up``, as the deltas of W3C UI Events."""

from functools import cache
from typing import TYPE_CHECKING

from olive_compass.core.keys.kinds.kind import Kind, Sits, UnreadableError
from olive_compass.core.keys.presses import Made
from olive_compass.core.keys.triggers import Stroke

if TYPE_CHECKING:
    from olive_compass.core.keys.kinds.kind import Board

PREFIX = "wheel:"
WAYS = ("up", "down", "left", "right")

#: Words for a turn of the wheel, in the languages of handbooks.
_WHEELS = "wheel, mouse wheel, scroll, scrollwheel, scroll wheel, mausrad, rad, molette, rueda, "
_WHEELS += "rotella, roda, wiel, mushjul, hjul, kółko, kolečko, görgő, tekerlek, колесо, колёсико"
_TURNS = {
    "up": "up, forward, hoch, nach oben, haut, vers le haut, arriba, su, para cima, omhoog, upp, "
    "op, opp, ylös, w górę, nahoru, fel, yukarı, вверх",
    "down": "down, back, backward, runter, nach unten, bas, vers le bas, abajo, giù, para baixo, "
    "omlaag, ner, ned, alas, w dół, dolů, le, aşağı, вниз",
    "left": "left, links, nach links, gauche, izquierda, sinistra, esquerda, vänster, venstre",
    "right": "right, rechts, nach rechts, droite, derecha, destra, direita, höger, højre, høyre",
}


@cache
def _words() -> dict[str, str]:
    """The turns by their names in handbooks. Only listings need them: they are two thousand."""
    return {
        f"{wheel}{gap}{word}": PREFIX + way
        for wheel in _WHEELS.split(", ")
        for way, words in _TURNS.items()
        for word in words.split(", ")
        for gap in (" ", "")
    }


class Wheel(Kind):
    name = "wheel"
    plural = "turns of the wheel"
    prefix = PREFIX
    must_be_taken = True

    def read(self, text: str) -> str:
        way = text.strip().lower()
        if way not in WAYS:
            raise UnreadableError(f"“{text}” is no turn of the wheel ({', '.join(WAYS)})")
        return PREFIX + way

    def named(self, words: str) -> str:
        return _words().get(words, "")

    def made(self, stroke: Stroke, held: list[str], keyboard: "Board") -> Made:
        way = stroke.key.removeprefix(PREFIX)
        has = keyboard.controls("wheel")
        if has is None or way in has:
            gone = ""
        else:
            gone = f"the wheel of this desk does not turn {way}"
        return Made(presses=((keyboard.real(held), stroke.key),), missing=gone)

    def sits(self, code: str, keyboard: "Board") -> Sits | None:
        return Sits("", "wheel", 1.0)

    def there(self, keyboard: "Board") -> dict[str, tuple[str, ...]]:
        ways = keyboard.controls("wheel") or ("up", "down")
        return {"wheel": tuple(PREFIX + way for way in WAYS if way in ways)}


KIND = Wheel()
