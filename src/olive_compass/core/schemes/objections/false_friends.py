"""A habit from another application would meet a command that costs much by mistake."""

from typing import TYPE_CHECKING

from olive_compass.core.schemes.objections.kind import SAID, Kind, Request

if TYPE_CHECKING:
    from olive_compass.core.schemes.objections.kind import Telling
    from olive_compass.core.schemes.view import FalseFriend


def find(request: Request) -> "tuple[FalseFriend, ...]":
    """The habits, where applications are held against each other."""
    view = request.view
    if not view.across:
        return ()
    return view.across.worse_with(view.keymap, request.command.id, request.trigger)


def says(telling: "Telling", evidence: "tuple[FalseFriend, ...]") -> str:
    return f"A false friend: {evidence[0].says}"


KIND = Kind(id="false-friends", weight=SAID, order=200, find=find, says=says)
