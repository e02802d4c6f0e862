"""What has moved away from a key set in an application: which purposes, and who has their keys now."""

from collections.abc import Iterable, Iterator

from msgspec import Struct

from olive_compass.core.changes.view import AppView
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.verdicts import in_itself
from olive_compass.core.sharing.applying import resolved
from olive_compass.core.sharing.keysets import SAME, Cell, Entry, KeySet, cells, consistency
from olive_compass.core.sharing.purposes import Purpose, Purposes


class Drifted(Struct, frozen=True, kw_only=True):
    """A purpose that has not the key of the set in an application: what the set has, what it has there, and the claim
    that is in the way, or that it has instead (None: there is none)."""

    view: AppView
    purpose: Purpose
    entry: Entry
    now: Cell
    claim: Claim | None


class DriftAnswer(Struct, frozen=True, kw_only=True):
    """What has drifted, and the share of the set that all applications have (0 to 1; None: they have no command for it)."""

    drifted: tuple[Drifted, ...]
    consistency: float | None


def drift(keyset: KeySet, purposes: Purposes, views: Iterable[AppView]) -> DriftAnswer:
    """What has moved away from a set in these applications."""
    drifted: list[Drifted] = []
    found: list[Cell] = []
    for view in views:
        own = list(cells(keyset, purposes, [view.keymap]))
        found += own
        drifted += _drifted(keyset, purposes, view, own)
    return DriftAnswer(drifted=tuple(drifted), consistency=consistency(found))


def _drifted(
    keyset: KeySet, purposes: Purposes, view: AppView, own: Iterable[Cell]
) -> Iterator[Drifted]:
    for each in own:
        if not each.command or each.state == SAME:
            continue
        entry = keyset.keys[each.purpose]
        # What the rules of the application do not allow is no drift.
        if not _is_ruled_out(view, entry, each):
            yield Drifted(
                view=view,
                purpose=purposes.by_id[each.purpose],
                entry=entry,
                now=each,
                claim=_claim(view, entry, each),
            )


def _is_ruled_out(view: AppView, entry: Entry, each: Cell) -> bool:
    """Whether the application's own rules are against every key of the set for a command."""
    command = view.app.catalogue.by_id[each.command]
    modes = command.usable_in
    triggers = (resolved(trigger, view.keyboard) for trigger in entry.triggers)
    return all(in_itself(view, command, trigger, modes).is_ruled_out for trigger in triggers)


def _claim(view: AppView, entry: Entry, each: Cell) -> Claim | None:
    keymap = view.keymap
    modes = view.app.catalogue.by_id[each.command].usable_in
    for claim in keymap.winners(keymap.keyboard.press_of(entry.triggers[0]), modes[0]):
        if claim.command != each.command:
            return claim
    return next(iter(keymap.by_command.get(each.command, ())), None)
