"""It takes a character that nothing else types."""

from typing import TYPE_CHECKING

from olive_compass.core.schemes import traits
from olive_compass.core.schemes.objections.kind import OF_TRIGGER, SAID, Kind, Request
from olive_compass.core.schemes.traits import Trait

if TYPE_CHECKING:
    from olive_compass.core.schemes.objections.kind import Telling


def find(request: Request) -> tuple[Trait, ...]:
    """The characters, each with its stroke."""
    return traits.traits(request.view.keymap.keyboard, request.trigger, traits.makes_untypable)


def says(telling: "Telling", evidence: tuple[Trait, ...]) -> str:
    return "; ".join(f"It makes “{each.text}” untypable here" for each in evidence)


KIND = Kind(id="untypable", weight=SAID, order=120, find=find, says=says, early=True, of=OF_TRIGGER)
