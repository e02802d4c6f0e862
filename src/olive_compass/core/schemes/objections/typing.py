"""It would no longer type its character where one types."""

from typing import TYPE_CHECKING

from olive_compass.core.apps.guesses import guessed
from olive_compass.core.schemes.objections.kind import ASKED, TYPING, Kind, Request
from olive_compass.core.schemes.traits import types_text, typing_modes

if TYPE_CHECKING:
    from olive_compass.core.schemes.objections.kind import Telling


def find(request: Request) -> tuple[str, ...]:
    """The modes in which typing writes text."""
    view = request.view
    if not types_text(view.keymap.keyboard, request.trigger):
        return ()
    return typing_modes(view.app, request.modes)


def says(telling: "Telling", evidence: tuple[str, ...]) -> str:
    app = telling.view.app
    return (
        f"{telling.trigger} would no longer type its character {app.modes.phrase(evidence)}"
        f"{guessed(app, 'text-modes')}"
    )


KIND = Kind(id="typing", weight=ASKED, order=100, find=find, says=says, early=True, asks=TYPING)
