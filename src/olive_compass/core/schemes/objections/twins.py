"""The same finger starts something else with it, by holding it or pressing it twice."""

from typing import TYPE_CHECKING

from olive_compass.core.apps.modes import joined
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.objections.kind import SAID, Kind, Request
from olive_compass.core.schemes.traits import twins

if TYPE_CHECKING:
    from olive_compass.core.schemes.objections.kind import Telling


def find(request: Request) -> tuple[Claim, ...]:
    """What the same finger starts."""
    return twins(request.view.keymap, request.press, request.inside, request.command.id)


def says(telling: "Telling", evidence: tuple[Claim, ...]) -> str:
    keys = joined(dict.fromkeys(str(claim.trigger) for claim in evidence))
    return (
        f"The same finger starts {telling.view.meanings(evidence)} with {keys}; which of them is "
        "meant shows only after a moment"
    )


KIND = Kind(id="twins", weight=SAID, order=160, find=find, says=says)
