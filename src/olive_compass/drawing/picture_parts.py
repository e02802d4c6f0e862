"""The parts that pictures are made of: a blank page, letters, boxes, and the colours of groups."""

from collections.abc import Iterable
from typing import Any

from msgspec import Struct

from olive_compass.drawing.picture_files import INK, QUIET, prepare
from olive_compass.drawing.text_metrics import bold_width, text_width


class Text(Struct, frozen=True, kw_only=True):
    """Letters on the page: their left upper corner, size and line."""

    x: float
    y: float
    size: float
    line: str
    bold: bool = False

    @property
    def width(self) -> float:
        return (bold_width if self.bold else text_width)(self.line, self.size)


def blank(width: float, height: float, texts: Iterable[str]) -> tuple[Any, Any]:
    """A figure of that size in points, and its axes, in points from the left upper corner; ``texts`` are
    what will be written on it."""
    from matplotlib import rcParams
    from matplotlib.backends.backend_agg import FigureCanvasAgg
    from matplotlib.figure import Figure

    prepare(texts)
    rcParams["hatch.linewidth"] = 0.3
    figure = Figure(figsize=(width / 72, height / 72), dpi=110)
    FigureCanvasAgg(figure)
    axes: Any = figure.add_axes((0, 0, 1, 1))
    axes.set_xlim(0, width)
    axes.set_ylim(height, 0)
    axes.axis("off")
    return figure, axes


def rectangle(
    axes: Any,
    place: tuple[float, float, float, float],
    colour: str,
    hatch: str,
    wide: float,
    line: str,
) -> None:
    """A box with round corners at a place (left, top, width, height)."""
    from matplotlib.patches import FancyBboxPatch

    x, y, width, height = place
    # The axes have their limits: an artist is not asked how far it goes, as a patch would be.
    axes.add_artist(
        FancyBboxPatch(
            (x, y),
            width,
            height,
            boxstyle="round,pad=0,rounding_size=2.5",
            facecolor=colour,
            edgecolor=QUIET,
            linewidth=wide,
            linestyle=line,
            hatch=hatch or None,
        )
    )


def write(
    axes: Any,
    x: float,
    y: float,
    size: float,
    line: str,
    bold: bool = False,
    plain: bool = False,
    colour: str = INK,
) -> None:
    """A line of letters from its left upper corner; ``plain``: on a light ground of its own."""
    if plain:
        ground = {"facecolor": "white", "edgecolor": "none", "pad": 0.2, "alpha": 0.75}
    else:
        ground = None
    axes.text(
        x,
        y,
        line,
        fontsize=size,
        fontweight="bold" if bold else "normal",
        va="top",
        ha="left",
        color=colour,
        bbox=ground,
    )
