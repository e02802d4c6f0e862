"""The label stands behind AltGr, or on a dead key."""

from typing import TYPE_CHECKING

from olive_compass.core.schemes import traits
from olive_compass.core.schemes.objections.kind import OF_TRIGGER, SAID, Kind, Request
from olive_compass.core.schemes.traits import Trait

if TYPE_CHECKING:
    from olive_compass.core.schemes.objections.kind import Telling


def find(request: Request) -> tuple[Trait, ...]:
    """The strokes of which that is so."""
    return traits.traits(request.view.keymap.keyboard, request.trigger, traits.behind_altgr)


def says(telling: "Telling", evidence: tuple[Trait, ...]) -> str:
    return "; ".join(f"“{each.stroke.key}” {each.text} here" for each in evidence)


KIND = Kind(id="altgr", weight=SAID, order=130, find=find, says=says, early=True, of=OF_TRIGGER)
