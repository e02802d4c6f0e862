"""Says that a trigger must keep its meaning."""

from msgspec import Struct

from olive_compass.core.changes.change import Answers, Change, Edit
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.deciding import Outcome
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.editing import make_guard
from olive_compass.core.schemes.view import View


class Guard(Struct, frozen=True, kw_only=True):
    """Guard ``trigger`` in ``modes``, and why."""

    trigger: Run
    modes: tuple[str, ...]
    scheme: Scheme
    why: str
    answers: Answers = Answers()


class Keeps(Struct, frozen=True):
    """What the guarded press does in a mode."""

    mode: str
    outcome: Outcome


def guard(view: View, request: Guard) -> Change:
    """The scheme that says so: it names the command where the press starts one and the same."""
    # A guard holds in every mode inside of those that it names.
    kept = [
        Keeps(mode, view.keymap.decide(request.trigger, mode))
        for mode in view.app.modes.inside(request.modes)
    ]
    commands = {tuple(claim.does for claim in each.outcome.winners) for each in kept}
    only = next(iter(commands)) if len(commands) == 1 else ()
    keeps = ""
    if len(only) == 1:
        keeps = only[0].command
    after = make_guard(request.scheme, request.trigger, request.modes, request.why, keeps)
    return Change(edits=(Edit(request.scheme, after),), effects=tuple(kept))
