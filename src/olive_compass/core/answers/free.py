"""Which keys are free in an application, and which of them suit a command."""

from msgspec import Struct

from olive_compass.core.apps.app import Command
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.changes.view import AppView
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.free import Slot, free_map
from olive_compass.core.schemes.objections import too_many
from olive_compass.core.schemes.offers import Offer, hopeless, offers, rank
from olive_compass.core.schemes.verdicts import Verdict
from olive_compass.structs import replace


class FreeAnswer(Struct, frozen=True, kw_only=True):
    """Which keys of the map are free in ``modes``, and the best of them first.

    ``against`` says why the command can have no further key at all (None: it can). Where it would have too many,
    ``ranked`` are keys to take the place of those that it has.
    """

    modes: tuple[str, ...]
    map: dict[tuple[str, ...], dict[str, list[Slot]]]
    ranked: list[Offer]
    against: Verdict | None = None

    @property
    def slots(self) -> list[Slot]:
        return [slot for banks in self.map.values() for bank in banks.values() for slot in bank]

    @property
    def count(self) -> int:
        """How many keys are free."""
        return sum(slot.free for slot in self.slots)


def free_keys(
    view: AppView, command: Command | None, named: tuple[str, ...], most: int
) -> FreeAnswer:
    """What is free in the modes that were ``named``, or in those of the command; ``most`` are ranked."""
    wanted = named
    if not wanted:
        wanted = command.usable_in if command else (ROOT,)
    modes = view.app.modes.inside(wanted)
    found = FreeAnswer(modes=modes, map=free_map(view, modes), ranked=[])
    if command is None:
        # The easiest keys of all never take two modifiers.
        runs = [Run((s.stroke,)) for s in found.slots if s.free and len(s.stroke.modifiers) < 2]
        return replace(found, ranked=rank(view, runs, None)[:most])
    ranked, against = offers(view, command, wanted, most), None
    if not ranked:
        against = hopeless(view, command, wanted)
    if against is not None and against.has(too_many.KIND.id):
        ranked = offers(view, command, wanted, most, instead=True)
    return replace(found, ranked=ranked, against=against)
