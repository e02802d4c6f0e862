"""Moves a trigger from the command that has it to another, in the modes in which it counted."""

from msgspec import Struct

from olive_compass.core.apps.app import Command
from olive_compass.core.changes.assign import Assign, assign
from olive_compass.core.changes.change import REPLACE, Answers, Change, Refusal
from olive_compass.core.changes.view import AppView
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.structs import replace

#: What cannot be: no command has the trigger there; the command has it already.
NOBODY, HAS_IT = "nobody", "has-it"


class Move(Struct, frozen=True, kw_only=True):
    """Move ``trigger`` to ``command`` in ``modes`` (none: those in which its holder has it)."""

    trigger: Run
    command: Command
    scheme: Scheme
    modes: tuple[str, ...] = ()
    why: str = ""
    answers: Answers = Answers()


def move(view: AppView, request: Move) -> Change:
    """The scheme in which the command has the trigger; its effect is the verdict, which names the
    holder and what that one is left with."""
    held = holders(view, request.trigger, request.modes)
    if not held:
        return Change(refusals=(Refusal(NOBODY, request),))
    if all(claim.command == request.command.id for claim in held):
        return Change(refusals=(Refusal(HAS_IT, request),))
    modes = request.modes or modes_of(view, held, request.command)
    answers = replace(request.answers, taken=REPLACE)
    wish = Assign(
        command=request.command,
        trigger=request.trigger,
        modes=modes,
        scheme=request.scheme,
        why=request.why,
    )
    return assign(view, replace(wish, answers=answers))


def holders(view: AppView, trigger: Run, modes: tuple[str, ...]) -> list[Claim]:
    """What starts a command with a trigger in ``modes``, or in any mode."""
    if modes:
        wanted = view.app.modes.inside(modes)
    else:
        wanted = view.app.modes.names
    return list(
        dict.fromkeys(
            claim
            for press in view.keymap.keyboard.presses_of(trigger)
            for mode in wanted
            for claim in view.keymap.winners(press, mode)
            if claim.command
        )
    )


def modes_of(view: AppView, held: list[Claim], command: Command) -> tuple[str, ...]:
    """The modes in which the holders have it and the command can be used; where there is none of
    those, all in which they have it."""
    tree = view.app.modes
    theirs = tree.inside(dict.fromkeys(claim.mode for claim in held))
    usable = set(tree.inside(command.usable_in))
    both = [mode for mode in theirs if mode in usable]
    return tree.outermost(both or theirs)
