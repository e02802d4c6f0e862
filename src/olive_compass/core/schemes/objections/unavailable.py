"""The command was withdrawn, takes no key, or needs a licence that this computer lacks."""

from typing import TYPE_CHECKING

from olive_compass.core.schemes.objections.kind import OF_COMMAND, REFUSED, Kind, Request
from olive_compass.core.schemes.traits import not_assignable, not_assignable_says

if TYPE_CHECKING:
    from olive_compass.core.schemes.objections.kind import Telling


def find(request: Request) -> tuple[str, ...]:
    """Why the command can have no key at all."""
    why = not_assignable(request.view.app, request.command)
    if why:
        return (why,)
    return ()


def says(telling: "Telling", evidence: tuple[str, ...]) -> str:
    command = telling.command
    return f"{command.title} can have no key: {not_assignable_says(command, evidence[0])}"


KIND = Kind(
    id="unavailable",
    weight=REFUSED,
    order=20,
    find=find,
    says=says,
    early=True,
    of=OF_COMMAND,
    rules_out=True,
)
