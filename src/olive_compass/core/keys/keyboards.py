"""A keyboard: the physical presses that make a stroke, and what is to be said about them.

Two strokes are the same press when the same keys make them: ``Ctrl+Shift+=`` and ``Ctrl++`` on
a US board, ``Ctrl+C`` and ``Ctrl+@KeyC`` where the C sits there.
"""

from itertools import product
from typing import NamedTuple

from olive_compass.core.keys.forms import Form
from olive_compass.core.keys.layouts import LEVELS, Layout, latin_places
from olive_compass.core.keys.names import MODIFIER_RANK
from olive_compass.core.keys.triggers import Run, Stroke

#: One key pressed: the modifiers held, in our order, and the key's code. A stroke that the
#: keyboard cannot make keeps its own modifiers, with ``?`` and its key for a code.
Physical = tuple[tuple[str, ...], str]

#: A run as the keyboard meets it; cut short it is the beginning of a run.
Press = tuple[Physical, ...]

PLATFORMS = ("pc", "linux", "mac")

#: The main modifier of each platform.
MAIN = {"pc": "Ctrl", "linux": "Ctrl", "mac": "Meta"}

#: What AltGr is the same as on each platform; on the others it is a modifier of its own.
ALTGR_IS = {"pc": ("Ctrl", "Alt"), "mac": ("Alt",)}

#: Codes of the keys that have a name and type no character.
NAMED_CODES = {
    "Escape": "Escape",
    "Tab": "Tab",
    "Enter": "Enter",
    "Space": "Space",
    "Backspace": "Backspace",
    "Delete": "Delete",
    "Insert": "Insert",
    "Home": "Home",
    "End": "End",
    "PageUp": "PageUp",
    "PageDown": "PageDown",
    "Up": "ArrowUp",
    "Down": "ArrowDown",
    "Left": "ArrowLeft",
    "Right": "ArrowRight",
    "CapsLock": "CapsLock",
    "NumLock": "NumLock",
    "ScrollLock": "ScrollLock",
    "PrintScreen": "PrintScreen",
    "Pause": "Pause",
    "ContextMenu": "ContextMenu",
    "NumEnter": "NumpadEnter",
    "Num+": "NumpadAdd",
    "Num-": "NumpadSubtract",
    "Num*": "NumpadMultiply",
    "Num/": "NumpadDivide",
    "Num.": "NumpadDecimal",
    "Num,": "NumpadComma",
    "Num=": "NumpadEqual",
    "Help": "Help",
    "VolumeUp": "AudioVolumeUp",
    "VolumeDown": "AudioVolumeDown",
    "VolumeMute": "AudioVolumeMute",
    "MediaPlay": "MediaPlayPause",
    "MediaStop": "MediaStop",
    "MediaNext": "MediaTrackNext",
    "MediaPrevious": "MediaTrackPrevious",
    "BrowserBack": "BrowserBack",
    "BrowserForward": "BrowserForward",
    **{f"Num{n}": f"Numpad{n}" for n in range(10)},
    **{f"F{n}": f"F{n}" for n in range(1, 36)},
}

#: Keys that laptops reach through their Fn key, or that do not count as missing.
_ELSEWHERE = frozenset(
    code for code in NAMED_CODES.values() if code.startswith(("Audio", "Media", "Browser"))
)

_PAD_FOLDS = {f"Numpad{n}": f"Digit{n}" for n in range(10)} | {"NumpadEnter": "Enter"}


class Made(NamedTuple):
    """How a keyboard makes a stroke: its physical presses, the nearest first, and remarks.

    ``missing`` says why it cannot be made (``""``: it can); ``level`` is the level of the key
    at which the label stands; ``dead`` that the key waits for a letter; ``borrowed`` that the
    label was looked up on a Latin board, for this layout has none.
    """

    presses: tuple[Physical, ...]
    missing: str = ""
    level: int = 0
    dead: bool = False
    borrowed: bool = False


class Keyboard:
    """A form, a layout and a platform. Without a layout, strokes are what they are written as."""

    def __init__(
        self,
        platform: str = "pc",
        layout: Layout | None = None,
        form: Form | None = None,
        folded_pad: bool = False,
    ) -> None:
        self.platform = platform
        self.layout = layout
        self.form = form
        self.folded_pad = folded_pad
        self._made: dict[Stroke, Made] = {}
        self._presses: dict[tuple[Stroke, ...], tuple[Press, ...]] = {}

    def folded(self) -> "Keyboard":
        """The same keyboard for an application that takes the pad's digits for the row's."""
        return Keyboard(self.platform, self.layout, self.form, folded_pad=True)

    def made(self, stroke: Stroke) -> Made:
        """How this keyboard makes ``stroke``."""
        known = self._made.get(stroke)
        if known is None:
            known = self._made[stroke] = self._make(stroke)
        return known

    def strokes_met(self) -> tuple[Stroke, ...]:
        """The strokes that this keyboard was asked about so far."""
        return tuple(self._made)

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
        """The character that cannot be typed any more where ``stroke`` is a shortcut, or ``""``.

        A key held with AltGr types a character; where the platform takes AltGr for other
        modifiers, a shortcut with those and that key comes first.
        """
        same_as = ALTGR_IS.get(self.platform)
        if not same_as or self.layout is None:
            return ""
        for held, code in self.made(stroke).presses:
            for level in (2, 3):
                shift = ("Shift",) if level == 3 else ()
                if held == _ordered((*same_as, *shift)):
                    char = self.layout.typed(code, level)
                    if char and char != self.layout.typed(code, level - 2):
                        return char
        return ""

    def typed_by(self, physical: Physical) -> str:
        """The character that a press types, ``""`` where it types none."""
        held, code = physical
        if self.layout is None:
            return ""
        altgr = ALTGR_IS.get(self.platform, ("AltGr",))
        for level, names in enumerate(LEVELS):
            real = [part for name in names for part in (altgr if name == "AltGr" else (name,))]
            if held in (_ordered(real), _ordered(names)):
                return " " if code == "Space" and level < 2 else self.layout.typed(code, level)
        return ""

    def _make(self, stroke: Stroke) -> Made:
        held = [MAIN[self.platform] if name == "Main" else name for name in stroke.modifiers]
        if self.layout is None or stroke.key.startswith("swipe:"):
            code = "@" + stroke.key if stroke.by_place else stroke.key
            return Made(((_ordered(held), code),))
        code = stroke.key if stroke.by_place else NAMED_CODES.get(stroke.key, "")
        if code:
            return self._at(held, code, f"the keyboard has no {code} key")
        return self._by_label(held, stroke.key)

    def _by_label(self, held: list[str], label: str) -> Made:
        assert self.layout is not None
        char = label.lower() if len(label.lower()) == 1 else label
        ways = [way for way in self.layout.ways.get(char, ()) if self._has(way.code)]
        # A capital that is not the Shift of its small letter needs no Shift in a shortcut.
        if not ways and not self.layout.is_latin and (place := latin_places().get(char)):
            made = self._at(held, place, "")
            return made._replace(borrowed=True)
        if not ways:
            return Made(((self._real(held), "?" + label),), f"no key types “{label}”")
        best = [way for way in ways if (way.dead, way.level) == (ways[0].dead, ways[0].level)]
        presses = tuple((self._real((*held, *LEVELS[way.level])), way.code) for way in best)
        return Made(presses, "", ways[0].level, ways[0].dead)

    def _at(self, held: list[str], code: str, missing: str) -> Made:
        if self.folded_pad:
            code = _PAD_FOLDS.get(code, code)
        gone = "" if self._has(code) or code in _ELSEWHERE else missing
        return Made(((self._real(held), code),), gone)

    def _has(self, code: str) -> bool:
        return self.form is None or code in self.form.seats

    def _real(self, held: "list[str] | tuple[str, ...]") -> tuple[str, ...]:
        """The modifiers in order, with AltGr as what the platform takes it for."""
        same_as = ALTGR_IS.get(self.platform)
        if same_as and "AltGr" in held:
            held = [part for name in held for part in (same_as if name == "AltGr" else (name,))]
        return _ordered(held)


def _ordered(held: "list[str] | tuple[str, ...]") -> tuple[str, ...]:
    return tuple(sorted(set(held), key=MODIFIER_RANK.__getitem__)) if held else ()


def physical_text(physical: Physical) -> str:
    """A physical press in words: ``Ctrl+Shift+@Equal``."""
    held, code = physical
    return "+".join((*held, code[1:] if code.startswith("?") else "@" + code.lstrip("@")))
