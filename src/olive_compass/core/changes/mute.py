"""Makes a trigger do nothing, or comes near it by a trick where the application cannot."""

from collections.abc import Iterable

from msgspec import Struct

from olive_compass.core.apps.app import Command
from olive_compass.core.changes.change import (
    Answers,
    Change,
    Edit,
    Refusal,
    after_edits,
    edited,
    lost,
    shifted,
)
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes import traits
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.consequences import Loss
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.editing import make_mute, take_from_others
from olive_compass.core.schemes.view import View

#: The two tricks: give the key to a command that is never enabled, or move its command away.
NEVER, AWAY = "never", "away"

#: What cannot be: a locked layer has the trigger; the application switches no key off.
FIRM, CANNOT = "locked", "cannot"


class Mute(Struct, frozen=True, kw_only=True):
    """Mute ``trigger`` in ``modes``, and why; ``by`` is a trick, ``""``: none."""

    trigger: Run
    modes: tuple[str, ...]
    scheme: Scheme
    why: str
    by: str = ""
    answers: Answers = Answers()


class Ways(Struct, frozen=True, kw_only=True):
    """The tricks that are open: a command that is never enabled, and the holder that could be moved
    away, with the trigger that it would get. None: not that one. ``trigger`` is the one to be muted."""

    trigger: Run
    never: Command | None
    holder: Command | None
    away: Run | None


class ShowsThrough(Struct, frozen=True):
    """What the application does with the key once its command was moved away."""

    claim: Claim


class Alternate(Struct, frozen=True):
    """A command that appears in the menu in place of one that loses its key."""

    command: Command


def mute(view: View, request: Mute) -> Change:
    """The scheme in which the trigger is muted; who loses it, and what applies instead."""
    trigger, modes, scheme = request.trigger, request.modes, request.scheme
    if locked := traits.firm_on(view.keymap, trigger):
        return Change(refusals=(Refusal(FIRM, locked[0]),))
    ways = tricks(view, trigger, modes)
    # Where a key cannot be switched off there are two ways round it: a command that is never there, and one
    # that does no harm.
    never, away = "", None
    if not view.app.rules.can_mute:
        never = ""
        if request.by == NEVER and ways.never:
            never = ways.never.id
        away = None
        if request.by == AWAY:
            away = ways.away
        if not never and away is None:
            return Change(refusals=(Refusal(CANNOT, ways),))
    # What this very scheme gives to the key would stand beside its own mute.
    freed = take_from_others(scheme, view.keymap, "", trigger, modes)
    edits = (Edit(scheme, make_mute(freed, trigger, modes, request.why, never, away)),)
    losses = lost(view, edits, (trigger,))
    effects = (
        *shifted(view, edits),
        *losses,
        *_alternates(view, losses),
        *_shows_through(view, edits, trigger, modes),
    )
    return edited(view, edits, request.answers, effects)


def _alternates(view: View, losses: Iterable[Loss]) -> list[Alternate]:
    """The commands that can stand in for those that lose a key."""
    return [
        Alternate(each)
        for loss in losses
        for each in view.app.catalogue.commands
        if each.marks.alternate == loss.command
    ]


def _shows_through(
    view: View, edits: tuple[Edit, ...], trigger: Run, modes: tuple[str, ...]
) -> dict[ShowsThrough, None]:
    """What the application goes on to do with the trigger, for it has that wired in."""
    after = after_edits(view, edits)
    return {
        ShowsThrough(claim): None
        for mode in view.app.modes.inside(modes)
        for claim in after.decide(trigger, mode).winners
        if claim.wired
    }


def tricks(view: View, trigger: Run, modes: tuple[str, ...]) -> Ways:
    """The ways to come near a mute by hand where the application has none."""
    known = view.app.catalogue.by_id
    never = next((c for c in view.app.catalogue.commands if c.marks.never), None)
    holders = [
        claim.command
        for mode in view.app.modes.inside(modes)
        for claim in view.keymap.winners(view.keyboard.press_of(trigger), mode)
        if claim.command in known
    ]
    holder = None
    if holders:
        holder = known[holders[0]]
    return Ways(trigger=trigger, never=never, holder=holder, away=_far(view) if holder else None)


def _far(view: View) -> Run | None:
    """A trigger that the rules allow, that nobody has or is moved to, and the keyboard best lacks."""
    parked = {decision.away for scheme in view.stack.schemes for decision in scheme.mute.values()}
    return next(
        (
            run
            for run in traits.far_triggers(view.app, view.keyboard)
            if run not in parked and view.keyboard.press_of(run) not in view.keymap.buckets
        ),
        None,
    )
