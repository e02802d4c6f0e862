"""Keys in print: strokes as caps, swipes as arrows, modes as marks. All lengths are in ems."""

from collections.abc import Callable, Sequence

from msgspec import Struct

from olive_compass.core.keys.kinds.swipe import bearing_of
from olive_compass.core.keys.roses import bearing_name
from olive_compass.core.keys.triggers import Run
from olive_compass.drawing.pages import Arrow, Cap, Measure, Words

#: The height and the padding of a key, the space between two, and the height of a line of keys.
CAP, PAD, GAP, LINE = 1.3, 0.3, 0.22, 1.55
#: The size of the letters of keys and of marks, and the room of an arrow.
KEY, MARK, ARROW = 0.9, 0.68, 1.1


class Piece(Struct, frozen=True):
    """A stroke: what is printed on its key, and the bearing of a swipe, None for any other."""

    text: str
    bearing: int | None = None


class Trigger(Struct, frozen=True):
    """Strokes one after another, the marks of the modes in which they count, and all of it in words."""

    pieces: tuple[Piece, ...]
    marks: tuple[str, ...] = ()
    text: str = ""


def printed(trigger: Run, show: Callable[[Run], str], marks: tuple[str, ...] = ()) -> Trigger:
    """A trigger as it is drawn: a key a stroke, an arrow for a swipe."""
    pieces = []
    for stroke in trigger.strokes:
        bearing = bearing_of(stroke)
        text = show(Run((stroke,)))
        if bearing is not None:
            text = "+".join((*stroke.modifiers, bearing_name(bearing)))
        pieces.append(Piece(text, bearing))
    return Trigger(tuple(pieces), marks, show(trigger))


def piece_width(piece: Piece, measure: Measure) -> float:
    arrow = 0.0
    if piece.bearing is not None:
        arrow = ARROW
    return measure(piece.text, KEY, False) + arrow + 2 * PAD


def mark_width(mark: str, measure: Measure) -> float:
    return measure(mark, MARK, True) + 0.5


def trigger_width(trigger: Trigger, measure: Measure) -> float:
    wide = sum(piece_width(piece, measure) + GAP for piece in trigger.pieces)
    return wide + sum(mark_width(mark, measure) + GAP for mark in trigger.marks) - GAP


def put_keys(
    triggers: Sequence[Trigger],
    room: float,
    measure: Measure,
    caps: list[Cap],
    arrows: list[Arrow],
) -> tuple[float, float]:
    """Puts the triggers one after another into ``room``; gives where the last one ends, and the height
    that they all take."""
    if not triggers:
        return (0.0, 0.0)
    x = y = 0.0
    for trigger in triggers:
        # A trigger goes over as a whole where it can: its strokes are read together.
        x, y = _with_room(x, y, trigger_width(trigger, measure), room)
        for piece in trigger.pieces:
            wide = piece_width(piece, measure)
            x, y = _with_room(x, y, wide, room)
            _put_piece(piece, x, y, room, measure, caps, arrows)
            x += min(wide, room) + GAP
        for mark in trigger.marks:
            wide = mark_width(mark, measure)
            x, y = _with_room(x, y, wide, room)
            caps.append(mark_cap(mark, x, y + 0.1, wide))
            x += wide + GAP
        x += 2 * GAP
    return (x - 2 * GAP, y + LINE)


def _with_room(x: float, y: float, wide: float, room: float) -> tuple[float, float]:
    """Where something so wide goes: here, or at the beginning of the next line."""
    if x and x + wide > room:
        return 0.0, y + LINE
    return x, y


def _put_piece(
    piece: Piece,
    x: float,
    y: float,
    room: float,
    measure: Measure,
    caps: list[Cap],
    arrows: list[Arrow],
) -> None:
    wide = piece_width(piece, measure)
    # A key wider than all that keys may take stands in smaller letters.
    scale = min(1.0, room / wide)
    arrow = 0.0
    if piece.bearing is not None:
        arrow = ARROW * scale
    size = KEY * scale
    words = Words(x=x + PAD * scale + arrow, y=y + (CAP - size) / 2, size=size, line=piece.text)
    caps.append(Cap(x=x, y=y, width=wide * scale, height=CAP, words=words))
    if piece.bearing is not None:
        arrows.append(
            Arrow(
                x=x + PAD * scale * 0.8, y=y + (CAP - scale) / 2, size=scale, bearing=piece.bearing
            )
        )


def mark_cap(mark: str, x: float, y: float, wide: float) -> Cap:
    return Cap(
        x=x,
        y=y + 0.1,
        width=wide,
        height=1.0,
        words=Words(x=x + 0.25, y=y + 0.26, size=MARK, line=mark, bold=True, tone="soft"),
        mark=True,
    )
