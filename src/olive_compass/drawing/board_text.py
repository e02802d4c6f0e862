"""The keyboard as text: keys as boxes in their real rows, a short mark in each."""

from collections.abc import Mapping
from math import ceil

from olive_compass.core.keys.forms import Form, Seat

#: Which ways lines go from a corner (up, right, down, left) to the box character.
_BOXES = {
    0b1010: "│",
    0b0101: "─",
    0b0110: "┌",
    0b0011: "┐",
    0b1100: "└",
    0b1001: "┘",
    0b1110: "├",
    0b1011: "┤",
    0b0111: "┬",
    0b1101: "┴",
    0b1111: "┼",
    0b1000: "│",
    0b0010: "│",
    0b0100: "─",
    0b0001: "─",
}
_UP, _RIGHT, _DOWN, _LEFT = 8, 4, 2, 1

#: Short names of keys that type no character.
SHORT = {
    "Escape": "Esc",
    "Backspace": "Bs",
    "Tab": "Tab",
    "CapsLock": "Cap",
    "Enter": "Ent",
    "ShiftLeft": "Sh",
    "ShiftRight": "Sh",
    "ControlLeft": "Ct",
    "ControlRight": "Ct",
    "MetaLeft": "Me",
    "MetaRight": "Me",
    "AltLeft": "Al",
    "AltRight": "Al",
    "ContextMenu": "Mn",
    "Space": "Space",
    "PrintScreen": "Pr",
    "ScrollLock": "Sl",
    "Pause": "Pa",
    "Insert": "In",
    "Delete": "De",
    "Home": "Ho",
    "End": "En",
    "PageUp": "PU",
    "PageDown": "PD",
    "ArrowUp": "↑",
    "ArrowDown": "↓",
    "ArrowLeft": "←",
    "ArrowRight": "→",
    "NumLock": "Nl",
    "NumpadDivide": "/",
    "NumpadMultiply": "*",
    "NumpadSubtract": "-",
    "NumpadAdd": "+",
    "NumpadEnter": "En",
    "NumpadDecimal": ".",
    "NumpadComma": ",",
    "Fn": "Fn",
    "Convert": "Cv",
    "NonConvert": "Nc",
    "KanaMode": "Kn",
    **{f"Numpad{n}": str(n) for n in range(10)},
}

_ASCII_NAMES = {"↑": "^", "↓": "v", "←": "<", "→": ">"}


def _unit(form: Form, columns: int, rows: bool) -> int:
    """How many columns a key unit takes; only quarters of a unit line up with a form's steps."""
    wide = max(seat.x + seat.width for seat in form.seats.values())
    if rows or wide * 8 + 1 <= columns:
        return 8
    return 4


def left_out(form: Form, columns: int, rows: bool = False) -> set[str]:
    """The codes of the keys that have no room in a picture of so many columns."""
    unit = _unit(form, columns, rows)
    return {code for code, seat in form.seats.items() if (seat.x + seat.width) * unit + 1 > columns}


def board_lines(
    form: Form,
    labels: Mapping[str, str],
    marks: Mapping[str, str],
    columns: int,
    plain: bool,
    rows: bool = False,
) -> list[str]:
    """The lines of the picture: each key with its label and mark, both by code.

    ``columns`` is the width to keep within; ``plain`` draws with ASCII signs. A key unit takes
    eight columns where they fit, or else four; keys too far to the right are left out. With ``rows`` all
    rows stand right below each other, as those of a device do.
    """
    unit = _unit(form, columns, rows)
    off = left_out(form, columns, rows)
    seats = [seat for code, seat in form.seats.items() if code not in off]
    height = 2 * (max(seat.row for seat in seats) + 1) + 2
    width = ceil(max(seat.x + seat.width for seat in seats) * unit) + 1
    corners = [[0] * width for _ in range(height)]
    texts = [[" "] * width for _ in range(height)]
    for seat in seats:
        # The row of function keys stands a little apart.
        top = 2 * seat.row + (1 if seat.row and not rows else 0)
        _draw(seat, top, unit, corners, texts, labels, marks, plain)
    lines = [_line(*each, plain) for each in zip(corners, texts, strict=True)]
    while lines and not lines[-1]:
        lines.pop()
    return lines


def _line(corners: list[int], texts: list[str], plain: bool) -> str:
    """A line of the picture: corners and edges, and the letters between them."""
    signs = [
        _sign(corner, plain) if corner else text
        for corner, text in zip(corners, texts, strict=True)
    ]
    return "".join(signs).rstrip()


def _draw(
    seat: Seat,
    top: int,
    unit: int,
    corners: list[list[int]],
    texts: list[list[str]],
    labels: Mapping[str, str],
    marks: Mapping[str, str],
    plain: bool,
) -> None:
    left, right = round(seat.x * unit), round((seat.x + seat.width) * unit)
    bottom = top + 2 * round(seat.height)
    for column in range(left, right):
        for line in (top, bottom):
            corners[line][column] |= _RIGHT
            corners[line][column + 1] |= _LEFT
    for line in range(top, bottom):
        for column in (left, right):
            corners[line][column] |= _DOWN
            corners[line + 1][column] |= _UP
    room = right - left - 1
    mark = marks.get(seat.code, "")
    label = labels.get(seat.code, SHORT.get(seat.code, seat.code))
    if plain:
        label = _ASCII_NAMES.get(label, label)
        if not label.isascii():
            label = "?"
    if _is_long_function_key(label, mark, room):
        # Three of them would all be "F1" where a key is four columns wide.
        label = label[1:]
    text = (label[: max(room - len(mark), 0)] + mark)[:room]
    for n, char in enumerate(text):
        texts[top + 1][left + 1 + n] = char


def _is_long_function_key(label: str, mark: str, room: int) -> bool:
    return len(label) + len(mark) > room and label[:1] == "F" and label[1:].isdigit()


def _sign(corner: int, plain: bool) -> str:
    sign = _BOXES[corner]
    if not plain:
        return sign
    return {"│": "|", "─": "-"}.get(sign, "+")
