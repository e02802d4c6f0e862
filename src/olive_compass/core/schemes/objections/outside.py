"""It would count in modes in which the command cannot be used."""

from typing import TYPE_CHECKING

from olive_compass.core.schemes.objections.kind import OF_COMMAND, SAID, Kind, Request
from olive_compass.core.schemes.traits import outside

if TYPE_CHECKING:
    from olive_compass.core.schemes.objections.kind import Telling


def find(request: Request) -> tuple[str, ...]:
    """These modes."""
    return outside(request.view.app, request.command, request.modes)


def says(telling: "Telling", evidence: tuple[str, ...]) -> str:
    where = telling.view.app.modes.phrase(evidence)
    return f"It applies {where}, where {telling.command.title} cannot be used"


KIND = Kind(id="outside", weight=SAID, order=110, find=find, says=says, early=True, of=OF_COMMAND)
