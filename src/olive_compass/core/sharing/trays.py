"""Carries a tray to another application, item by item, by what each is for."""

from olive_compass.core.apps.trays import PARTING, Group, Tray
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.sharing.purposes import Purposes
from olive_compass.core.trays.editing import drop
from olive_compass.core.trays.verdicts import THERE, Said, of_new_item
from olive_compass.values import Value

#: Why an item does not come along.
NO_PURPOSE, NOBODY = "no-purpose", "nobody"


class Left(Value):
    """An item that stays behind: it has no purpose, or nobody there serves that (``about``: which), or
    the other application does not take it there (``said``)."""

    item: str
    why: str
    about: str = ""
    said: Said | None = None


class Carried(Value):
    """A tray as another application has it, and what stayed behind."""

    tray: Tray
    left: tuple[Left, ...]


def carried(tray: Tray, purposes: Purposes, there: Keymap, kind: str) -> Carried:
    """``tray`` as a tray of the kind ``kind`` in the application of ``there``.

    Where several commands serve a purpose there, the first one stands for them.
    """
    app = there.app
    after = tray._replace(app=app.name, kind=kind, groups=(), modes=(), place="last")
    allowed = app.rules.trays.get(kind)
    left: list[Left] = []
    for group in tray.groups:
        items: list[str] = []
        for item in group.items:
            found = item if item == PARTING else _counterpart(tray.app, item, purposes, app.name)
            if isinstance(found, Left):
                left.append(found)
                continue
            against = [] if item == PARTING else list(of_new_item(there, after, found))
            stop = next((each for each in against if each.against or each.what == THERE), None)
            if stop is not None:
                left.append(Left(item, stop.what, stop.about, stop))
            else:
                items.append(found)
                after = _with(after, group.title, tuple(items), allowed is None or allowed.groups)
    # Parting lines that part nothing any more go.
    return Carried(drop(after, ()), tuple(left))


def _counterpart(app: str, item: str, purposes: Purposes, other: str) -> str | Left:
    purpose = purposes.by_command.get((app, item))
    if purpose is None:
        return Left(item, NO_PURPOSE)
    there = purpose.commands(other)
    return there[0] if there else Left(item, NOBODY, purpose.title)


def _with(tray: Tray, title: str, items: tuple[str, ...], grouped: bool) -> Tray:
    """The tray with these items in a group; all in one where the other has no groups."""
    if grouped:
        rest = tuple(each for each in tray.groups if each.title != title)
        return tray._replace(groups=(*rest, Group(title, items)))
    before = tuple(i for i in tray.items if i not in items)
    return tray._replace(groups=(Group("", (*before, *items)),))
