"""What a tray that fills itself has in it now, and why: from what was counted."""

from msgspec import Struct

from olive_compass.core.apps.trays import Tray
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.usage.looking import BY_HAND
from olive_compass.core.usage.tally import Tally, uses
from olive_compass.structs import replace

RECENT, MOST, MISSING_KEY = "recent", "most", "missing-key"
PINNED = "pinned"


class Filled(Struct, frozen=True, kw_only=True):
    """An item that is on a tray now: why (``pinned`` or what it fills itself with), how often it was
    used, and when last (as the log has it)."""

    item: str
    why: str
    times: int = 0
    last: str = ""


def filled(tray: Tray, tally: Tally, keymap: Keymap) -> tuple[Filled, ...]:
    """The items of ``tray`` now, pinned ones first, by the counts that ``usage`` shows.

    What counts is of its application and, where the tray names modes, was done in one of those or in what
    lies inside them.
    """
    app = keymap.app
    inside = set(app.modes.inside(tray.modes))
    counts: dict[str, Filled] = {}
    for use, count in uses(tally):
        # A tray that was opened does not go on itself.
        if use.app != app.name or use.command not in app.catalogue.by_id or use.command == tray.id:
            continue
        if tray.modes and use.mode not in inside:
            continue
        if tray.fill == MISSING_KEY and use.how not in BY_HAND:
            continue
        old = counts.get(use.command, Filled(item=use.command, why=tray.fill))
        last = max(old.last, count.last)
        counts[use.command] = replace(old, times=old.times + count.times, last=last)
    pinned = [
        replace(counts.get(item, Filled(item=item, why=PINNED)), why=PINNED) for item in tray.items
    ]
    return (*pinned, *_chosen(tray, counts, keymap))


def _chosen(tray: Tray, counts: dict[str, Filled], keymap: Keymap) -> tuple[Filled, ...]:
    """Those of the counted that it fills itself with, in their order."""
    rest = [each for each in counts.values() if each.item not in tray.items]
    if tray.fill == MISSING_KEY:
        rest = [each for each in rest if not live_triggers(keymap, each.item)]
    if tray.fill == RECENT:
        rest.sort(key=lambda each: each.item)
        rest.sort(key=lambda each: each.last, reverse=True)
    else:
        rest.sort(key=lambda each: (-each.times, each.item))
    return tuple(rest[: tray.most])
