"""Carries a tray to another application, item by item, by what each is for."""

from msgspec import Struct

from olive_compass.core.apps.trays import PARTING, Group, Tray
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.sharing.purposes import Purposes
from olive_compass.core.trays.editing import parted
from olive_compass.core.trays.verdicts import THERE, Remark, of_new_item
from olive_compass.structs import replace

#: Why an item does not come along.
NO_PURPOSE, NOBODY = "no-purpose", "nobody"


class StaysBehind(Struct, frozen=True, kw_only=True):
    """An item that stays behind: it has no purpose, or nobody there serves that (``about``: which), or
    the other application does not take it there (``said``)."""

    item: str
    why: str
    about: str = ""
    said: Remark | None = None


class Carried(Struct, frozen=True):
    """A tray as another application has it, and what stayed behind."""

    tray: Tray
    left: tuple[StaysBehind, ...]


def carried(tray: Tray, purposes: Purposes, there: Keymap, kind: str) -> Carried:
    """``tray`` as a tray of the kind ``kind`` in the application of ``there``.

    Where several commands serve a purpose there, the first one stands for them.
    """
    app = there.app
    after = replace(tray, app=app.name, kind=kind, groups=(), modes=(), place="last")
    allowed = app.rules.trays.get(kind)
    # All in one where the other has no groups.
    grouped = allowed is None or allowed.groups
    left: list[StaysBehind] = []
    done: tuple[Group, ...] = ()
    for group in tray.groups:
        items: list[str] = []
        for item in group.items:
            found = item if item == PARTING else _counterpart(tray.app, item, purposes, app.name)
            if isinstance(found, StaysBehind):
                left.append(found)
                continue
            against = []
            if item != PARTING:
                against = list(of_new_item(there, after, found))
            stop = next((each for each in against if each.against or each.what == THERE), None)
            if stop is not None:
                left.append(StaysBehind(item=item, why=stop.what, about=stop.about, said=stop))
            else:
                items.append(found)
                after = _with(after, (*done, Group(group.title, tuple(items))), grouped)
        if items:
            done = (*done, Group(group.title, tuple(items)))
    return Carried(parted(after), tuple(left))


def _counterpart(app: str, item: str, purposes: Purposes, other: str) -> str | StaysBehind:
    purpose = purposes.by_command.get((app, item))
    if purpose is None:
        return StaysBehind(item=item, why=NO_PURPOSE)
    there = purpose.commands(other)
    if there:
        return there[0]
    return StaysBehind(item=item, why=NOBODY, about=purpose.title)


def _with(tray: Tray, groups: tuple[Group, ...], grouped: bool) -> Tray:
    """The tray with these groups, or with what is in them in one."""
    one = Group("", tuple(item for group in groups for item in group.items))
    return replace(tray, groups=groups if grouped else (one,))
