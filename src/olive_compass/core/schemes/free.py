"""Which strokes nobody has taken, by the modifiers held."""

from typing import NamedTuple

from olive_compass.core.keys.triggers import Run, Stroke, stroke
from olive_compass.core.schemes.deciding import Keymap

#: Keys by the rows in which the map shows them.
BANKS = {
    "letters": tuple("ABCDEFGHIJKLMNOPQRSTUVWXYZ"),
    "digits": tuple("1234567890"),
    "signs": tuple("-=[];'\\,./`"),
    "function keys": tuple(f"F{n}" for n in range(1, 13)),
    "others": (
        "Space",
        "Enter",
        "Tab",
        "Backspace",
        "Delete",
        "Insert",
        "Home",
        "End",
        "PageUp",
        "PageDown",
        "Up",
        "Down",
        "Left",
        "Right",
    ),
}

#: Modifiers that the map shows, the easiest first.
HELD = {
    "pc": (
        (),
        ("Shift",),
        ("Ctrl",),
        ("Alt",),
        ("Ctrl", "Shift"),
        ("Alt", "Shift"),
        ("Ctrl", "Alt"),
        ("Ctrl", "Alt", "Shift"),
    ),
    "mac": (
        (),
        ("Shift",),
        ("Meta",),
        ("Alt",),
        ("Ctrl",),
        ("Shift", "Meta"),
        ("Alt", "Meta"),
        ("Alt", "Shift", "Meta"),
    ),
}


class Slot(NamedTuple):
    """A stroke, whether it starts or mutes something, and whether longer runs begin with it."""

    stroke: Stroke
    taken: bool
    begins: bool

    @property
    def free(self) -> bool:
        return not self.taken and not self.begins


def free_map(
    keymap: Keymap, modes: tuple[str, ...]
) -> dict[tuple[str, ...], dict[str, list[Slot]]]:
    """For each group of modifiers and each bank of keys, the strokes in their order.

    A stroke is free where it starts nothing, and is not muted, in any of ``modes``.
    """
    return {
        held: {
            bank: [_slot(keymap, stroke(key, *held), modes) for key in keys]
            for bank, keys in BANKS.items()
        }
        for held in HELD["mac" if keymap.keyboard.platform == "mac" else "pc"]
    }


def _slot(keymap: Keymap, each: Stroke, modes: tuple[str, ...]) -> Slot:
    press = keymap.keyboard.press_of(Run((each,)))
    outcomes = [keymap.decide_press(press, mode) for mode in modes]
    taken = any(outcome.winners for outcome in outcomes)
    begins = any(outcome.longer for outcome in outcomes)
    return Slot(each, taken, begins)


def is_free(keymap: Keymap, trigger: Run, modes: tuple[str, ...]) -> bool:
    """Whether ``trigger`` does nothing at all in any of ``modes``."""
    return all(keymap.decide(trigger, mode).what == "nothing" for mode in modes)
