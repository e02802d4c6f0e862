"""The steps by which a person builds the trays in an application that takes none from outside."""

from collections.abc import Iterator
from typing import Final, Literal

from msgspec import Struct

from olive_compass.core.apps.app import App
from olive_compass.core.apps.trays import Tray

#: What a step does: makes the tray, has it fill itself, makes a group, or puts an item there.
TrayDeed = Literal["make", "fill", "group", "put"]
MAKE: Final = "make"
FILL: Final = "fill"
GROUP: Final = "group"
PUT: Final = "put"


class TrayStep(Struct, frozen=True, kw_only=True):
    """One step: what is done, to which tray, in which group (``""``: none), with which item."""

    what: TrayDeed
    tray: Tray
    group: str = ""
    item: str = ""


def tray_steps(app: App) -> Iterator[TrayStep]:
    """What builds the trays that count, tray by tray in their order; those that others lead to first.

    A tray can only be put on another once it is there.
    """
    on = list(app.active_trays)
    for tray in sorted(on, key=lambda each: _depth(on, each)):
        yield TrayStep(what=MAKE, tray=tray)
        if tray.fill:
            yield TrayStep(what=FILL, tray=tray)
        for group in tray.groups:
            if group.title:
                yield TrayStep(what=GROUP, tray=tray, group=group.title)
            for item in group.items:
                yield TrayStep(what=PUT, tray=tray, group=group.title, item=item)


def _depth(trays: list[Tray], tray: Tray, seen: tuple[str, ...] = ()) -> int:
    """How many trays lead on from a tray, one inside another."""
    inner = [t for t in trays if t.id in tray.items and t.id not in seen]
    return 1 + max((_depth(trays, each, (*seen, tray.id)) for each in inner), default=0)
