"""Guards: presses that must keep their meaning, and whether an edit lets them."""

from msgspec import Struct

from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Does
from olive_compass.core.schemes.deciding import Keymap, Outcome
from olive_compass.core.schemes.decisions import Decision, Scheme


class Guarded(Struct, frozen=True, kw_only=True):
    """A guard that does not hold in ``mode``: its scheme, trigger and decision; what it keeps, and
    what the press does instead."""

    scheme: Scheme
    trigger: Run
    decision: Decision
    mode: str
    kept: tuple[Does, ...]
    now: Outcome

    def keeps(self, command: str) -> bool:
        """Whether it is the command that the guard keeps."""
        return any(does.command == command for does in self.kept)


class _Kept(Struct, frozen=True):
    """What a guard keeps in a mode, and whether longer runs may begin with the press."""

    does: tuple[Does, ...]
    waits: bool


def broken_guards(before: Keymap, after: Keymap) -> list[Guarded]:
    """The guards of ``before`` that ``after`` breaks, or breaks further, each mode by itself.

    A guard keeps the command that it names; or else what its own layer and those below it said.
    A longer run that makes the press wait breaks it too.
    """
    return [
        broken
        for rank, scheme in enumerate(before.stack.schemes)
        if scheme.guard
        for broken in _broken(scheme, before.from_layer(rank), before, after)
    ]


def standing_breaks(keymap: Keymap) -> list[Guarded]:
    """The guards that do not hold as things are."""
    found = []
    for rank, scheme in enumerate(keymap.stack.schemes):
        if scheme.guard:
            found += _broken(scheme, keymap.from_layer(rank), None, keymap)
    return found


def _broken(scheme: Scheme, own: Keymap, before: Keymap | None, after: Keymap) -> list[Guarded]:
    found = []
    for run, decision in scheme.guard.items():
        press = after.keyboard.press_of(run)
        for mode in after.app.modes.inside(m for m in decision.modes if m in after.app.modes):
            kept = _kept(own.decide_press(press, mode), decision)
            now = after.decide_press(press, mode)
            # A guard that was broken already stops no edit that makes it no worse.
            then = None
            if before is not None:
                then = before.decide_press(press, mode)
            if not _holds(now, kept) and (then is None or _is_worse(then, now, kept)):
                found.append(
                    Guarded(
                        scheme=scheme,
                        trigger=run,
                        decision=decision,
                        mode=mode,
                        kept=kept.does,
                        now=now,
                    )
                )
    return found


def _kept(own: Outcome, decision: Decision) -> _Kept:
    does = tuple(claim.does for claim in own.winners)
    return _Kept((Does(decision.keeps),) if decision.keeps else does, bool(own.longer))


def _is_worse(then: Outcome, now: Outcome, kept: _Kept) -> bool:
    """Whether a guard held, or held in part what is lost now, or something else comes between."""
    does, did = ({claim.does for claim in each.winners} for each in (now, then))
    # A new command in between and a newly lost one: either is worse than before, even where the
    # guard did not hold.
    others = bool(does - did - set(kept.does))
    lost = bool(did & set(kept.does) - does)
    return _holds(then, kept) or others or lost or bool(now.longer and not then.longer)


def _holds(outcome: Outcome, kept: _Kept) -> bool:
    same = tuple(claim.does for claim in outcome.winners) == kept.does
    # Waiting for a longer run is a change to the hand, unless the guarded layer itself has such runs.
    return same and (kept.waits or not outcome.longer)
