"""Keys by where they sit: ``@`` and the name that the W3C ``code`` table gives the place."""

from typing import TYPE_CHECKING

from olive_compass.core.keys.codes import CODES
from olive_compass.core.keys.kinds.key import Key
from olive_compass.core.keys.kinds.kind import UnreadableError
from olive_compass.core.keys.presses import Made
from olive_compass.core.keys.triggers import Stroke

if TYPE_CHECKING:
    from olive_compass.core.keys.kinds.kind import Board


class Place(Key):
    prefix = "@"
    unwritten = ("aria", "xdg")

    def read(self, text: str) -> str:
        code = CODES.get(text.lower())
        if code is None:
            raise UnreadableError(f"“@{text}” is no place on a keyboard", _nearest)
        return code

    def made(self, stroke: Stroke, held: list[str], keyboard: "Board") -> Made:
        if keyboard.layout is None:
            return Made(presses=((keyboard.real(held), "@" + stroke.key),))
        return keyboard.at_code(held, stroke.key, f"the keyboard has no {stroke.key} key")


def _nearest(chunk: str) -> str:
    from olive_compass.near import nearest

    found = nearest(chunk[1:], CODES)
    if found:
        return "@" + CODES[found]
    return ""


KIND = Place()
