"""Leaves a command without a key on purpose."""

from msgspec import Struct

from olive_compass.core.apps.app import Command
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.changes.change import (
    Answers,
    Change,
    Edit,
    StillHas,
    after_edits,
    edited,
    shifted,
)
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.editing import make_keyless
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.schemes.view import View


class Keyless(Struct, frozen=True, kw_only=True):
    """Leave ``command`` without a key in ``modes``, and why."""

    command: Command
    scheme: Scheme
    why: str
    modes: tuple[str, ...] = (ROOT,)
    answers: Answers = Answers()


def keyless(view: View, request: Keyless) -> Change:
    """The scheme with the decision; the new meaning of the command's keys, and keys that nearer layers still give it."""
    command = request.command.id
    after = make_keyless(request.scheme, command, request.why, request.modes)
    edits = (Edit(request.scheme, after),)
    keymap = after_edits(view, edits)
    inside = set(view.app.modes.inside(request.modes))
    still = tuple(
        dict.fromkeys(
            run
            for mode in view.app.modes.names
            if mode in inside
            for run in live_triggers(keymap, command, mode)
        )
    )
    effects = (*shifted(view, edits), *((StillHas(command, still),) if still else ()))
    return edited(view, edits, request.answers, effects)
