"""Which strokes nobody has taken, by the modifiers held."""

from typing import Final, Literal

from msgspec import Struct

from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.presses import Press
from olive_compass.core.keys.triggers import Run, Stroke, stroke
from olive_compass.core.schemes import traits
from olive_compass.core.schemes.deciding import NOTHING, Keymap
from olive_compass.core.schemes.view import View

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


def banks(view: View) -> dict[str, tuple[str, ...]]:
    """The keys by rows, and after them what the application takes beside the keyboard."""
    takes = view.app.rules.takes
    if not takes:
        return BANKS
    from olive_compass.core.keys.kinds import kinds

    taken = [kind for kind in kinds() if kind.must_be_taken and kind.name in takes]
    beside = [kind.there(view.keyboard) for kind in taken]
    return {**BANKS, **{name: keys for each in beside for name, keys in each.items()}}


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


#: What can be said of a stroke: it is free; something has it; longer runs begin with it; the
#: rules or the keyboard do not allow it; typing writes text with it.
StrokeState = Literal["free", "taken", "begins", "barred", "typed"]
FREE: Final = "free"
TAKEN: Final = "taken"
BEGINS: Final = "begins"
BARRED: Final = "barred"
TYPED: Final = "typed"


class Slot(Struct, frozen=True):
    """A stroke, and what can be said of it: one of the words above."""

    stroke: Stroke
    state: StrokeState

    @property
    def free(self) -> bool:
        return self.state == FREE


def modifier_groups(keyboard: Keyboard) -> tuple[tuple[str, ...], ...]:
    """The modifiers that the map shows on a keyboard's platform, the easiest first."""
    if keyboard.platform == "mac":
        return HELD["mac"]
    return HELD["pc"]


def free_map(view: View, modes: tuple[str, ...]) -> dict[tuple[str, ...], dict[str, list[Slot]]]:
    """For each group of modifiers and each bank of keys, the strokes in their order.

    A stroke is free where it does nothing in any of ``modes``, the rules of the application allow
    it, the keyboard can make it, and it would not swallow what is typed.
    """
    texts = bool(traits.typing_modes(view.app, modes))
    rows = banks(view)
    return {
        held: {
            bank: [slot(view, stroke(key, *held), modes, texts) for key in keys]
            for bank, keys in rows.items()
        }
        for held in modifier_groups(view.keyboard)
    }


def free_strokes(
    view: View,
    modes: tuple[str, ...],
    only: tuple[tuple[tuple[str, ...], ...], tuple[str, ...]] | None = None,
) -> list[Stroke]:
    """The free strokes of the map, row by row; ``only`` are the modifiers and banks that are asked
    about."""
    texts = bool(traits.typing_modes(view.app, modes))
    groups = modifier_groups(view.keyboard)
    rows = banks(view)
    return [
        found.stroke
        for held in groups
        if only is None or held in only[0]
        for bank in rows
        if only is None or bank in only[1]
        for key in rows[bank]
        if (found := slot(view, stroke(key, *held), modes, texts)).free
    ]


def slot(view: View, each: Stroke, modes: tuple[str, ...], texts: bool) -> Slot:
    """What can be said of one stroke in ``modes``; ``texts``: typing writes text in one of them."""
    return Slot(each, state(view.keymap, Run((each,)), modes, texts))


def _decides(keymap: Keymap, press: Press, modes: tuple[str, ...]) -> bool:
    return press in keymap.buckets and any(keymap.winners(press, mode) for mode in modes)


def _goes_on(keymap: Keymap, press: Press, modes: tuple[str, ...]) -> bool:
    return press in keymap.beginnings and any(keymap.goes_on(press, mode) for mode in modes)


def _is_barred(keymap: Keymap, run: Run, modes: tuple[str, ...]) -> bool:
    """Whether the keyboard cannot make a trigger, or the application does not take it."""
    if any(traits.lacking(keymap.keyboard, stroke) for stroke in run.strokes):
        return True
    return any(True for _ in traits.broken_rules(keymap.app, keymap.keyboard, run, modes))


def state(keymap: Keymap, run: Run, modes: tuple[str, ...], texts: bool) -> StrokeState:
    """What can be said of a trigger in ``modes``, one of the words above."""
    presses = keymap.keyboard.presses_of(run)
    if any(_decides(keymap, press, modes) for press in presses):
        return TAKEN
    if any(_goes_on(keymap, press, modes) for press in presses):
        return BEGINS
    if _is_barred(keymap, run, modes):
        return BARRED
    if texts and traits.types_text(keymap.keyboard, run):
        return TYPED
    return FREE


def left_after(keymap: Keymap, first: Run, modes: tuple[str, ...]) -> list[str]:
    """The keys with which a run that begins with ``first`` may go on: the rules allow it, and it does
    nothing yet in any of ``modes``. Where runs are typed, only letters and digits."""
    app = keymap.app
    banks = ("letters", "digits") if app.rules.typed_sequences else BANKS
    runs = {key: Run((*first.strokes, stroke(key))) for bank in banks for key in BANKS[bank]}
    return [
        key
        for key, run in runs.items()
        if is_free(keymap, run, modes)
        and not any(True for _ in traits.broken_rules(app, keymap.keyboard, run, modes))
    ]


def is_free(keymap: Keymap, trigger: Run, modes: tuple[str, ...]) -> bool:
    """Whether ``trigger`` does nothing at all in any of ``modes``, on any key that makes it."""
    return all(
        keymap.decide_press(press, mode).what == NOTHING
        for press in keymap.keyboard.presses_of(trigger)
        for mode in modes
    )
