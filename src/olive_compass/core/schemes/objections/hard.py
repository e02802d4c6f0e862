"""It costs more home strokes than the threshold of the desk."""

from typing import TYPE_CHECKING

from olive_compass.core.effort.reach import Effort
from olive_compass.core.schemes.objections.kind import OF_TRIGGER, SAID, Kind, Request

if TYPE_CHECKING:
    from olive_compass.core.schemes.objections.kind import Telling


def find(request: Request) -> tuple[Effort, ...]:
    """Its effort."""
    effort = request.effort
    if effort and effort.strokes >= request.view.weights.hard:
        return (effort,)
    return ()


def says(telling: "Telling", evidence: tuple[Effort, ...]) -> str:
    return (
        f"It costs {evidence[0].strokes:.1f} home strokes; "
        f"{telling.view.weights.hard:g} and more are hard to press"
    )


KIND = Kind(id="hard", weight=SAID, order=210, find=find, says=says, early=True, of=OF_TRIGGER)
