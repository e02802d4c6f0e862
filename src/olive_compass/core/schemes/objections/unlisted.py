"""What the application does with the press, though no list of its shows that."""

from typing import TYPE_CHECKING

from olive_compass.core.schemes.consequences import Holder
from olive_compass.core.schemes.layers import UNLISTED
from olive_compass.core.schemes.objections import holders
from olive_compass.core.schemes.objections.kind import ASKED, TAKEN, Kind, Request

if TYPE_CHECKING:
    from olive_compass.core.schemes.objections.kind import Telling


def find(request: Request) -> tuple[Holder, ...]:
    """What is built in on the press."""
    return tuple(each for each in request.held if each.claim.layer == UNLISTED)


def says(telling: "Telling", evidence: tuple[Holder, ...]) -> str:
    return holders.says(telling, evidence)


KIND = Kind(id="unlisted", weight=ASKED, order=80, find=find, says=says, asks=TAKEN)
