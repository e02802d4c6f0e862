"""The board as a picture: the form's own keys, what each types and does, as PNG, SVG or PDF from one drawing.

Where everything stands is worked out first, as values; only the last step knows matplotlib.
"""

from collections.abc import Iterator, Mapping, Sequence
from typing import Any

from msgspec import Struct

from olive_compass.core.keys.forms import Form
from olive_compass.drawing.group_colours import Paint, paints
from olive_compass.drawing.picture_files import INK, saved
from olive_compass.drawing.picture_parts import Text, blank, rectangle, write
from olive_compass.drawing.text_metrics import LEADING, Fitted, bold_width, fit
from olive_compass.structs import replace

#: Points in a key unit on the page, from which the page is made smaller.
UNIT = 40.0
#: Space within a key, the height of the line of its legend, and of the note below.
PAD, CAP, NOTE = 2.6, 9.0, 7.0

#: What marks a key that does something else than in another scheme.
DIFFERS = "≠"

#: How often: from seldom to most, each dark enough to be told from the last, and light enough for letters.
HEAT = ("#fff3d6", "#fde0a6", "#f9c66b", "#eda63f", "#dd8630")

#: How a state is told without colour: a sign in the corner, and the line around the key.
SIGNS: Mapping[str, tuple[str, float, str]] = {
    "free": ("", 0.6, "-"),
    "used": ("", 0.8, "-"),
    "begins": ("…", 0.8, ":"),
    "muted": ("×", 0.8, "--"),
    "guarded": ("!", 2.0, "-"),
    "reserved": ("#", 0.8, "-"),
    "shared": ("&", 0.8, "-"),
    "keyless": ("–", 0.6, "--"),
}


#: What is printed on the keys that type nothing.
LEGENDS: Mapping[str, str] = {
    "Escape": "Esc",
    "CapsLock": "Caps",
    "ShiftLeft": "Shift",
    "ShiftRight": "Shift",
    "ControlLeft": "Ctrl",
    "ControlRight": "Ctrl",
    "MetaLeft": "Meta",
    "MetaRight": "Meta",
    "AltLeft": "Alt",
    "AltRight": "Alt",
    "ContextMenu": "Menu",
    "PrintScreen": "Print",
    "ScrollLock": "Scroll",
    "PageUp": "Page ↑",
    "PageDown": "Page ↓",
    "ArrowUp": "↑",
    "ArrowDown": "↓",
    "ArrowLeft": "←",
    "ArrowRight": "→",
    "NumLock": "Num",
    "NumpadDivide": "/",
    "NumpadMultiply": "*",
    "NumpadSubtract": "-",
    "NumpadAdd": "+",
    "NumpadEnter": "Enter",
    "NumpadDecimal": ".",
    "NumpadComma": ",",
    "NonConvert": "Nonconv",
    "KanaMode": "Kana",
    **{f"Numpad{n}": str(n) for n in range(10)},
}


class Key(Struct, frozen=True, kw_only=True):
    """What is drawn on a key: its legend, its state, what it does, and the group that gives its colour.

    ``was`` is what it does in the scheme that this is held against, ``""`` where that is the same;
    ``uses`` how often what it does was used, None where that is not asked; ``note`` stands below.
    """

    label: str
    state: str
    text: str = ""
    group: str = ""
    was: str = ""
    uses: int | None = None
    note: str = ""

    @property
    def sign(self) -> str:
        """What stands in its corner."""
        return SIGNS[self.state][0] + (DIFFERS if self.was else "")

    @property
    def whole(self) -> str:
        """All that is written on it."""
        if self.was:
            return f"{self.text or 'nothing'}, was {self.was}"
        return self.text


class Panel(Struct, frozen=True):
    """A board on the page: a title (the modifiers held), its form and what is on its keys."""

    title: str
    form: Form
    keys: Mapping[str, Key]


class Box(Struct, frozen=True, kw_only=True):
    """A key on the page, in points from its left upper corner."""

    x: float
    y: float
    width: float
    height: float
    key: Key
    legend: Fitted
    does: Fitted
    note: Fitted
    paint: Paint = ("#ffffff", "")


class BoardPage(Struct, frozen=True, kw_only=True):
    """All that stands on a page of this width and height, in points."""

    width: float
    height: float
    boxes: tuple[Box, ...]
    titles: tuple[Text, ...]
    swatches: tuple[tuple[float, float, Paint], ...]
    notes: tuple[Text, ...]

    @property
    def lines(self) -> list[str]:
        """All that is written on it."""
        found = [text.line for text in (*self.titles, *self.notes)]
        for box in self.boxes:
            found += [*box.legend.lines, *box.does.lines, *box.note.lines]
        return found


#: The space around all of it, and between two boards.
MARGIN, GAP, TITLE = 24.0, 14.0, 18.0


def laid_out(
    title: str, subtitle: str, panels: Sequence[Panel], groups: Sequence[str] = ()
) -> BoardPage:
    """Where all of it stands, panel below panel; ``groups`` in the order in which they get their colours."""
    titles = [
        Text(x=MARGIN, y=MARGIN, size=15, line=title, bold=True),
        Text(x=MARGIN, y=MARGIN + 19, size=8.5, line=subtitle),
    ]
    boxes: list[Box] = []
    y = MARGIN + 38
    right = MARGIN + max(text.width for text in titles)
    for panel in panels:
        if panel.title:
            titles.append(Text(x=MARGIN, y=y, size=10, line=panel.title, bold=True))
            right = max(right, MARGIN + titles[-1].width)
            y += TITLE
        above = min(seat.y for seat in panel.form.seats.values()) * UNIT
        found = [_box(panel, code, y - above) for code in panel.form.seats]
        boxes += found
        y = max(box.y + box.height for box in found) + GAP
        right = max([right, *(box.x + box.width for box in found)])
    width = right + MARGIN
    colours = _colours(boxes, groups)
    boxes = [replace(box, paint=_paint(box.key, colours)) for box in boxes]
    swatches, notes, end = _legend(boxes, colours, y, width)
    return BoardPage(
        width=width,
        height=end + MARGIN,
        boxes=tuple(boxes),
        titles=tuple(titles),
        swatches=swatches,
        notes=notes,
    )


def _box(panel: Panel, code: str, top: float) -> Box:
    seat = panel.form.seats[code]
    key = panel.keys[code]
    width, height = seat.width * UNIT - 3, seat.height * UNIT - 3
    room = width - 2 * PAD
    sign = bold_width(key.sign, 8)
    legend = fit(key.label, room - sign - 2, CAP, (7.5, 6.5, 5.5, 4.5), bold_width)
    note = fit(key.note, room, NOTE, (5, 4.5, 4))
    high = height - CAP - 2 * PAD - (NOTE if key.note else 0)
    does = fit(key.whole, room, high)
    x, y = MARGIN + seat.x * UNIT, top + seat.y * UNIT
    return Box(x=x, y=y, width=width, height=height, key=key, legend=legend, does=does, note=note)


def _colours(boxes: Sequence[Box], groups: Sequence[str]) -> dict[str, Paint]:
    """The colours by what they mean: of the groups that occur, or where uses are counted, of how often."""
    most = max((box.key.uses or 0 for box in boxes), default=0)
    if any(box.key.uses is not None for box in boxes):
        ranges = _ranges(most)
        return {each: (tint, "") for each, tint in zip(ranges, HEAT[-len(ranges) :], strict=False)}
    met = {box.key.group for box in boxes}
    return {group: paint for group, paint in paints(groups).items() if group in met}


def _paint(key: Key, colours: Mapping[str, Paint]) -> Paint:
    if key.uses:
        return next(
            paint for each, paint in colours.items() if key.uses <= int(each.split(" ")[-1])
        )
    if key.group in colours:
        return colours[key.group]
    plain = key.state in ("free", "begins", "keyless") or key.uses == 0
    return ("#ffffff" if plain else "#e4e6dd", "")


def _ranges(most: int) -> list[str]:
    """How often, in steps that grow alike: ``1 to 3``, up to the most there is."""
    found = []
    last = 0
    for n in range(1, len(HEAT) + 1):
        if n == len(HEAT):
            end = most
        else:
            end = round((most + 1) ** (n / len(HEAT))) - 1
        if end > last:
            found.append(f"{last + 1} to {end}" if end > last + 1 else f"{end}")
            last = end
    return found


def _legend(
    boxes: Sequence[Box], colours: Mapping[str, Paint], y: float, width: float
) -> tuple[tuple[tuple[float, float, Paint], ...], tuple[Text, ...], float]:
    """What the colours mean, and the signs that occur, in as many lines as it takes."""
    swatches, notes = [], []
    x = MARGIN
    for group, line in _meanings(boxes, colours):
        text = Text(x=x + (14 if group else 0), y=y, size=8, line=line)
        # A note that is wider than the page by itself stands on a line of its own all the same.
        if text.x + text.width > width - MARGIN and x > MARGIN:
            x, y = MARGIN, y + 14
            text = Text(x=x + (14 if group else 0), y=y, size=8, line=line)
        if group:
            swatches.append((x, y, colours[group]))
        notes.append(text)
        x = text.x + text.width + 16
    return tuple(swatches), tuple(notes), y + 12


#: What the signs on keys mean.
_STATES = {
    "begins": "… typed sequences begin with it",
    "muted": "× muted",
    "guarded": "! guarded",
    "reserved": "# reserved",
    "shared": "& several commands share it",
    "keyless": "– free: keyless on purpose",
}


def _meanings(boxes: Sequence[Box], colours: Mapping[str, Paint]) -> Iterator[tuple[str, str]]:
    """The colours, then the signs that occur (``""`` in the place of a colour), with what each means."""
    counted = any(box.key.uses is not None for box in boxes)
    for each in colours:
        yield each, f"used {each}" if counted else each
    states = {box.key.state for box in boxes}
    yield from (("", means) for state, means in _STATES.items() if state in states)
    if any(box.key.was for box in boxes):
        yield "", f"{DIFFERS} does something else in the other scheme"
    if counted:
        yield "", "below: how often used · the reach in home strokes"


def drawn(page: BoardPage, form: str) -> bytes:
    """The page as ``png``, ``svg`` or ``pdf``."""
    figure, axes = blank(page.width, page.height, page.lines)
    for box in page.boxes:
        _draw_key(axes, box)
    for text in (*page.titles, *page.notes):
        write(axes, text.x, text.y, text.size, text.line, text.bold)
    for x, y, (colour, hatch) in page.swatches:
        rectangle(axes, (x, y, 10, 9), colour, hatch, 0.6, "-")
    return saved(figure, form)


def _draw_key(axes: Any, box: Box) -> None:
    _, wide, line = SIGNS[box.key.state]
    colour, hatch = box.paint
    rectangle(axes, (box.x, box.y, box.width, box.height), colour, hatch, wide, line)
    for n, each in enumerate(box.legend.lines[:1]):
        write(axes, box.x + PAD, box.y + PAD + n, box.legend.size, each, True, bool(hatch))
    if sign := box.key.sign:
        x = box.x + box.width - PAD - bold_width(sign, 8)
        write(axes, x, box.y + PAD - 1, 8, sign, True)
    for n, each in enumerate(box.does.lines):
        y = box.y + PAD + CAP + n * box.does.size * LEADING
        write(axes, box.x + PAD, y, box.does.size, each, False, bool(hatch))
    for each in box.note.lines[:1]:
        y = box.y + box.height - PAD - box.note.size
        write(axes, box.x + PAD, y, box.note.size, each, colour=INK)
