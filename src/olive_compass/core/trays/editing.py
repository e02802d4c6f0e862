"""Edits of one tray, value to value. Each raises ``ValueError``, saying why it cannot be."""

from collections.abc import Iterable, Sequence

from olive_compass.core.apps.trays import PARTING, Group, Tray
from olive_compass.structs import replace


def add(
    tray: Tray, items: Sequence[str], group: str | None = None, before: str = "", after: str = ""
) -> Tray:
    """The tray with ``items`` put in: at the end of ``group`` (None: of the last), or beside an item."""
    groups = list(tray.groups)
    if before or after:
        at, place = _find(tray, before or after)
        if group is not None and groups[at].title.casefold() != group.casefold():
            raise ValueError(f"it is not in the group “{group}”")
        place += 0 if before else 1
    else:
        groups, at = _with_group(groups, group)
        place = len(groups[at].items)
    old = groups[at].items
    groups[at] = replace(groups[at], items=(*old[:place], *items, *old[place:]))
    return replace(tray, groups=tuple(groups))


def drop(tray: Tray, items: Sequence[str]) -> Tray:
    """The tray without ``items``; a separator that would stand at an edge, or twice, goes with them."""
    gone = set(items)
    groups = tuple(
        replace(group, items=_parted([item for item in group.items if item not in gone]))
        if gone & set(group.items)
        else group
        for group in tray.groups
    )
    return replace(tray, groups=groups)


def parted(tray: Tray) -> Tray:
    """The tray without separators that part nothing, and without groups that have nothing else."""
    groups = (replace(group, items=_parted(group.items)) for group in tray.groups)
    return replace(tray, groups=tuple(group for group in groups if group.items))


def move(
    tray: Tray, item: str, group: str | None = None, before: str = "", after: str = ""
) -> Tray:
    """The tray with an item at another place."""
    if item in (before, after):
        raise ValueError("an item cannot be put beside itself")
    _find(tray, item)
    return add(drop(tray, [item]), [item], group, before, after)


def new_group(tray: Tray, title: str, before: str = "", after: str = "") -> Tray:
    """The tray with an empty group more, at the end or beside another."""
    if any(group.title.casefold() == title.casefold() for group in tray.groups):
        raise ValueError(f"it has a group “{title}” already")
    groups = list(tray.groups)
    place = len(groups)
    if before or after:
        place = group_at(tray, before or after) + (0 if before else 1)
    return replace(tray, groups=(*groups[:place], Group(title), *groups[place:]))


def rename_group(tray: Tray, title: str, new: str) -> Tray:
    """The tray with a group that is called otherwise."""
    at = group_at(tray, title)
    if any(g.title.casefold() == new.casefold() for n, g in enumerate(tray.groups) if n != at):
        raise ValueError(f"it has a group “{new}” already")
    groups = list(tray.groups)
    groups[at] = replace(groups[at], title=new)
    return replace(tray, groups=tuple(groups))


def move_group(tray: Tray, title: str, before: str = "", after: str = "") -> Tray:
    """The tray with a group before or after another."""
    group = tray.groups[group_at(tray, title)]
    rest = replace(tray, groups=tuple(each for each in tray.groups if each is not group))
    place = group_at(rest, before or after) + (0 if before else 1)
    return replace(tray, groups=(*rest.groups[:place], group, *rest.groups[place:]))


def drop_group(tray: Tray, title: str) -> Tray:
    """The tray without a group and all that stands in it."""
    at = group_at(tray, title)
    return replace(tray, groups=(*tray.groups[:at], *tray.groups[at + 1 :]))


def group_at(tray: Tray, title: str) -> int:
    """The place of a group, found by its title or the beginning of it."""
    wanted = title.casefold()
    titles = [group.title.casefold() for group in tray.groups]
    found = [n for n, each in enumerate(titles) if each == wanted]
    if wanted and not found:
        found = [n for n, each in enumerate(titles) if each.startswith(wanted)]
    if len(found) == 1:
        return found[0]
    names = ", ".join(group.title for group in tray.groups if group.title) or "none"
    raise ValueError(f"it has no group “{title}”; its groups: {names}")


def with_groups_of(tray: Tray, other: Tray, title: str) -> Tray:
    """The tray with one group as ``other`` has it, at its place; gone where that has none."""
    theirs = next((g for g in other.groups if g.title.casefold() == title.casefold()), None)
    at = next((n for n, g in enumerate(tray.groups) if g.title.casefold() == title.casefold()), -1)
    if theirs is None and at < 0:
        raise ValueError(f"neither has a group “{title}”")
    groups = list(tray.groups)
    if theirs is None:
        del groups[at]
    elif at < 0:
        groups.insert(min(other.groups.index(theirs), len(groups)), theirs)
    else:
        groups[at] = theirs
    return replace(tray, groups=tuple(groups))


def _with_group(groups: list[Group], title: str | None) -> tuple[list[Group], int]:
    """The groups, with one of that title, and its place."""
    if title is None:
        groups = groups or [Group()]
        return groups, len(groups) - 1
    for n, group in enumerate(groups):
        if group.title.casefold() == title.casefold():
            return groups, n
    if not title:
        # What has no group stands before all groups.
        return [Group(), *groups], 0
    return [*groups, Group(title)], len(groups)


def _find(tray: Tray, item: str) -> tuple[int, int]:
    for at, group in enumerate(tray.groups):
        if item in group.items:
            return at, group.items.index(item)
    raise ValueError(f"{item} is not on it")


def _parted(items: Iterable[str]) -> tuple[str, ...]:
    """Items with no separator at an edge and no two in a row."""
    kept: list[str] = []
    for item in items:
        if item != PARTING or (kept and kept[-1] != PARTING):
            kept.append(item)
    while kept and kept[-1] == PARTING:
        kept.pop()
    return tuple(kept)
