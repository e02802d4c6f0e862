"""The rules of the application do not allow the trigger."""

from typing import TYPE_CHECKING

from olive_compass.core.apps.guesses import guessed
from olive_compass.core.keys.kinds import Broken
from olive_compass.core.schemes.objections.kind import REFUSED, Kind, Request
from olive_compass.core.schemes.traits import broken_rules

if TYPE_CHECKING:
    from olive_compass.core.schemes.objections.kind import Telling


def find(request: Request) -> tuple[Broken, ...]:
    """The rules that the trigger breaks by itself."""
    view = request.view
    return tuple(broken_rules(view.app, view.keymap.keyboard, request.trigger, request.modes))


def says(telling: "Telling", evidence: tuple[Broken, ...]) -> str:
    app, broken = telling.view.app, evidence[0]
    return f"The rules of {app.title} do not allow this: {broken.why}{guessed(app, broken.rule)}"


KIND = Kind(id="rules", weight=REFUSED, order=30, find=find, says=says, early=True, rules_out=True)
