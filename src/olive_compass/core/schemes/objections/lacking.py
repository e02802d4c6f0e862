"""A keyboard of the desk cannot make it."""

from typing import TYPE_CHECKING

from olive_compass.core.schemes import traits
from olive_compass.core.schemes.objections.kind import ASKED, KEYBOARD, OF_TRIGGER, Kind, Request
from olive_compass.core.schemes.traits import Trait

if TYPE_CHECKING:
    from olive_compass.core.schemes.objections.kind import Telling


def find(request: Request) -> tuple[Trait, ...]:
    """The strokes that cannot be made."""
    return traits.traits(request.view.keymap.keyboard, request.trigger, traits.lacking)


def says(telling: "Telling", evidence: tuple[Trait, ...]) -> str:
    return "; ".join(
        f"{each.stroke} cannot be made on this keyboard: {each.text}" for each in evidence
    )


KIND = Kind(
    id="lacking",
    weight=ASKED,
    order=90,
    find=find,
    says=says,
    early=True,
    of=OF_TRIGGER,
    asks=KEYBOARD,
)
