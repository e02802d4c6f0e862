"""Merges three ways, decision by decision: what only one side changed is taken."""

from collections.abc import Callable, Hashable, Mapping
from typing import Any

from msgspec import Struct

from olive_compass.core.plain import lines_of

#: There is no such decision.
MISSING: Any = None

#: The side that wins where both changed something.
ANSWERS = ("keep", "replace", "house")


class Conflict(Struct, frozen=True, kw_only=True):
    """A decision that both sides changed, each in its own way. None: that side has none. ``path`` is the file
    that it is in."""

    key: Hashable
    base: Any
    ours: Any
    theirs: Any
    path: str = ""


class Merged(Struct, frozen=True):
    """The merged decisions, and the conflicts, in which ours stay for now."""

    values: dict[Any, Any]
    conflicts: tuple[Conflict, ...]


def merge(
    base: Mapping[Any, Any],
    ours: Mapping[Any, Any],
    theirs: Mapping[Any, Any],
    resolve: Callable[[Conflict], str] = lambda _conflict: "",
    unit: Callable[[Any], Hashable] = lambda _key: None,
    exclusive: bool = False,
) -> Merged:
    """The decisions of both sides.

    ``resolve`` returns ``ours`` or ``theirs`` for a conflict, or ``""`` to leave it open. Keys of one ``unit`` belong together:
    where one side took all of them out and the other changed some, that is one conflict, resolved for all of them;
    with ``exclusive`` also where each side changed the unit to other keys of it.
    Order: as ours, what only theirs has after it.
    """
    values: dict[Any, Any] = {}
    conflicts: list[Conflict] = []

    def chosen(conflict: Conflict) -> Any:
        side = resolve(conflict)
        if not side:
            conflicts.append(conflict)
        if side == "theirs":
            return conflict.theirs
        return conflict.ours

    torn = _torn(base, ours, theirs, unit, exclusive)
    decided = {key: chosen(conflict) for key, conflict in torn.items()}
    for key in dict.fromkeys((*ours, *theirs)):
        old, a, b = base.get(key), ours.get(key), theirs.get(key)
        if (group := unit(key)) in decided:
            value = (decided[group] or {}).get(key, MISSING)
        elif a == b or b == old:
            value = a
        elif a == old:
            value = b
        else:
            value = chosen(Conflict(key=key, base=old, ours=a, theirs=b))
        if value is not MISSING:
            values[key] = value
    return Merged(values, tuple(conflicts))


def _torn(
    base: Mapping[Any, Any],
    ours: Mapping[Any, Any],
    theirs: Mapping[Any, Any],
    unit: Callable[[Any], Hashable],
    exclusive: bool,
) -> dict[Hashable, Conflict]:
    """The units that one side took out as a whole, and the other changed; or (``exclusive``) that each changed
    to other keys."""
    old_units, our_units, their_units = (_by_unit(side, unit) for side in (base, ours, theirs))
    found = {}
    for group, old in old_units.items():
        a, b = our_units.get(group), their_units.get(group)
        keys = {*old, *(a or ()), *(b or ())}
        if exclusive and len(keys) == 1:
            # It is one key on all sides, and merged as one.
            continue
        if _is_gone_and_changed(old, a, b) or (exclusive and _went_apart(old, a, b)):
            found[group] = Conflict(key=group, base=old, ours=a, theirs=b)
    return found


def _is_gone_and_changed(old: object, ours: object, theirs: object) -> bool:
    """Whether one side took a unit out, and the other has it otherwise than before."""
    if ours is None:
        return theirs is not None and theirs != old
    return theirs is None and ours != old


def _went_apart(old: Any, ours: Any, theirs: Any) -> bool:
    """Whether both sides changed a unit, and to other keys."""
    if not ours or not theirs or old in (ours, theirs):
        return False
    return set(ours) != set(theirs)


def _by_unit(
    side: Mapping[Any, Any], unit: Callable[[Any], Hashable]
) -> dict[Hashable, dict[Any, Any]]:
    """What one side has, by units; what belongs to none is left out."""
    units: dict[Hashable, dict[Any, Any]] = {}
    for key, value in side.items():
        if (group := unit(key)) is not None:
            units.setdefault(group, {})[key] = value
    return units


def merge_lines(base: str, ours: str, theirs: str) -> str:
    """Logs: every line of both sides once, ours first; what one side took out is gone."""
    old = set(lines_of(base))
    a, b = lines_of(ours), lines_of(theirs)
    have_a, have_b = set(a), set(b)
    kept = [line for line in a if line in have_b or line not in old]
    kept += [line for line in b if line not in have_a and line not in old]
    return "".join(line + "\n" for line in kept)
