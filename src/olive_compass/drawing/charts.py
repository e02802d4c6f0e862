"""Charts of what was counted: values in, a file's bytes out. All of them share one style."""

from collections.abc import Mapping, Sequence
from typing import Any

from msgspec import Struct

from olive_compass.drawing.picture_files import QUIET, prepare, saved

#: A colour for each way of going, and for each way of saving, told apart by colour-blind eyes (after Okabe and Ito), and a hatch for print
#: in black and white.
WAYS: Mapping[str, tuple[str, str]] = {
    "key": ("#3f6b35", ""),
    "swipe": ("#56b4e9", "//"),
    "tray": ("#cc79a7", "xx"),
    "toolbar": ("#e69f00", ".."),
    "menu": ("#d55e00", "\\\\"),
    "saved by keys": ("#3f6b35", ""),
    "more, if they were pressed": ("#56b4e9", "//"),
    "with a key": ("#e69f00", ".."),
}
_OTHER = ("#8a8f80", "oo")


class Bar(Struct, frozen=True):
    """A bar: what it is called, and how often by each way; ``note`` stands at its end."""

    title: str
    ways: Mapping[str, float]
    note: str = ""


def bars(title: str, subtitle: str, rows: Sequence[Bar], unit: str, form: str) -> bytes:
    """A chart of lying bars, separated by way, as ``png``, ``svg`` or ``pdf``."""
    from matplotlib.figure import Figure

    texts = [title, subtitle, unit]
    for row in rows:
        texts += [row.title, row.note]
    prepare(texts)
    figure = Figure(figsize=(12.8, min(max(2.2, 1.5 + 0.36 * len(rows)), 12)), dpi=100)
    axes = figure.add_subplot()
    _draw(axes, rows, unit)
    axes.set_title(title, loc="left", fontsize=16, fontweight="bold", pad=28)
    axes.text(0, 1.0, subtitle, transform=axes.transAxes, va="bottom", color=QUIET)
    figure.tight_layout()
    return saved(figure, form)


def _draw(axes: Any, rows: Sequence[Bar], unit: str) -> None:
    ways = _ways_of(rows)
    places = list(range(len(rows)))[::-1]
    starts = [0.0] * len(rows)
    for way in ways:
        colour, hatch = WAYS.get(way, _OTHER)
        sizes = [row.ways.get(way, 0) for row in rows]
        axes.barh(
            places,
            sizes,
            left=starts,
            label=way,
            color=colour,
            hatch=hatch,
            edgecolor="white",
            height=0.72,
        )
        starts = [start + size for start, size in zip(starts, sizes, strict=True)]
    most = max(starts, default=1) or 1
    for place, start, row in zip(places, starts, rows, strict=True):
        axes.text(start + most * 0.008, place, row.note, va="center", fontsize=10, color="#3a3f33")
    axes.set_yticks(places, [row.title for row in rows], fontsize=11)
    axes.set_xlabel(unit)
    axes.set_xlim(0, most * 1.14)
    axes.spines[["top", "right", "left"]].set_visible(False)
    axes.tick_params(left=False)
    axes.grid(axis="x", color="#e4e6dd")
    axes.set_axisbelow(True)
    axes.legend(loc="lower right", frameon=False, ncols=len(ways) or 1)


def _ways_of(rows: Sequence[Bar]) -> list[str]:
    """The ways in which anything was used: those that we know in their order, then all others."""
    met = {way for row in rows for way, times in row.ways.items() if times}
    return [*(way for way in WAYS if way in met), *sorted(met - WAYS.keys())]
