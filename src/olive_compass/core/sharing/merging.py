"""Merges three ways, decision by decision: what only one side changed is taken."""

from collections.abc import Callable, Hashable, Mapping
from typing import Any

from msgspec import Struct

from olive_compass.core.plain import lines_of

#: There is no such decision.
MISSING: Any = None

#: Which side settles what both changed.
ANSWERS = ("keep", "replace", "house")


class Clash(Struct, frozen=True):
    """A decision that both sides changed, each in its own way. None: that side has none."""

    key: Hashable
    base: Any
    ours: Any
    theirs: Any


class Merged(Struct, frozen=True):
    """The merged decisions, and those that clash: they stand as ours have them."""

    values: dict[Any, Any]
    clashes: tuple[Clash, ...]


def merge(
    base: Mapping[Any, Any],
    ours: Mapping[Any, Any],
    theirs: Mapping[Any, Any],
    settle: Callable[[Clash], str] = lambda clash: "",
) -> Merged:
    """The decisions of both sides.

    ``settle`` says ``ours`` or ``theirs`` of a clash, ``""``: it stays one. Order: as ours, what
    only theirs has after it.
    """
    values: dict[Any, Any] = {}
    clashes: list[Clash] = []
    for key in dict.fromkeys((*ours, *theirs)):
        old, a, b = base.get(key), ours.get(key), theirs.get(key)
        if a == b or b == old:
            chosen = a
        elif a == old:
            chosen = b
        else:
            clash = Clash(key, old, a, b)
            side = settle(clash)
            if not side:
                clashes.append(clash)
            chosen = b if side == "theirs" else a
        if chosen is not MISSING:
            values[key] = chosen
    return Merged(values, tuple(clashes))


def merge_lines(base: str, ours: str, theirs: str) -> str:
    """Logs: every line of both sides once, ours first; what one side took out is gone."""
    old = set(lines_of(base))
    a, b = lines_of(ours), lines_of(theirs)
    have_a, have_b = set(a), set(b)
    kept = [line for line in a if line in have_b or line not in old]
    kept += [line for line in b if line not in have_a and line not in old]
    return "".join(line + "\n" for line in kept)
