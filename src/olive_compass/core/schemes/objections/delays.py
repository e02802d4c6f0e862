"""It begins with shorter triggers, which would start only after a wait."""

from typing import TYPE_CHECKING

from olive_compass.core.apps.modes import joined
from olive_compass.core.keys.presses import Press
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.objections import keyless
from olive_compass.core.schemes.objections.kind import SAID, Edited, Kind, Request

if TYPE_CHECKING:
    from olive_compass.core.schemes.objections.kind import Telling


def find(request: Request) -> tuple[Claim, ...]:
    """The shorter triggers."""
    return _shorter(request.view.keymap, request.press, request.inside)


def effects(edited: Edited) -> tuple[Claim, ...]:
    """Those, and the shorter runs that come back with the keys of a command that was keyless."""
    return keyless.with_what_comes_back(edited, KIND, _shorter)


def _shorter(keymap: Keymap, press: Press, inside: tuple[str, ...]) -> tuple[Claim, ...]:
    found = (
        claim
        for length in range(1, len(press))
        for mode in inside
        for claim in keymap.winners(press[:length], mode)
        if not claim.mutes and not claim.layer.locked
    )
    return tuple(dict.fromkeys(found))


def says(telling: "Telling", evidence: tuple[Claim, ...]) -> str:
    keys = joined(dict.fromkeys(str(claim.trigger) for claim in evidence))
    return (
        f"{keys} ({telling.view.meanings(evidence)}) will start only after a wait, because "
        f"{telling.trigger} begins with it"
    )


KIND: Kind[Claim] = Kind(id="delays", weight=SAID, order=150, find=find, effects=effects, says=says)
