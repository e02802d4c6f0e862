"""Keys by what they type (``B``, ``=``) or what they are called (``F6``, ``Num3``, ``Space``)."""

from collections.abc import Iterator
from typing import TYPE_CHECKING

from olive_compass.core.keys.kinds.kind import Broken, Kind, StrokeQuery
from olive_compass.core.keys.names import NAMED_CODES, NAMED_KEYS
from olive_compass.core.keys.presses import Made
from olive_compass.core.keys.triggers import Stroke

if TYPE_CHECKING:
    from olive_compass.core.keys.kinds.kind import Board

_CODES_WITH_A_NAME = frozenset(NAMED_CODES.values())


class Key(Kind):
    name = "key"
    plural = "keys"
    on_form = True
    unwritten: tuple[str, ...] = ()

    def made(self, stroke: Stroke, held: list[str], keyboard: "Board") -> Made:
        if keyboard.layout is None:
            return Made(presses=((keyboard.real(held), stroke.key),))
        if code := keyboard.named_code(stroke.key):
            return keyboard.at_code(held, code, f"the keyboard has no {code} key")
        return keyboard.by_label(held, stroke.key)

    def types(self, stroke: Stroke, keyboard: "Board") -> bool:
        """A letter, digit, sign or blank with at most Shift held; Enter, Tab and arrows do not count."""
        if keyboard.layout is None:
            plain = _stands_for_itself(stroke)
            return plain and not set(stroke.modifiers) - {"Shift"}
        return any(
            not set(held) - {"Shift"} and bool(keyboard.typed_by((held, code)))
            for held, code in keyboard.made(stroke).presses
        )

    def broken(self, query: StrokeQuery) -> Iterator[Broken]:
        """What is judged is the press: Ctrl+# is Ctrl+Shift+3 where Shift and 3 make the sign."""
        allowed, stroke = query.allows.modifiers, query.stroke
        presses = query.keyboard.made(stroke).presses
        ways = [held for held, _ in presses]
        if allowed is not None:
            known = set(query.keyboard.main_resolved(allowed))
            if all(set(held) - known for held in ways):
                wrong = min(set(ways[0]) - known)
                yield Broken(rule="modifiers", why=f"it takes no {wrong} in a key")
        # Most applications take any key: what a press types need not be known there.
        if query.allows.plain_keys == "all" or not query.alone:
            return
        if ways[0] and not self.types(stroke, query.keyboard):
            return
        if query.allows.plain_keys == "none":
            yield Broken(
                rule="plain-keys",
                why=f"it accepts no key without a modifier, so {stroke} cannot be used",
            )
        elif not any(_has_name(code) for _, code in presses):
            yield Broken(
                rule="plain-keys",
                why=f"it accepts no letter, digit or sign without a modifier, so {stroke} cannot be used",
            )


def _stands_for_itself(stroke: Stroke) -> bool:
    return stroke.by_place or len(stroke.key) == 1 or stroke.key == "Space"


def _has_name(code: str) -> bool:
    """Whether a key is one of those with a name; one that the application takes for a digit is the digit."""
    return code in NAMED_KEYS or code.removeprefix("@") in _CODES_WITH_A_NAME


KIND = Key()
