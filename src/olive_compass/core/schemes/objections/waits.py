"""Longer runs begin with the press, so that it starts only after a wait."""

from typing import TYPE_CHECKING

from olive_compass.core.apps.modes import joined
from olive_compass.core.keys.presses import Press
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.objections import keyless
from olive_compass.core.schemes.objections.kind import SAID, Edited, Kind, Request
from olive_compass.core.wording import by_number

if TYPE_CHECKING:
    from olive_compass.core.schemes.objections.kind import Telling


def find(request: Request) -> tuple[Claim, ...]:
    """The longer runs."""
    return _longer(request.view.keymap, request.press, request.inside)


def effects(edited: Edited) -> tuple[Claim, ...]:
    """Those, and the longer runs that come back with the keys of a command that was keyless."""
    return keyless.with_what_comes_back(edited, KIND, _longer)


def _longer(keymap: Keymap, press: Press, inside: tuple[str, ...]) -> tuple[Claim, ...]:
    if press not in keymap.beginnings:
        return ()
    found = (claim for mode in inside for claim in keymap.decide_press(press, mode).longer)
    return tuple(dict.fromkeys(found))


def says(telling: "Telling", evidence: tuple[Claim, ...]) -> str:
    names = list(dict.fromkeys(str(claim.trigger) for claim in evidence))
    begin = by_number(len(names), "begins", "begin")
    return f"It starts only after a wait, because {joined(names, 4)} {begin} with it"


KIND: Kind[Claim] = Kind(id="waits", weight=SAID, order=140, find=find, effects=effects, says=says)
