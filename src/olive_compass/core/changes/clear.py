"""Takes decisions out of a scheme: those on a command, on a key, or one key of a command."""

from collections.abc import Iterator

from msgspec import Struct

from olive_compass.core.changes.change import (
    Answers,
    Change,
    Edit,
    Refusal,
    edited,
    shifted,
    without,
)
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.editing import clear_command, clear_trigger, take
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.schemes.view import View

#: Why nothing can be cleared: the scheme decides nothing about it; the key comes from a layer below;
#: what was named is a key and a command, and the scheme decides about both.
NOTHING, FROM_BELOW, BOTH = "nothing", "from-below", "both"


class Clear(Struct, frozen=True, kw_only=True):
    """Clear ``command`` (``""``: none), ``trigger`` (None: none), or that trigger of that command
    (``both``: together). Where they are not together, what the scheme decides about counts."""

    scheme: Scheme
    command: str = ""
    trigger: Run | None = None
    both: bool = False
    answers: Answers = Answers()


class FromBelow(Struct, frozen=True):
    """The keys that lower layers give a command, and those that it would keep."""

    command: str
    triggers: tuple[Run, ...]
    keeps: tuple[Run, ...]


class Cleared(Struct, frozen=True):
    """What was cleared: a command or a trigger."""

    command: str
    trigger: Run | None


def _cleared(view: View, request: Clear) -> Iterator[tuple[Cleared, Scheme]]:
    """What the request may mean, each with the scheme without it."""
    scheme, command, trigger = request.scheme, request.command, request.trigger
    if request.both and trigger is not None:
        every = view.app.modes.names
        yield Cleared(command, trigger), take(scheme, command, trigger, every, view.keyboard)
        return
    if trigger is not None:
        yield Cleared("", trigger), clear_trigger(scheme, trigger, view.keyboard)
    if command:
        yield Cleared(command, None), clear_command(scheme, command)


def clear(view: View, request: Clear) -> Change:
    """The scheme without the decisions; what applies instead, and who is left without a key."""
    scheme = request.scheme
    hits = [(what, after) for what, after in _cleared(view, request) if after != scheme]
    if not hits:
        return Change(refusals=(_nothing(view, request),))
    # “S” may be a key and the name of a command: what was meant is for the person to say.
    if len(hits) > 1:
        return Change(refusals=(Refusal(BOTH, [what for what, _ in hits]),))
    ((_, after),) = hits
    edits = (Edit(scheme, after),)
    changed = [c for c in scheme.assign if scheme.assign[c] != after.assign.get(c)]
    changed += [c for c in scheme.keyless if c not in after.keyless]
    effects = (*shifted(view, edits), *without(view, edits, tuple(changed)))
    return edited(view, edits, request.answers, effects)


def _nothing(view: View, request: Clear) -> Refusal:
    """Why nothing is cleared, with what would do instead where lower layers have the key."""
    below = [
        claim
        for claim in view.keymap.by_command.get(request.command, ())
        if claim.origin != request.scheme.name
        and (request.trigger is None or _same(view, claim.trigger, request.trigger))
    ]
    if request.command and below:
        gone = tuple(dict.fromkeys(claim.trigger for claim in below))
        keeps = [run for run in live_triggers(view.keymap, request.command) if run not in gone]
        return Refusal(FROM_BELOW, FromBelow(request.command, gone, tuple(keeps)))
    return Refusal(NOTHING, request)


def _same(view: View, one: Run, other: Run) -> bool:
    return view.keyboard.press_of(one) == view.keyboard.press_of(other)
