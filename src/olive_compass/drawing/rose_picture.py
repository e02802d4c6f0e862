"""Roses as a picture: each a compass rose with what a swipe in each direction does.

Where everything stands is worked out first, as values; only the last step knows matplotlib.
"""

import math
from collections.abc import Iterator, Sequence
from typing import Any

from msgspec import Struct

from olive_compass.core.keys.roses import bearing_name
from olive_compass.drawing.picture_files import INK, QUIET, saved
from olive_compass.drawing.picture_parts import Text, blank, write
from olive_compass.drawing.rose_labels import beside_upright, gap
from olive_compass.drawing.text_metrics import LEADING, bold_width, fit, text_width

#: In points: the smallest ring, the room of a label beside it and its height, and the space around a rose.
RING, LABEL, HIGH, NEAR = 72.0, 104.0, 26.0, 9.0
#: In points: the space around all of it and between two roses; the height of a rose's name.
MARGIN, GAP, NAME = 26.0, 18.0, 17.0
#: What stands in a place that is empty, before what differs from mode to mode, and their meanings.
EMPTY, DIFFERS = "empty", "≠"
NOTES = ("≠ another command in another mode", "dashed: an empty place")

#: The sizes of the letters of a label, in points.
SIZES = (10, 9.5, 9, 8.5, 8, 7.5, 7, 6.5, 6, 5.5, 5)

#: The colours of a point of the rose: one that does something, one that differs, one that is empty.
FILLED, OTHER, NOTHING = "#5b6b2f", "#c77a1f", "#ffffff"


class Way(Struct, frozen=True):
    """A direction of a rose: its bearing in degrees, what a swipe does (``""``: nothing), and whether it
    does something else in another mode."""

    bearing: int
    title: str
    differs: bool = False


class Rose(Struct, frozen=True):
    """The rose of a mode."""

    name: str
    ways: tuple[Way, ...]


class Point(Struct, frozen=True):
    """A point of a compass rose: the middle of the rose, and its way."""

    x: float
    y: float
    way: Way


class RosePage(Struct, frozen=True, kw_only=True):
    """All that stands on a page of this width and height, in points."""

    width: float
    height: float
    points: tuple[Point, ...]
    texts: tuple[Text, ...]
    middles: tuple[tuple[float, float], ...]
    ring: float


def _notes(roses: Sequence[Rose], y: float) -> Iterator[Text]:
    """What the marks on the roses mean, as far as any of them has one, side by side."""
    ways = [way for rose in roses for way in rose.ways]
    met = (any(way.differs for way in ways), not all(way.title for way in ways))
    x = MARGIN
    for note, is_met in zip(NOTES, met, strict=True):
        if is_met:
            yield Text(x=x, y=y, size=8, line=note)
            x += text_width(note, 8) + 18


def laid_out(title: str, subtitle: str, roses: Sequence[Rose]) -> RosePage:
    """Where all of it stands: the roses side by side, as near to a square as they can be."""
    across = max(1, math.ceil(math.sqrt(len(roses))))
    # All of a page are as large as the one with the most directions, whose labels need most room.
    ring = max([RING, *(HIGH / gap(len(rose.ways)) - NEAR for rose in roses)])
    wide = 2 * (ring + NEAR + LABEL)
    high = NAME + 2 * (ring + NEAR + HIGH)
    texts = [
        Text(x=MARGIN, y=MARGIN, size=15, line=title, bold=True),
        Text(x=MARGIN, y=MARGIN + 19, size=8.5, line=subtitle),
    ]
    points: list[Point] = []
    middles = []
    top = MARGIN + 44
    for n, rose in enumerate(roses):
        x = MARGIN + (n % across) * (wide + GAP) + wide / 2
        y = top + (n // across) * (high + GAP)
        name = fit(rose.name, wide, NAME, (11, 9, 7), bold_width)
        for each in name.lines[:1]:
            texts.append(
                Text(
                    x=x - bold_width(each, name.size) / 2, y=y, size=name.size, line=each, bold=True
                )
            )
        y += NAME + ring + NEAR + HIGH
        middles.append((x, y))
        for way in rose.ways:
            points.append(Point(x, y, way))
            texts += _label(x, y, ring, way, len(rose.ways))
    rows = math.ceil(len(roses) / across)
    bottom = top + rows * (high + GAP)
    texts += _notes(roses, bottom)
    right = max([MARGIN + across * (wide + GAP) - GAP, *(t.x + t.width for t in texts)])
    return RosePage(
        width=right + MARGIN,
        height=bottom + 12 + MARGIN,
        points=tuple(points),
        texts=tuple(texts),
        middles=tuple(middles),
        ring=ring,
    )


def _label(x: float, y: float, ring: float, way: Way, of: int) -> list[Text]:
    """What a way does, beside the end of its point, and its bearing within the ring. Where the rose has
    more than eight, what stands above and below it has its room between its neighbours."""
    angle = math.radians(way.bearing)
    east, south = math.sin(angle), -math.cos(angle)
    name = bearing_name(way.bearing)
    found = [
        Text(
            x=x + east * ring * 0.8 - bold_width(name, 6.5) / 2,
            y=y + south * ring * 0.8 - 3.6,
            size=6.5,
            line=name,
            bold=True,
        )
    ]
    said = way.title or EMPTY
    if way.differs:
        said = f"{DIFFERS} {said}"
    # Straight up and down a text is centred; on the sides it begins at the point.
    upright = abs(east) < 0.01
    if of > 8:
        above = 2 * (beside_upright(of) * ring + NEAR) - 6
    else:
        above = LABEL * 1.8
    fitted = fit(said, above if upright else LABEL, HIGH, SIZES)
    top = y + south * (ring + NEAR) - fitted.height / 2
    if upright:
        top = y + (ring + NEAR if south > 0 else -ring - NEAR - fitted.height)
    for n, line in enumerate(fitted.lines):
        wide = text_width(line, fitted.size)
        left = x + east * ring + (NEAR if east > 0 else -NEAR - wide)
        if upright:
            left = x - wide / 2
        found.append(Text(x=left, y=top + n * fitted.size * LEADING, size=fitted.size, line=line))
    return found


def drawn(page: RosePage, form: str) -> bytes:
    """The page as ``png``, ``svg`` or ``pdf``."""
    figure, axes = blank(page.width, page.height, [text.line for text in page.texts])
    from matplotlib.patches import Circle

    for middle in page.middles:
        for radius in (page.ring, page.ring * 0.66):
            axes.add_patch(Circle(middle, radius, fill=False, edgecolor="#c3c7b6", linewidth=0.8))
    for point in page.points:
        _draw_point(axes, point, page.ring)
    for text in page.texts:
        quiet = text.line == EMPTY
        write(
            axes,
            text.x,
            text.y,
            text.size,
            text.line,
            text.bold,
            colour=QUIET if quiet else INK,
        )
    return saved(figure, form)


def _draw_point(axes: Any, point: Point, ring: float) -> None:
    """A kite from the middle to the ring."""
    from matplotlib.patches import Polygon

    angle = math.radians(point.way.bearing)
    half = math.radians(9 if ring > RING else 13)
    tip, shoulder = ring * 0.66, ring * 0.26
    corners = [(point.x, point.y)]
    for turn, reach in ((-half, shoulder), (0.0, tip), (half, shoulder)):
        corners.append(
            (point.x + math.sin(angle + turn) * reach, point.y - math.cos(angle + turn) * reach)
        )
    way = point.way
    colour = (OTHER if way.differs else FILLED) if way.title else NOTHING
    axes.add_patch(
        Polygon(
            corners,
            closed=True,
            facecolor=colour,
            edgecolor=QUIET,
            linewidth=0.8,
            linestyle="-" if way.title else "--",
            hatch="////" if way.title and way.differs else None,
        )
    )
