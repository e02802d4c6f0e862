"""Our own HTML pages: templates of this folder, every text escaped."""

import math
from typing import Any

from olive_compass.values import Value


def page(template: str, **values: Any) -> str:
    """The page that a template of ``templates/`` makes of ``values``."""
    from jinja2 import Environment, PackageLoader, select_autoescape

    loader = PackageLoader("olive_compass.drawing", "templates")
    environment = Environment(
        loader=loader, autoescape=select_autoescape(["html"]), trim_blocks=True, lstrip_blocks=True
    )
    environment.filters["strokes"] = strokes
    environment.filters["place"] = place
    return environment.get_template(template).render(**values) + "\n"


class Beside(Value):
    """Where what is said of a bearing stands beside a rose: on which side, and from where in parts of a
    hundred."""

    side: str
    x: float
    y: float


def place(bearing: int) -> Beside:
    """The place of a label around a rose that takes the middle half of its box.

    >>> place(0), place(90).side, place(240).side
    (Beside(side='n', x=50.0, y=13.0), 'e', 'w')
    """
    angle = math.radians(bearing)
    east, south = math.sin(angle), -math.cos(angle)
    side = ("n" if south < 0 else "s") if abs(east) < 0.1 else "e" if east > 0 else "w"
    beside = 1.5 if side == "e" else -1.5 if side == "w" else 0.0
    return Beside(side, round(50 + east * 25 + beside, 2), round(50 + south * 37, 2))


def strokes(key: str) -> list[list[str]]:
    """A trigger as strokes of single keys, for one ``<kbd>`` each.

    >>> strokes("Ctrl+Shift+B"), strokes("G D"), strokes("Ctrl++")
    ([['Ctrl', 'Shift', 'B']], [['G'], ['D']], [['Ctrl', '+']])
    """
    found = []
    for stroke in key.split(" "):
        *held, last = (
            stroke.split("+") if not stroke.endswith("+") else (*stroke[:-2].split("+"), "+")
        )
        if stroke.endswith("Num+"):
            held, last = [part for part in stroke[:-4].split("+") if part], "Num+"
        found.append([part for part in (*held, last) if part])
    return found
