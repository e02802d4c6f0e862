"""Something nearer would still decide the press in some mode."""

from typing import TYPE_CHECKING

from olive_compass.core.schemes.consequences import Holder, holders
from olive_compass.core.schemes.objections import locked
from olive_compass.core.schemes.objections.kind import SAID, Edited, Kind

if TYPE_CHECKING:
    from olive_compass.core.schemes.objections.kind import Telling


def effects(edited: Edited) -> tuple[Holder, ...]:
    """Who decides the press alone in some mode, the command not being offered there."""
    request, after = edited.request, edited.after
    if edited.before(locked.KIND):
        return ()
    held = holders(after, request.trigger, request.modes, request.command.id)
    press = after.keyboard.press_of(request.trigger)
    return tuple(
        each
        for each in held
        if any(
            all(claim.command != request.command.id for claim in after.winners(press, mode))
            for mode in each.modes
        )
    )


def _holder_says(telling: "Telling", holder: Holder) -> str:
    view, claim = telling.view, holder.claim
    name = view.meaning(claim.does) or "a mute"
    return (
        f"But {view.app.modes.phrase(holder.modes)} {name} still comes first: "
        f"{telling.source(claim)}, {telling.where(claim)}"
    )


def says(telling: "Telling", evidence: tuple[Holder, ...]) -> str:
    return "; ".join(_holder_says(telling, each) for each in evidence)


KIND = Kind(id="first", weight=SAID, order=220, effects=effects, says=says)
