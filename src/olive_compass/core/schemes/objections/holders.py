"""Who has the press now, mutes among them."""

from typing import TYPE_CHECKING

from olive_compass.core.schemes.consequences import Holder
from olive_compass.core.schemes.layers import MENUS, UNLISTED
from olive_compass.core.schemes.objections.kind import ASKED, TAKEN, Kind, Request
from olive_compass.core.wording import capital, clause

if TYPE_CHECKING:
    from olive_compass.core.schemes.objections.kind import Telling


def find(request: Request) -> tuple[Holder, ...]:
    """The schemes and the factory keys that decide the press now."""
    wired = (UNLISTED, MENUS)
    return tuple(
        each for each in request.held if not (each.claim.layer in wired or each.claim.layer.locked)
    )


def holder_says(telling: "Telling", holder: Holder) -> str:
    """Who holds the trigger, where, and by which decision."""
    claim, view, trigger = holder.claim, telling.view, telling.trigger
    place = telling.where(claim)
    where = capital(view.app.modes.phrase(holder.modes))
    if claim.wired:
        return (
            f"{where}, {trigger} is taken: {view.app.title} {claim.wired}. Its own list does not "
            f"show this ({place})"
        )
    if claim.mutes:
        why = clause(": {}", claim.why)
        return f"{where}, {trigger} is muted{why} ({telling.source(claim)}; {place})"
    title = telling.strong(view.title(claim.command))
    return f"{where}, {trigger} already starts {title} ({telling.source(claim)}; {place})"


def says(telling: "Telling", evidence: tuple[Holder, ...]) -> str:
    return "; ".join(holder_says(telling, each) for each in evidence)


KIND = Kind(id="holders", weight=ASKED, order=70, find=find, says=says, asks=TAKEN)
