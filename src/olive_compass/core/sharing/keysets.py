"""A key set: purposes and their triggers for all applications at once, and how far they have them."""

from collections.abc import Iterable, Mapping
from types import MappingProxyType
from typing import Final, Literal

from msgspec import Struct

from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.schemes.traits import firm_on
from olive_compass.core.sharing.purposes import Purpose, Purposes

#: How an application stands to a purpose of a set.
CellState = Literal["same", "other", "taken", "reserved", "no key", "no such command"]
SAME: Final = "same"
OTHER: Final = "other"
TAKEN: Final = "taken"
RESERVED: Final = "reserved"
NONE: Final = "no key"
ABSENT: Final = "no such command"


class Entry(Struct, frozen=True):
    """The triggers of a purpose, the wished-for one first, and the reason."""

    triggers: tuple[Run, ...]
    why: str = ""


class KeySet(Struct, frozen=True):
    """Purposes and their triggers. ``keys`` is by purpose id, in the order of its file."""

    name: str
    title: str = ""
    keys: Mapping[str, Entry] = MappingProxyType({})


class Cell(Struct, frozen=True, kw_only=True):
    """How an application stands to a purpose: a state, the triggers that its command has now,
    the command, and who holds the trigger of the set (``""``: nobody else)."""

    purpose: str
    app: str
    state: CellState
    triggers: tuple[Run, ...] = ()
    command: str = ""
    holder: str = ""


def cells(keyset: KeySet, purposes: Purposes, keymaps: Iterable[Keymap]) -> list[Cell]:
    """One cell for every purpose of the set and every application, by purpose."""
    keymaps = list(keymaps)
    found = []
    for id_, entry in keyset.keys.items():
        purpose = purposes.by_id.get(id_, Purpose(id=id_, title=id_))
        found += [cell(keymap, purpose, entry) for keymap in keymaps]
    return found


def cell(keymap: Keymap, purpose: Purpose, entry: Entry) -> Cell:
    """How the application of ``keymap`` stands to one purpose."""
    app = keymap.app
    known = app.catalogue.by_id
    commands = [id_ for id_ in purpose.commands(app.name) if id_ in known]
    if not commands:
        return Cell(purpose=purpose.id, app=app.name, state=ABSENT)
    # A purpose may have two commands in an application: the one that has the key speaks for it.
    command = next((id_ for id_ in commands if has_any(keymap, id_, entry.triggers)), commands[0])
    now = live_triggers(keymap, command)
    if has_any(keymap, command, entry.triggers):
        return Cell(purpose=purpose.id, app=app.name, state=SAME, triggers=now, command=command)
    state, holder = _why_not(keymap, command, entry, now)
    return Cell(
        purpose=purpose.id,
        app=app.name,
        state=state,
        triggers=now,
        command=command,
        holder=holder,
    )


def _why_not(
    keymap: Keymap, command: str, entry: Entry, now: tuple[Run, ...]
) -> tuple[CellState, str]:
    """Why a command has no trigger of a set, and who has it instead, ``""``: nobody."""
    locked = [firm_on(keymap, run) for run in entry.triggers]
    if locked and all(locked):
        return RESERVED, locked[0][0].claim.wired
    # A trigger that the application keeps for itself is held by nobody who could give it up.
    wished = [run for run, claims in zip(entry.triggers, locked, strict=True) if not claims]
    if holder := holder_of(keymap, command, wished[:1]):
        return TAKEN, holder
    if now:
        return OTHER, ""
    return NONE, ""


def has_any(keymap: Keymap, command: str, triggers: Iterable[Run]) -> bool:
    """Whether one of ``triggers`` starts ``command`` wherever it can be used."""
    known = keymap.app.catalogue.by_id.get(command)
    if known:
        modes = known.usable_in
    else:
        modes = (ROOT,)
    return any(reaches(keymap, command, run, modes) for run in triggers)


def reaches(keymap: Keymap, command: str, trigger: Run, modes: tuple[str, ...]) -> bool:
    """Whether ``trigger`` starts ``command`` in every one of ``modes``."""
    press = keymap.keyboard.press_of(trigger)
    return all(
        any(claim.command == command for claim in keymap.winners(press, mode)) for mode in modes
    )


def holder_of(keymap: Keymap, command: str, triggers: Iterable[Run]) -> str:
    """The title of what has one of ``triggers`` where ``command`` can be used, ``""``: nothing."""
    known = keymap.app.catalogue.by_id
    modes = known[command].usable_in
    for run in triggers:
        press = keymap.keyboard.press_of(run)
        for mode in keymap.app.modes.inside(modes):
            for claim in keymap.winners(press, mode):
                if claim.command != command:
                    other = known.get(claim.command)
                    if other:
                        return other.title
                    return claim.wired or "a mute"
    return ""


def consistency(found: Iterable[Cell]) -> float | None:
    """The share of commands that have the key of the set: same over all that exist; None: none do.

    Each purpose counts once in each application that has a command for it.
    """
    states = [each.state for each in found if each.state != ABSENT]
    if states:
        return states.count(SAME) / len(states)
    return None


def pair_consistency(purposes: Purposes, one: Keymap, other: Keymap) -> tuple[int, int]:
    """How many purposes two applications share a key for, and how many both serve.

    A purpose counts where both have a command with a key for it; it is shared where one press
    starts both.
    """
    shared = both = 0
    for purpose in purposes.all:
        first = _presses(one, purpose)
        second = _presses(other, purpose)
        # Without a key on one side there is nothing that the hand could find the same.
        if first and second:
            both += 1
            shared += bool(first & second)
    return shared, both


def _presses(keymap: Keymap, purpose: Purpose) -> set[object]:
    return {
        keymap.keyboard.press_of(run)
        for command in purpose.commands(keymap.app.name)
        if command in keymap.app.catalogue.by_id
        for run in live_triggers(keymap, command)
    }


def by_purposes(found: Iterable[Cell]) -> dict[str, list[Cell]]:
    """The cells of each purpose, one for each application."""
    by_purpose: dict[str, list[Cell]] = {}
    for each in found:
        by_purpose.setdefault(each.purpose, []).append(each)
    return by_purpose
