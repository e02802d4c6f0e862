"""A keyboard: the physical presses that make a stroke, and what is to be said about them.

Two strokes are the same press when the same keys make them: ``Ctrl+Shift+=`` and ``Ctrl++`` on
a US board, ``Ctrl+C`` and ``Ctrl+@KeyC`` where the C sits there.
"""

from collections.abc import Iterable, Mapping
from itertools import compress, product
from types import MappingProxyType
from typing import TYPE_CHECKING, Literal, get_args

from olive_compass.core.keys.forms import Form
from olive_compass.core.keys.kinds import kind_of
from olive_compass.core.keys.layouts import LEVELS, Layout, Typed, latin_places
from olive_compass.core.keys.letters import small
from olive_compass.core.keys.names import NAMED_CODES
from olive_compass.core.keys.presses import Made, Physical, Press, ordered
from olive_compass.core.keys.triggers import Run, Stroke
from olive_compass.structs import replace

if TYPE_CHECKING:
    from olive_compass.core.keys.devices import Device

#: No device beside the keyboard.
NO_DEVICES: "Mapping[str, Device]" = MappingProxyType({})

#: The kinds of operating system that keys depend on.
Platform = Literal["pc", "linux", "mac"]
PLATFORMS: tuple[Platform, ...] = get_args(Platform)

#: The main modifier of each platform.
MAIN = {"pc": "Ctrl", "linux": "Ctrl", "mac": "Meta"}

#: What AltGr is the same as on each platform; on the others it is a modifier of its own.
ALTGR_IS = {"pc": ("Ctrl", "Alt"), "mac": ("Alt",)}

#: Keys that laptops reach through their Fn key, or that do not count as missing.
_ELSEWHERE = frozenset(
    code for code in NAMED_CODES.values() if code.startswith(("Audio", "Media", "Browser"))
)

_PAD_FOLDS = {f"Numpad{n}": f"Digit{n}" for n in range(10)} | {"NumpadEnter": "Enter"}


class Keyboard:
    """A form, a layout and a platform. Without a layout, strokes are what they are written as."""

    def __init__(
        self,
        platform: str = "pc",
        layout: Layout | None = None,
        form: Form | None = None,
        folded_pad: bool = False,
        devices: "Mapping[str, Device]" = NO_DEVICES,
    ) -> None:
        self.platform = platform
        self.layout = layout
        self.form = form
        self.folded_pad = folded_pad
        #: What it is called, and the other keyboards of the seat, on which keys must work as well.
        self.name = ""
        self.others: tuple[Keyboard, ...] = ()
        #: The devices beside it, by name.
        self.devices = devices
        #: What presses cost, by press and weights: kept here by ``effort``.
        self.efforts: dict[object, object] = {}
        self._made: dict[Stroke, Made] = {}
        self._ways: dict[str, tuple[Typed, ...]] = {}
        self._presses: dict[tuple[Stroke, ...], tuple[Press, ...]] = {}

    def folded(self) -> "Keyboard":
        """The same keyboard for an application that takes the pad's digits for the row's."""
        board = Keyboard(self.platform, self.layout, self.form, True, self.devices)
        return board.beside(self.name, tuple(other.folded() for other in self.others))

    def beside(self, name: str, others: "tuple[Keyboard, ...]") -> "Keyboard":
        """This keyboard under a name, as one of several of a seat."""
        self.name, self.others = name, others
        return self

    def controls(self, device: str) -> tuple[str, ...] | None:
        """The controls of a device, None where the desk declares none of that name."""
        known = self.devices.get(device)
        if known:
            return known.controls
        return None

    def made(self, stroke: Stroke) -> Made:
        """How this keyboard makes ``stroke``."""
        known = self._made.get(stroke)
        if known is None:
            known = self._made[stroke] = self._make(stroke)
        return known

    def press_of(self, run: Run) -> Press:
        """The press that ``run`` is; where there are several ways, the nearest."""
        return self.presses_of(run)[0]

    def presses_of(self, run: Run) -> tuple[Press, ...]:
        """Every press that ``run`` can be: more than one where a label stands on two keys."""
        known = self._presses.get(run.strokes)
        if known is None:
            ways = [self.made(stroke).presses for stroke in run.strokes]
            known = self._presses[run.strokes] = tuple(product(*ways))
        return known

    def swallows(self, stroke: Stroke) -> str:
        """The character that nothing types any more where ``stroke`` is a shortcut, or ``""``.

        A key held with AltGr types a character; where the platform takes AltGr for other
        modifiers, a shortcut with those and that key comes first.
        """
        same_as = ALTGR_IS.get(self.platform)
        if not same_as or self.layout is None:
            return ""
        for held, code in self.made(stroke).presses:
            for level, shift in ((2, ()), (3, ("Shift",))):
                if held != ordered((*same_as, *shift)):
                    continue
                char = self.layout.typed(code, level)
                # The same key may type it with Shift as well: a euro sign mostly does.
                twice = self.layout.typed(code, 5 - level) == char
                if char and not twice and not self._typed_otherwise(char, code):
                    return char
        return ""

    def _typed_otherwise(self, char: str, code: str) -> bool:
        """Whether a character has a way without AltGr, or one on another key than ``code``."""
        assert self.layout is not None
        ways = self.layout.ways.get(small(char), ())
        return any(self._can_be_typed(way, code) for way in ways)

    def _can_be_typed(self, way: Typed, code: str) -> bool:
        return way.level < 2 or (way.code != code and self.has_key(way.code))

    def typed_by(self, physical: Physical) -> str:
        """The character that a press types, ``""`` where it types none."""
        held, code = physical
        if self.layout is None:
            return ""
        altgr = ALTGR_IS.get(self.platform, ("AltGr",))
        for level, names in enumerate(LEVELS):
            real = _with_altgr(names, altgr)
            if held in (ordered(real), ordered(names)):
                if code == "Space" and level < 2:
                    return " "
                return self.layout.typed(code, level)
        return ""

    def _make(self, stroke: Stroke) -> Made:
        return kind_of(stroke).made(stroke, list(self.main_resolved(stroke.modifiers)), self)

    def main_resolved(self, modifiers: tuple[str, ...]) -> tuple[str, ...]:
        """Modifiers with ``Main`` as what it is on this platform."""
        return tuple(MAIN[self.platform] if name == "Main" else name for name in modifiers)

    def named_code(self, key: str) -> str:
        """The place of a key that has a name, ``""`` where the name is none.

        The decimal key of the pad is ``Num,`` where it types a comma.
        """
        if key == "Num," and self.layout and self.layout.typed(NAMED_CODES["Num."], 0) == ",":
            key = "Num."
        return NAMED_CODES.get(key, "")

    def by_label(self, held: list[str], label: str) -> Made:
        assert self.layout is not None
        char = small(label)
        ways = self._ways_to(char)
        # A capital that is not the Shift of its small letter needs no Shift in a shortcut.
        if not ways and not self.layout.is_latin and char in latin_places():
            code, level = latin_places()[char]
            made = self.at_code([*held, *LEVELS[level]], code, "")
            return replace(made, borrowed=True)
        if not ways:
            return Made(
                presses=((self.real(held), "?" + label),), missing=f"no key types “{label}”"
            )
        presses = tuple((self.real((*held, *LEVELS[way.level])), way.code) for way in ways)
        return Made(presses=presses, missing="", level=ways[0].level, dead=ways[0].dead)

    def _ways_to(self, char: str) -> tuple[Typed, ...]:
        """The nearest ways to type a character with the keys that there are, worked out once for all
        modifiers."""
        known = self._ways.get(char)
        if known is None:
            assert self.layout is not None
            ways = [way for way in self.layout.ways.get(char, ()) if self.has_key(way.code)]
            # Two keys that type the sign at once are both ways to press it.
            direct = [way for way in ways if way.level < 2 and not way.dead]
            alike = [(way.dead, way.level) == (ways[0].dead, ways[0].level) for way in ways]
            known = self._ways[char] = tuple(direct or compress(ways, alike))
        return known

    def at_code(self, held: list[str], code: str, missing: str) -> Made:
        code = self.folded_code(code)
        gone = missing
        if self.has_key(code) or code in _ELSEWHERE:
            gone = ""
        return Made(presses=((self.real(held), code),), missing=gone)

    def folded_code(self, code: str) -> str:
        """The key that an application takes a key of the pad for, where it does not tell them apart."""
        if self.folded_pad:
            return _PAD_FOLDS.get(code, code)
        return code

    def has_key(self, code: str) -> bool:
        """Whether the form has a key; without a form it may."""
        return self.form is None or code in self.form.seats

    def real(self, held: "list[str] | tuple[str, ...]") -> tuple[str, ...]:
        """The modifiers in order, with AltGr as what the platform takes it for."""
        same_as = ALTGR_IS.get(self.platform)
        if same_as and "AltGr" in held:
            held = _with_altgr(held, same_as)
        return ordered(held)


def _with_altgr(held: Iterable[str], same_as: tuple[str, ...]) -> list[str]:
    """The modifiers with those in the place of AltGr that the platform takes it for."""
    found: list[str] = []
    for name in held:
        found += same_as if name == "AltGr" else (name,)
    return found
