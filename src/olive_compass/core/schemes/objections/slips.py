"""What costs much by mistake would lie right beside what is used much."""

from typing import TYPE_CHECKING

from olive_compass.core.apps.modes import ROOT
from olive_compass.core.schemes.claims import Claim, Does
from olive_compass.core.schemes.layers import MENUS
from olive_compass.core.schemes.objections.kind import SAID, Kind, Request
from olive_compass.core.schemes.traits import Slip, neighbours

if TYPE_CHECKING:
    from olive_compass.core.schemes.objections.kind import Telling


def find(request: Request) -> tuple[Slip, ...]:
    """Slips of the finger between this press and its neighbours, in modes that both count in."""
    command, where = request.command, (request.view.keymap, request.press, request.inside)
    # It is not given yet: a claim that stands for it, whose layer and rank nobody looks at.
    own = Claim(trigger=request.trigger, does=Does(command.id), mode=ROOT, layer=MENUS, rank=0)
    found: list[Slip] = []
    if command.marks.disruptive:
        found += [Slip(own, claim) for claim in neighbours(*where, "often")]
    if command.marks.often:
        found += [Slip(claim, own) for claim in neighbours(*where, "disruptive")]
    # Two keys of one command beside each other do the same: no slip.
    return tuple(each for each in found if each.disruptive.command != each.often.command)


def says(telling: "Telling", evidence: tuple[Slip, ...]) -> str:
    view, slip = telling.view, evidence[0]
    disruptive = slip.disruptive.command
    return (
        f"A slip from {slip.often.trigger} (“{view.title(slip.often.command)}”) starts "
        f"“{view.title(disruptive)}”, which {view.app.catalogue.by_id[disruptive].marks.warning}"
    )


KIND = Kind(id="slips", weight=SAID, order=190, find=find, says=says)
