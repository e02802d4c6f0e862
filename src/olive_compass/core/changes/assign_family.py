"""Gives several triggers to several commands as one change: all of them, or none."""

from msgspec import Struct

from olive_compass.core.changes.assign import Assign, assign
from olive_compass.core.changes.change import Change, Refusal
from olive_compass.core.changes.together import together
from olive_compass.core.changes.view import AppView

#: Two of the family would have one press in one mode.
TWICE = "twice"


class Family(Struct, frozen=True):
    """Two wishes that do not go together."""

    one: Assign
    other: Assign


def assign_family(view: AppView, requests: tuple[Assign, ...]) -> Change:
    """The scheme with all of the triggers; its effects are the verdicts, in the order of the wishes."""
    if twice := _twice(view, requests):
        return Change(refusals=(Refusal(TWICE, twice),))
    return together(view, requests, assign)


def _twice(view: AppView, requests: tuple[Assign, ...]) -> Family | None:
    """Two wishes for one press in one mode."""
    seen: dict[tuple[object, str], Assign] = {}
    for request in requests:
        for press in view.keymap.keyboard.presses_of(request.trigger):
            for mode in view.app.modes.inside(request.modes):
                other = seen.setdefault((press, mode), request)
                if other is not request:
                    return Family(other, request)
    return None
