"""The operating system or the application keeps the press, or a part of the run."""

from typing import TYPE_CHECKING

from olive_compass.core.schemes.objections.kind import OF_TRIGGER, REFUSED, Kind, Request
from olive_compass.core.schemes.traits import Locked, firm_on
from olive_compass.core.wording import capital

if TYPE_CHECKING:
    from olive_compass.core.schemes.objections.kind import Telling


def find(request: Request) -> tuple[Locked, ...]:
    """What keeps the press, whoever else wants it."""
    return tuple(firm_on(request.view.keymap, request.trigger))


def says(telling: "Telling", evidence: tuple[Locked, ...]) -> str:
    locked, trigger = evidence[0], telling.trigger
    who = locked.claim.layer.keeper or telling.view.app.title
    if locked.begins or locked.inside:
        return f"{trigger} never arrives: {who} keeps {locked.part} ({locked.claim.wired})"
    return f"{capital(who)} keeps {trigger} for itself ({locked.claim.wired})"


KIND = Kind(
    id="locked",
    weight=REFUSED,
    order=10,
    find=find,
    says=says,
    early=True,
    of=OF_TRIGGER,
    rules_out=True,
)
