"""Puts the candidates of a shared trigger in order."""

from msgspec import Struct

from olive_compass.core.changes.change import Answers, Change, Edit, Refusal
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.view import View
from olive_compass.structs import replace

#: The trigger does not offer one of them.
STRANGER = "stranger"


class Choice(Struct, frozen=True, kw_only=True):
    """Let ``trigger`` offer ``commands`` first, in this order."""

    trigger: Run
    commands: tuple[str, ...]
    scheme: Scheme
    answers: Answers = Answers()


class Stranger(Struct, frozen=True):
    """A command that a trigger does not offer, and those that it does."""

    command: str
    offered: tuple[str, ...]


class Offers(Struct, frozen=True):
    """What a trigger offers now, in its order."""

    trigger: Run
    commands: tuple[str, ...]


def choice(view: View, request: Choice) -> Change:
    """The scheme with the order; candidates that were not named come last, by their ids."""
    press = view.keymap.keyboard.press_of(request.trigger)
    offered = {
        claim.command
        for mode in view.app.modes.names
        if len(winners := view.keymap.winners(press, mode)) > 1
        for claim in winners
    }
    for command in request.commands:
        if command not in offered:
            stranger = Stranger(command, tuple(sorted(offered)))
            return Change(refusals=(Refusal(STRANGER, stranger),))
    rest = [command for command in sorted(offered) if command not in request.commands]
    order = (*request.commands, *rest)
    scheme = request.scheme
    after = replace(scheme, order={**scheme.order, request.trigger: order})
    effects = (Offers(request.trigger, order),)
    # The order of a choice takes nothing from anybody, so no guard is asked.
    return Change(edits=(Edit(scheme, after),), effects=effects)
