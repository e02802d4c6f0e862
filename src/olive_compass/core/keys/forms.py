"""Forms: which keys a keyboard has, and where they sit, in key units."""

from msgspec import Struct


class Seat(Struct, frozen=True, kw_only=True):
    """Where a key sits: its left upper corner, its width and height (key units), its row.

    Rows count from the top: 0 the function keys, 1 the digits, 2 to 4 the letters, 5 the space
    bar.
    """

    code: str
    x: float
    y: float
    width: float
    height: float
    row: int

    @property
    def centre(self) -> tuple[float, float]:
        """The middle of the key, at the height of a plain key of its row."""
        return self.x + self.width / 2, self.y + 0.5


class Form:
    """A keyboard's form: its name and title, and its keys by W3C ``code`` value."""

    def __init__(self, name: str, title: str, seats: dict[str, Seat]) -> None:
        self.name = name
        self.title = title
        self.seats = seats
        #: How hard each key is to reach with a finger: kept here by ``effort``.
        self.difficulties: dict[tuple[str, str, str], float] = {}


def form_from_rows(name: str, title: str, rows: str) -> Form:
    """The form that ``rows`` describe: a line a row, how far down it sits, then its keys.

    A key is its code, with ``*width`` and ``*height`` where they are not 1; ``_width`` is a
    gap. Raises ``ValueError`` with a sentence on the first mistake and the line's number.

    >>> form_from_rows("tiny", "Tiny", "0 KeyA _0.5 Space*2").seats["Space"]
    Seat(code='Space', x=1.5, y=0.0, width=2.0, height=1.0, row=0)
    """
    seats: dict[str, Seat] = {}
    for row, line in enumerate(filter(None, map(str.strip, rows.splitlines()))):
        try:
            found = _seats(line, row)
        except ValueError as error:
            raise ValueError(f"row {row + 1}: a size in “{line}” is no number") from error
        for seat in found:
            if seat.code in seats:
                raise ValueError(f"row {row + 1}: {seat.code} appears twice")
            seats[seat.code] = seat
    return Form(name, title, seats)


def _seats(line: str, row: int) -> list[Seat]:
    """The keys of a row, from left to right. Raises ``ValueError`` where a size is no number."""
    down, *tokens = line.split()
    y, x = float(down), 0.0
    found = []
    for token in tokens:
        if token.startswith("_"):
            x += float(token[1:])
            continue
        code, *sizes = token.split("*")
        width, height = (float(size) for size in (*sizes, "1", "1")[:2])
        found.append(Seat(code=code, x=x, y=y, width=width, height=height, row=row))
        x += width
    return found


#: The finger that strikes each key in touch typing, by hand and from the little finger inwards.
FINGERS = {
    ("left", "little"): "Backquote Digit1 Tab KeyQ CapsLock KeyA ShiftLeft IntlBackslash KeyZ "
    "ControlLeft Escape Fn",
    ("left", "ring"): "Digit2 KeyW KeyS KeyX MetaLeft F1 F2",
    ("left", "middle"): "Digit3 KeyE KeyD KeyC F3",
    ("left", "index"): "Digit4 Digit5 KeyR KeyT KeyF KeyG KeyV KeyB F4 F5",
    ("left", "thumb"): "AltLeft NonConvert",
    ("right", "thumb"): "Space AltRight Convert KanaMode",
    ("right", "index"): "Digit6 Digit7 KeyY KeyU KeyH KeyJ KeyN KeyM F6 F7 F8 Home End Insert "
    "Delete PageUp PageDown ArrowLeft Numpad1 Numpad4 Numpad7 NumLock",
    ("right", "middle"): "Digit8 KeyI KeyK Comma F9 ArrowUp ArrowDown Numpad2 Numpad5 Numpad8 "
    "NumpadDivide",
    ("right", "ring"): "Digit9 KeyO KeyL Period F10 ArrowRight Numpad3 Numpad6 Numpad9 "
    "NumpadMultiply NumpadDecimal MetaRight",
    ("right", "little"): "Digit0 Minus Equal KeyP BracketLeft BracketRight Semicolon Quote "
    "Backslash Slash Enter Backspace ShiftRight ControlRight ContextMenu IntlRo IntlYen F11 F12 "
    "PrintScreen ScrollLock Pause NumpadSubtract NumpadAdd NumpadEnter NumpadComma",
    ("right", "thumb "): "Numpad0",
}

#: Hand and finger by code.
FINGER_OF = {
    code: (hand, finger.strip())
    for (hand, finger), codes in FINGERS.items()
    for code in codes.split()
}

#: The keys on which the fingers rest, by hand and finger.
HOME = {
    ("left", "little"): "KeyA",
    ("left", "ring"): "KeyS",
    ("left", "middle"): "KeyD",
    ("left", "index"): "KeyF",
    ("left", "thumb"): "Space",
    ("right", "thumb"): "Space",
    ("right", "index"): "KeyJ",
    ("right", "middle"): "KeyK",
    ("right", "ring"): "KeyL",
    ("right", "little"): "Semicolon",
}
