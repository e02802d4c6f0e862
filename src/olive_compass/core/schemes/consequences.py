"""What an edit of a scheme changes for the hand: mode by mode, and for each command."""

from collections.abc import Iterable

from msgspec import Struct

from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Claim, Does
from olive_compass.core.schemes.deciding import Keymap, Outcome
from olive_compass.core.schemes.holdings import live_triggers


class Shift(Struct, frozen=True, kw_only=True):
    """In ``modes``, typing ``trigger`` did ``before`` and does ``after``."""

    trigger: Run
    modes: tuple[str, ...]
    before: Outcome
    after: Outcome


class Loss(Struct, frozen=True, kw_only=True):
    """``command`` loses a trigger in ``modes``.

    ``left`` are the triggers that still reach it in every one of those modes, ``elsewhere``
    those that reach it in some other mode.
    """

    command: str
    trigger: Run
    modes: tuple[str, ...]
    left: tuple[Run, ...]
    elsewhere: tuple[Run, ...]


class Holder(Struct, frozen=True):
    """A claim that decides a press now, and the modes in which it does."""

    claim: Claim
    modes: tuple[str, ...]


def holders(keymap: Keymap, trigger: Run, modes: Iterable[str], command: str) -> list[Holder]:
    """Who but ``command`` holds ``trigger`` in ``modes`` and in what lies inside them."""
    found: dict[Claim, list[str]] = {}
    inside = keymap.app.modes.inside(modes)
    # A trigger may be made in two ways (a sign with and without Shift): each may have its own holder.
    for press in keymap.keyboard.presses_of(trigger):
        if press not in keymap.buckets:
            continue
        for mode in inside:
            for claim in keymap.winners(press, mode):
                if claim.command != command and mode not in found.setdefault(claim, []):
                    found[claim].append(mode)
    return [Holder(claim, tuple(where)) for claim, where in found.items() if where]


def shifts(before: Keymap, after: Keymap, triggers: Iterable[Run]) -> list[Shift]:
    """What typing each of ``triggers`` does differently after an edit, modes together."""
    found: dict[tuple[Run, Outcome, Outcome], list[str]] = {}
    for trigger in triggers:
        for mode in before.app.modes.names:
            old, new = before.decide(trigger, mode), after.decide(trigger, mode)
            # What it hides has changed as well, perhaps: nobody feels that.
            if _who(old) != _who(new) or old.what != new.what:
                found.setdefault((trigger, old, new), []).append(mode)
    return [
        Shift(trigger=key[0], modes=tuple(modes), before=key[1], after=key[2])
        for key, modes in found.items()
    ]


def losses(before: Keymap, after: Keymap, trigger: Run) -> list[Loss]:
    """Which commands ``trigger`` no longer reaches after an edit, and what they keep."""
    lost: dict[str, list[str]] = {}
    for press in before.keyboard.presses_of(trigger):
        for mode in before.app.modes.names:
            now = {claim.command for claim in after.winners(press, mode)}
            for claim in before.winners(press, mode):
                command = claim.command
                if command and command not in now and mode not in lost.setdefault(command, []):
                    lost[command].append(mode)
    return [_loss(after, command, trigger, tuple(modes)) for command, modes in lost.items()]


def _loss(after: Keymap, command: str, trigger: Run, modes: tuple[str, ...]) -> Loss:
    """What a command keeps that loses a trigger in these modes."""
    everywhere = dict.fromkeys(live_triggers(after, command))
    # Left is what still works wherever the key is missed; a key of another mode is no comfort there.
    left = set(everywhere)
    for mode in modes:
        left &= set(live_triggers(after, command, mode))
    return Loss(
        command=command,
        trigger=trigger,
        modes=modes,
        left=tuple(run for run in everywhere if run in left),
        elsewhere=tuple(run for run in everywhere if run not in left),
    )


def _who(outcome: Outcome) -> tuple[Does, ...]:
    return tuple(claim.does for claim in outcome.winners)
