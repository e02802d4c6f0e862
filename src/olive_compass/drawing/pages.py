"""A printed page as values: where each text, key, arrow and line stands, in points from its left upper corner."""

from collections.abc import Callable

from msgspec import Struct

#: The sizes of paper by name, upright, in points (ISO 216; ANSI/ASME Y14.1).
PAPERS = {
    "a3": (841.89, 1190.55),
    "a4": (595.28, 841.89),
    "a5": (419.53, 595.28),
    "a6": (297.64, 419.53),
    "letter": (612.0, 792.0),
    "tabloid": (792.0, 1224.0),
}

#: How wide a text stands: the text, the size of its letters in points, whether they are bold.
Measure = Callable[[str, float, bool], float]

#: How far below the top of a line of letters they stand, as a part of their size.
BASELINE = 0.8


class Words(Struct, frozen=True, kw_only=True):
    """A line of letters; ``tone``: ``ink``, ``soft`` or ``accent``."""

    x: float
    y: float
    size: float
    line: str
    bold: bool = False
    tone: str = "ink"


class Cap(Struct, frozen=True, kw_only=True):
    """A key with what is written on it; ``mark``: the sign of a mode instead; ``tint``: a colour of its own."""

    x: float
    y: float
    width: float
    height: float
    words: Words | None
    mark: bool = False
    tint: str = ""


class Arrow(Struct, frozen=True, kw_only=True):
    """An arrow in a compass direction, in a square of ``size``."""

    x: float
    y: float
    size: float
    bearing: int


class Rule(Struct, frozen=True, kw_only=True):
    """A line across."""

    x: float
    y: float
    width: float
    tone: str = "line"


class Page(Struct, frozen=True, kw_only=True):
    """All that stands on a page of this width and height."""

    width: float
    height: float
    words: tuple[Words, ...] = ()
    caps: tuple[Cap, ...] = ()
    arrows: tuple[Arrow, ...] = ()
    rules: tuple[Rule, ...] = ()


class Paper(Struct, frozen=True):
    """What is printed on: width and height, and the margin around, in points."""

    width: float
    height: float
    margin: float = 28.0

    @property
    def inner(self) -> float:
        """The width between the margins."""
        return self.width - 2 * self.margin


def paper(name: str, lying: bool) -> Paper:
    """The paper of that name, on its long side where ``lying``; small ones have small margins."""
    short, long = PAPERS[name]
    margin = 28.0 if short > 400 else 18.0
    if lying:
        return Paper(long, short, margin)
    return Paper(short, long, margin)
