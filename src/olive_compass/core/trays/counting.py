"""Which trays count: of each name the one of the nearest layer; and in which order they stand."""

from collections.abc import Iterable

from olive_compass.core.apps.trays import Tray
from olive_compass.core.schemes.layers import PLACE, PROJECT, scheme_layer

#: Where a tray can stand without naming one of the application's own.
FIRST, LAST = "first", "last"

#: Where it can stand beside one of them.
BESIDE = ("before", "after")


def counting(trays: Iterable[Tray], project: str) -> tuple[Tray, ...]:
    """The trays that count in ``project``, in their order. Nearer layers hide those of their name."""
    found: dict[str, Tray] = {}
    for each in sorted(trays, key=_nearness):
        if each.layer == PROJECT and each.project not in ("", project):
            continue
        found.setdefault(each.name, each)
    # Those of one place stand as they come in the file.
    return tuple(sorted(found.values(), key=lambda each: _RANKS.get(each.place.split(" ")[0], 1)))


_RANKS = {FIRST: 0, LAST: 2}


def below(trays: Iterable[Tray], tray: Tray) -> Tray | None:
    """The tray of that name that the next layer has, which applies where this one goes."""
    lower = [e for e in trays if e.name == tray.name and _nearness(e) > _nearness(tray)]
    return min(lower, key=_nearness, default=None)


def read_place(text: str, menus: Iterable[str]) -> str:
    """A place as it is kept: ``first``, ``last``, ``before Edit``. Raises ``ValueError``, saying why.

    >>> read_place("Before edit", ["File", "Edit"])
    'before Edit'
    """
    word, _, name = " ".join(text.split()).partition(" ")
    word = word.casefold()
    names = {menu.casefold(): menu for menu in menus}
    if word in (FIRST, LAST) and not name:
        return word
    if word in BESIDE and name.casefold() in names:
        return f"{word} {names[name.casefold()]}"
    if word in BESIDE and name:
        raise ValueError(
            f"the application has no menu “{name}”; it has {', '.join(names.values())}"
        )
    raise ValueError(f"“{text}” is no place: first, last, before MENU or after MENU")


def _nearness(tray: Tray) -> int:
    layer = scheme_layer(tray.layer)
    if layer:
        return PLACE[layer]
    return len(PLACE)
