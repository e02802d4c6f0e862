"""Menus that its access letter would no longer open."""

from typing import TYPE_CHECKING

from olive_compass.core.apps.modes import joined
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.consequences import Holder
from olive_compass.core.schemes.holdings import letter_route
from olive_compass.core.schemes.layers import MENUS
from olive_compass.core.schemes.objections.kind import SAID, Kind, Request
from olive_compass.core.schemes.view import View
from olive_compass.core.wording import counted

if TYPE_CHECKING:
    from olive_compass.core.schemes.objections.kind import Telling


def find(request: Request) -> tuple[Holder, ...]:
    """The menus that the press opens now."""
    return tuple(each for each in request.held if each.claim.layer == MENUS)


def routes_by(view: View, trigger: Run) -> tuple[str, ...]:
    """The titles of commands whose keyboard route begins with ``trigger``."""
    letter = trigger.strokes[0].key
    return tuple(
        each.title
        for each in view.app.catalogue.commands
        if each.access[:1] == (letter,) and letter_route(view.keymap, each.id)
    )


def says(telling: "Telling", evidence: tuple[Holder, ...]) -> str:
    trigger = telling.trigger
    text = f"{trigger} no longer {evidence[0].claim.wired}"
    titles = routes_by(telling.view, trigger)
    if not titles:
        return text
    return f"{text}: {counted(len(titles), 'keyboard route')} ({joined(titles, 3)}) are lost"


KIND = Kind(id="menus", weight=SAID, order=170, find=find, says=says)
