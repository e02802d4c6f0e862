"""Nothing at all would decide the press in some mode, for a nearer scheme lets lower keys count no longer."""

from typing import TYPE_CHECKING

from olive_compass.core.schemes.objections import locked
from olive_compass.core.schemes.objections.kind import SAID, Edited, Kind

if TYPE_CHECKING:
    from olive_compass.core.schemes.objections.kind import Telling


def effects(edited: Edited) -> tuple[str, ...]:
    """The modes, though the command was given the press there."""
    after, request = edited.after, edited.request
    if edited.before(locked.KIND):
        return ()
    press = after.keyboard.press_of(request.trigger)
    return tuple(mode for mode in request.inside if not after.winners(press, mode))


def says(telling: "Telling", evidence: tuple[str, ...]) -> str:
    return (
        f"It does not apply {telling.view.app.modes.phrase(evidence)}: a nearer scheme leaves "
        f"{telling.command.title} keyless there, or gives it a key instead"
    )


KIND = Kind(id="unreached", weight=SAID, order=230, effects=effects, says=says)
