"""Triggers in a row: the neighbours of one, and those from one to another."""

import re

from olive_compass.core.keys.forms import Seat
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.letters import capital
from olive_compass.core.keys.triggers import Run, Stroke

#: What comes after what where keys are counted. The zero stands after the nine, as on a keyboard.
_DIGITS = ("1", "2", "3", "4", "5", "6", "7", "8", "9", "0")
_COUNTED = (
    _DIGITS,
    tuple(f"Num{digit}" for digit in _DIGITS),
    tuple(f"F{n}" for n in range(1, 25)),
)


def in_a_row(keyboard: Keyboard, first: Run, count: int) -> tuple[Run, ...]:
    """``count`` triggers from ``first`` on: the next digits, function keys or controls, or the keys to
    the right of it on this keyboard. Raises ``ValueError`` with a sentence where there are not so many.

    >>> [str(run) for run in in_a_row(Keyboard(), Run((Stroke(("Alt",), "9"),)), 2)]
    ['Alt+9', 'Alt+0']
    """
    stroke = first.strokes[-1]
    keys = _row_of(keyboard, stroke)
    if stroke.key not in keys:
        raise ValueError(f"{first} is in no row")
    rest = keys[keys.index(stroke.key) :]
    if len(rest) < count:
        raise ValueError(
            f"from {first} on there are {len(rest)} keys in the row, and {count} are wanted"
        )
    return tuple(_with_key(first, key) for key in rest[:count])


def between(first: Run, last: Run) -> tuple[Run, ...]:
    """The triggers from ``first`` to ``last``: both with the same modifiers. Raises ``ValueError``.

    >>> from olive_compass.core.keys.reading import read_trigger as read
    >>> [str(run) for run in between(read("Alt+1"), read("Alt+3"))]
    ['Alt+1', 'Alt+2', 'Alt+3']
    """
    a, b = first.strokes[-1], last.strokes[-1]
    if (first.strokes[:-1], a.modifiers) != (last.strokes[:-1], b.modifiers):
        raise ValueError(f"{first} and {last} do not have the same modifiers")
    for keys in (*_COUNTED, tuple("ABCDEFGHIJKLMNOPQRSTUVWXYZ"), _numbered(a.key, b.key)):
        if a.key in keys and b.key in keys and keys.index(a.key) <= keys.index(b.key):
            chosen = keys[keys.index(a.key) : keys.index(b.key) + 1]
            return tuple(_with_key(first, key) for key in chosen)
    raise ValueError(f"it cannot be counted from {first} to {last}")


def _numbered(a: str, b: str) -> tuple[str, ...]:
    """The controls of one device from one number to another: ``pad:K3`` to ``pad:K7``."""
    one, other = (re.fullmatch(r"(.+:[A-Za-z]*)(\d+)", key) for key in (a, b))
    if not one or not other or one[1] != other[1]:
        return ()
    return tuple(f"{one[1]}{n}" for n in range(int(one[2]), int(other[2]) + 1))


def _row_of(keyboard: Keyboard, stroke: Stroke) -> tuple[str, ...]:
    """The keys of the row in which a stroke stands, in their order."""
    for keys in _COUNTED:
        if stroke.key in keys:
            return keys
    # The order in which a device's controls were declared is the one in which they lie.
    device = keyboard.devices.get(stroke.key.partition(":")[0])
    if device:
        return tuple(f"{device.name}:{control}" for control in device.controls)
    layout = keyboard.layout
    codes = _codes_beside(keyboard, keyboard.made(stroke).presses[0][1])
    if stroke.by_place:
        return codes
    if layout is None:
        return ()
    # By what they type: the neighbour of Y is another one on a German board.
    labels = (layout.typed(code, 0) for code in codes if not code.startswith("Numpad"))
    return tuple(capital(char) for char in labels if char)


def _codes_beside(keyboard: Keyboard, code: str) -> tuple[str, ...]:
    """The keys in the row of a key, from the left; none where the keyboard has no such key, or nothing is known of
    where its keys lie."""
    if keyboard.form is None or code not in keyboard.form.seats:
        return ()
    seats = sorted(keyboard.form.seats.values(), key=_across)
    row = keyboard.form.seats[code].row
    return tuple(seat.code for seat in seats if seat.row == row)


def _across(seat: Seat) -> float:
    return seat.x


def _with_key(run: Run, key: str) -> Run:
    last = run.strokes[-1]
    return Run((*run.strokes[:-1], Stroke(last.modifiers, key, last.by_place)))
