"""A press that somebody guards would change, or would have to wait."""

from typing import TYPE_CHECKING

from olive_compass.core.schemes.guards import Guarded, broken_guards
from olive_compass.core.schemes.objections.kind import ASKED, GUARD, Edited, Kind

if TYPE_CHECKING:
    from olive_compass.core.schemes.objections.kind import Telling


def effects(edited: Edited) -> tuple[Guarded, ...]:
    """The guards that would not hold any more."""
    return tuple(broken_guards(edited.request.view.keymap, edited.after))


def guard_says(guard: Guarded) -> str:
    """That a press is guarded, by whom and why."""
    why = guard.decision.why or "no reason given"
    return f"{guard.trigger} is guarded by {guard.scheme.name}: {why}"


def says(telling: "Telling", evidence: tuple[Guarded, ...]) -> str:
    return guard_says(evidence[0])


KIND = Kind(id="guards", weight=ASKED, order=50, effects=effects, says=says, asks=GUARD)
