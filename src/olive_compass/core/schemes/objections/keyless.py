"""A scheme leaves the command without a key on purpose."""

from typing import TYPE_CHECKING

from msgspec import Struct

from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.objections.kind import ASKED, KEYLESS, OF_COMMAND, Kind, Request

if TYPE_CHECKING:
    from olive_compass.core.schemes.objections.kind import Telling


class Keyless(Struct, frozen=True):
    """A scheme that leaves the command without a key, and why."""

    scheme: Scheme
    why: str


def find(request: Request) -> tuple[Keyless, ...]:
    """The schemes that do so in one of the modes."""
    id_, modes = request.command.id, request.view.app.modes
    inside = set(request.inside)
    return tuple(
        Keyless(each, each.keyless[id_].why)
        for each in request.view.stack.schemes
        if id_ in each.keyless and not inside.isdisjoint(modes.inside(each.keyless[id_].modes))
    )


def says(telling: "Telling", evidence: tuple[Keyless, ...]) -> str:
    first = evidence[0]
    return (
        f"{first.scheme.name} leaves {telling.command.title} without a key on purpose: "
        f"{first.why or 'no reason given'}"
    )


KIND = Kind(
    id="keyless",
    weight=ASKED,
    order=60,
    find=find,
    says=says,
    early=True,
    of=OF_COMMAND,
    asks=KEYLESS,
)
