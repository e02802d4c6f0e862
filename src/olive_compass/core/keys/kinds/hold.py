"""A meaning while a key is held down (``hold:Space``), which ends when it is released."""

from typing import TYPE_CHECKING

from olive_compass.core.keys.codes import CODES
from olive_compass.core.keys.kinds.kind import Kind, Sits, UnreadableError
from olive_compass.core.keys.letters import capital
from olive_compass.core.keys.presses import Made, Physical
from olive_compass.core.keys.spellings import KEY_SPELLINGS
from olive_compass.core.keys.triggers import Stroke
from olive_compass.structs import replace

if TYPE_CHECKING:
    from olive_compass.core.keys.kinds.kind import Board

PREFIX = "hold:"

#: What a hold costs beyond the press: the finger stays down for as long as the work takes.
_STAYS = 0.5

_LEADS = ("press and hold ", "hold down ", "hold ", "halten ", "maintenir ")


class Hold(Kind):
    name = "hold"
    plural = "keys that are held"
    prefix = PREFIX
    must_be_taken = True

    def read(self, text: str) -> str:
        plain = text.strip()
        if plain[:1] == "@" and (code := CODES.get(plain[1:].lower())):
            return f"{PREFIX}@{code}"
        key = KEY_SPELLINGS.get(plain.lower(), "")
        if not key and len(plain) == 1 and plain.isprintable():
            key = capital(plain)
        if not key:
            raise UnreadableError(f"“{text}” is no key that could be held")
        return PREFIX + key

    def named(self, words: str) -> str:
        lead = next((lead for lead in _LEADS if words.startswith(lead)), "")
        if not lead:
            return ""
        try:
            return self.read(words.removeprefix(lead))
        except UnreadableError:
            return ""

    def made(self, stroke: Stroke, held: list[str], keyboard: "Board") -> Made:
        key = stroke.key.removeprefix(PREFIX)
        by_place = key[:1] == "@" and len(key) > 1
        pressed = keyboard.made(Stroke((), key[1:] if by_place else key, by_place))
        presses = tuple(
            (keyboard.real((*held, *own)), PREFIX + code) for own, code in pressed.presses
        )
        return replace(pressed, presses=presses)

    def sits(self, code: str, keyboard: "Board") -> Sits | None:
        return Sits(code.removeprefix(PREFIX), "", _STAYS)

    def twins(self, physical: Physical) -> tuple[Physical, ...]:
        held, code = physical
        return ((held, code.removeprefix(PREFIX)),)


KIND = Hold()
