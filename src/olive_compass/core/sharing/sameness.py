"""How far one press does the same in all applications, and what other keys cost in habits, by what was pressed."""

from collections.abc import Iterable, Mapping
from datetime import date, timedelta
from types import MappingProxyType

from msgspec import Struct

from olive_compass.core.keys.presses import Press
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.sharing.planned import Planned
from olive_compass.core.sharing.purposes import Purpose, Purposes
from olive_compass.core.usage.tally import Tally

#: How many days count as what hands do now.
DAYS = 30


class Practice(Struct, frozen=True):
    """What was pressed in the last days that were counted: how often each key of each command.

    ``presses`` is by application and command, then by key as the log has it; ``last`` is the last day.
    """

    presses: Mapping[tuple[str, str], Mapping[str, int]] = MappingProxyType({})
    last: str = ""

    @property
    def total(self) -> int:
        """How many presses there are."""
        return sum(sum(keys.values()) for keys in self.presses.values())


class Sameness(Struct, frozen=True):
    """Of how many presses of purposes that several applications have, how many do the same in all of them."""

    same: int
    of: int


def practice(tally: Tally) -> Practice:
    """The presses of the last ``DAYS`` days that a tally has."""
    days = [use.day for use in tally if use.how == "key" and use.key]
    if not days:
        return Practice()
    last = max(days)
    first = days_before(last)
    found: dict[tuple[str, str], dict[str, int]] = {}
    for use, count in tally.items():
        if use.how == "key" and use.key and use.day > first:
            keys = found.setdefault((use.app, use.command), {})
            keys[use.key] = keys.get(use.key, 0) + count.times
    return Practice(found, last)


def days_before(day: str) -> str:
    """The day after which ``practice`` begins, by the last day that has a press; ``""``: it takes all."""
    try:
        return (date.fromisoformat(day) - timedelta(days=DAYS)).isoformat()
    except ValueError:
        # A tally may be of some other calendar: then all of it counts.
        return ""


def sameness(purposes: Purposes, keymaps: Iterable[Keymap], done: Practice) -> Sameness:
    """Of the presses of ``done``, how many would do the same in every application that has the purpose.

    A purpose counts where two applications and more have a command for it; its presses do the same where one
    key starts it in all of them.
    """
    keymaps = list(keymaps)
    same = of = 0
    for purpose in purposes.all:
        times = sum(sum(done.presses.get(place, {}).values()) for place in purpose.places)
        if not times:
            continue
        keys = [presses for keymap in keymaps if (presses := _presses(keymap, purpose)) is not None]
        if len(keys) > 1:
            of += times
            if frozenset.intersection(*keys):
                same += times
    return Sameness(same, of)


def _presses(keymap: Keymap, purpose: Purpose) -> frozenset[Press] | None:
    """The presses that start a purpose in an application, None where it has no command for it."""
    known = [id_ for id_ in purpose.commands(keymap.app.name) if id_ in keymap.app.catalogue.by_id]
    if not known:
        return None
    return frozenset(
        keymap.keyboard.press_of(run) for id_ in known for run in live_triggers(keymap, id_)
    )


def habits(before: Keymap, planned: Planned, done: Practice) -> int:
    """How many presses of ``done`` hands must learn anew for one purpose of a plan: of keys that its command gives
    up, and of the key that it takes from others."""
    app = before.app.name
    gone = [(planned.command, run) for run in planned.dropped]
    gone += [(loss.command, loss.trigger) for loss in planned.lost]
    return sum(
        times
        for command, run in gone
        for key, times in done.presses.get((app, command), {}).items()
        if before.keyboard.press_of(run) == _press_of(before, key)
    )


def _press_of(keymap: Keymap, key: str) -> Press | None:
    try:
        return keymap.keyboard.press_of(read_trigger(key))
    except TriggerError:
        # A log of another program may name a key that is none.
        return None
