"""People press it without thinking, and the command costs much by mistake."""

from typing import TYPE_CHECKING

from olive_compass.core.schemes.objections.kind import SAID, Kind, Request
from olive_compass.core.schemes.traits import is_reflex

if TYPE_CHECKING:
    from olive_compass.core.schemes.objections.kind import Telling


def find(request: Request) -> tuple[str, ...]:
    """What the command does by mistake."""
    marks = request.command.marks
    if not marks.disruptive or not is_reflex(request.view.keymap.keyboard, request.trigger):
        return ()
    return (marks.warning,)


def says(telling: "Telling", evidence: tuple[str, ...]) -> str:
    return (
        f"People press {telling.trigger} without thinking, and {telling.command.title} "
        f"{evidence[0]}"
    )


KIND = Kind(id="habit-key", weight=SAID, order=180, find=find, says=says, early=True)
