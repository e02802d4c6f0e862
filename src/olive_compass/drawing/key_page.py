"""One page to look at: the keyboard of each application, its sheet, runs and roses, in one HTML file.

The page decides nothing: what each press does in each mode is worked out before and put into it.
"""

import base64
import hashlib
import json
from collections import Counter
from collections.abc import Mapping, Sequence
from importlib.resources import files
from typing import Any

from olive_compass.core.schemes.sheet import SheetGroup
from olive_compass.drawing.picture_parts import PALETTE
from olive_compass.drawing.templating import page
from olive_compass.values import Value


class Seen(Value):
    """What a key does: its state, the titles of what it does, why, and the group of its command."""

    state: str
    text: str = ""
    reasons: tuple[str, ...] = ()
    group: str = ""


class Board(Value):
    """A keyboard, or what lies beside it: its title, and each key's code, legend and place in key units
    (left, top, width, height)."""

    title: str
    keys: tuple[tuple[str, str, float, float, float, float], ...]


class Branch(Value):
    """A stroke of typed runs: what it does alone, and the strokes with which runs go on."""

    stroke: str
    does: str
    branches: tuple["Branch", ...] = ()


class Ray(Value):
    """A direction of a rose in a mode: degrees, its name, what it does, whether another mode differs."""

    bearing: int
    name: str
    does: str
    differs: bool


class Shown(Value):
    """An application on the page.

    ``grid`` is what each key does: by the modifiers held (``Ctrl+Shift``), then by code, for each of
    ``modes`` in their order; what is not in it is free. ``presses`` are the first strokes of each
    command by id, ``aria`` its keys as WAI-ARIA writes them.
    """

    name: str
    title: str
    subtitle: str
    modes: tuple[str, ...]
    held: tuple[str, ...]
    boards: tuple[Board, ...]
    grid: Mapping[str, Mapping[str, tuple[Seen, ...]]]
    groups: tuple[SheetGroup, ...]
    presses: Mapping[str, tuple[str, ...]]
    aria: Mapping[str, str]
    runs: tuple[Branch, ...]
    roses: Mapping[str, tuple[Ray, ...]]


def as_page(title: str, subtitle: str, apps: Sequence[Shown]) -> str:
    """The page as one file without any address outside itself; no title in it can run anything: only the
    script whose hash stands at its head may."""
    script = files("olive_compass.drawing").joinpath("templates", "page.js").read_text("utf-8")
    digest = base64.b64encode(hashlib.sha256(script.encode()).digest()).decode()
    data = {app.name: _data(app) for app in apps}
    return page(
        "page.html",
        title=title,
        subtitle=subtitle,
        apps=apps,
        script=script,
        digest=digest,
        data=_embedded(data),
    )


def _data(app: Shown) -> dict[str, Any]:
    """What the script looks up, each answer once."""
    known: dict[Seen, int] = {Seen("free"): 0}
    grid = {
        held: {
            code: [known.setdefault(seen, len(known)) for seen in found]
            for code, found in keys.items()
        }
        for held, keys in app.grid.items()
    }
    return {
        "modes": app.modes,
        "held": app.held,
        "boards": [{"title": board.title, "keys": board.keys} for board in app.boards],
        "seen": [
            {"state": seen.state, "text": seen.text, "why": seen.reasons, "group": seen.group}
            for seen in known
        ],
        "grid": grid,
        "tints": _tints(app),
    }


def _tints(app: Shown) -> dict[str, str]:
    """The colours of the groups with most keys, as the picture of a board has them."""
    counts: Counter[str] = Counter()
    for keys in app.grid.values():
        for found in keys.values():
            counts.update({seen.group for seen in found if seen.group})
    ordered = sorted(counts, key=lambda group: (-counts[group], group))
    return {group: tint for group, (tint, _) in zip(ordered, PALETTE, strict=False)}


def _embedded(data: Any) -> str:
    """JSON that may stand in a page: nothing in it ends the element that it stands in."""
    text = json.dumps(data, ensure_ascii=False, separators=(",", ":"))
    for sign in "<>&\u2028\u2029":
        text = text.replace(sign, f"\\u{ord(sign):04x}")
    return text
