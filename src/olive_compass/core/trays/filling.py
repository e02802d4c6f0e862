"""What a tray that fills itself has in it now, and why: from what was done, event by event."""

from collections.abc import Iterable

from msgspec import Struct

from olive_compass.core.apps.trays import Tray
from olive_compass.core.macros.recording import Event
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.structs import replace

RECENT, MOST, MISSING_KEY = "recent", "most", "missing-key"
PINNED = "pinned"

#: The ways that are no choice of a hand: what a macro did was not reached for.
_NOT_BY_HAND = ("macro",)
_BY_MENU = ("menu", "toolbar", "tray")


class Filled(Struct, frozen=True):
    """An item that is on a tray now: why (``pinned`` or what it fills itself with), how often it was
    used, and when last (as the log has it)."""

    item: str
    why: str
    times: int = 0
    last: str = ""


def filled(tray: Tray, events: Iterable[Event], keymap: Keymap) -> tuple[Filled, ...]:
    """The items of ``tray`` now, those that are pinned first.

    Events count that are of its application, were done by hand, ended well and, where the tray names
    modes, were done in one of those or in what lies inside them.
    """
    app = keymap.app
    inside = set(app.modes.inside(tray.modes)) if tray.modes else None
    counts: dict[str, Filled] = {}
    for event in events:
        if event.app not in ("", app.name, app.title) or event.how in _NOT_BY_HAND:
            continue
        if event.outcome != "done" and event.outcome != "started":
            continue
        # A tray that was opened does not go on itself.
        known = event.command in app.catalogue.by_id and event.command != tray.id
        if not known or (inside is not None and event.mode not in inside):
            continue
        if tray.fill == MISSING_KEY and event.how not in _BY_MENU:
            continue
        old = counts.get(event.command, Filled(event.command, tray.fill))
        last = max(old.last, event.time)
        counts[event.command] = replace(old, times=old.times + 1, last=last)
    pinned = [replace(counts.get(item, Filled(item, PINNED)), why=PINNED) for item in tray.items]
    return (*pinned, *_chosen(tray, counts, keymap))


def _chosen(tray: Tray, counts: dict[str, Filled], keymap: Keymap) -> tuple[Filled, ...]:
    """Those of the counted that it fills itself with, the first first."""
    rest = [each for each in counts.values() if each.item not in tray.items]
    if tray.fill == MISSING_KEY:
        rest = [each for each in rest if not live_triggers(keymap, each.item)]
    if tray.fill == RECENT:
        rest.sort(key=lambda each: each.item)
        rest.sort(key=lambda each: each.last, reverse=True)
    else:
        rest.sort(key=lambda each: (-each.times, each.item))
    return tuple(rest[: tray.most])
