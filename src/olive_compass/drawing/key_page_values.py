"""What the page of keys shows of an application."""

from collections.abc import Mapping

from msgspec import Struct

from olive_compass.core.schemes.sheet import SheetGroup


class Seen(Struct, frozen=True, kw_only=True):
    """What a key does: its state, the titles of what it does, why, and the group of its command."""

    state: str
    text: str = ""
    reasons: tuple[str, ...] = ()
    group: str = ""


class Board(Struct, frozen=True):
    """A keyboard, or what lies beside it: its title, and each key's code, legend and place in key units
    (left, top, width, height)."""

    title: str
    keys: tuple[tuple[str, str, float, float, float, float], ...]


class Branch(Struct, frozen=True):
    """A stroke of typed runs: what it does alone, and the strokes with which runs go on."""

    stroke: str
    does: str
    branches: tuple["Branch", ...] = ()


class Ray(Struct, frozen=True, kw_only=True):
    """A direction of a rose in a mode: degrees, its name, what it does, whether another mode differs."""

    bearing: int
    name: str
    does: str
    differs: bool


class Listed(Struct, frozen=True, kw_only=True):
    """A command that can be looked for: its title, its menus in words, its keys as they are written, the mode in which
    to look at it, and its presses as the page names them."""

    title: str
    menu: str
    keys: str
    mode: str
    presses: tuple[str, ...]


class Shown(Struct, frozen=True, kw_only=True):
    """An application on the page.

    ``grid`` is what each key does: by the modifiers held (``Ctrl+Shift``), then by code, for each of
    ``modes`` in their order; what is not in it is free. ``presses`` are the first strokes of each
    command by id, ``aria`` its keys as WAI-ARIA writes them; ``opens`` is the mode that is shown first, ``menus``
    have their colours in this order, and ``commands`` are all that can be looked for.
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
    opens: str = ""
    menus: tuple[str, ...] = ()
    commands: tuple[Listed, ...] = ()
