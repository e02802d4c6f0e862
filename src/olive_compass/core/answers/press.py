"""What a press does in an application, in which modes, and why; or why it does nothing."""

from collections.abc import Iterable, Iterator

from msgspec import Struct

from olive_compass.core.keys.triggers import Run, Stroke
from olive_compass.core.schemes.board import keyless_presses
from olive_compass.core.schemes.claims import Claim, absent_claims
from olive_compass.core.schemes.deciding import CHOICE, MUTED, NOTHING, STARTS, Keymap, Outcome
from olive_compass.core.schemes.free import FREE, TYPED, state
from olive_compass.core.schemes.holdings import by_letters
from olive_compass.core.schemes.traits import broken_rules, lacking, typing_modes


class Reason(Struct, frozen=True):
    """Why a press does nothing."""


class Unused(Reason, frozen=True):
    """Nobody uses it: it is free."""


class StartsEarlier(Reason, frozen=True):
    """Its first strokes start something before the rest is typed: what ``outcome`` has."""

    strokes: Run
    outcome: Outcome


class GoesNowhere(Reason, frozen=True):
    """No sequence goes on from its first strokes with ``last``; alone they do what ``outcome`` has."""

    strokes: Run
    last: Stroke
    outcome: Outcome


class UsedInside(Reason, frozen=True):
    """It is used in modes that this one does not lie inside."""

    modes: tuple[str, ...]


class TypesText(Reason, frozen=True):
    """Typing writes text."""


class CannotBeMade(Reason, frozen=True):
    """The keyboard lacks a stroke of it."""

    stroke: Stroke
    why: str


class AgainstRule(Reason, frozen=True):
    """A rule of the application is against it."""

    why: str


class LabelUsed(Reason, frozen=True):
    """Another key with the same label is used."""


class Guess(Struct, frozen=True):
    """That it is guessed which of several claims a press starts, the one that it starts first."""

    contenders: tuple[Claim, ...]


class Trick(Struct, frozen=True):
    """How a mute comes about where the application cannot turn a key off: a command that is never enabled has it,
    or its command is moved ``away``."""

    never: str
    away: Run | None


class NotStarted(Struct, frozen=True):
    """Commands that want a press in vain: keyless ones with the reason, and missing ones."""

    keyless: tuple[tuple[str, str], ...]
    absent: tuple[Claim, ...]


class Idle(Struct, frozen=True, kw_only=True):
    """Modes in which a press does nothing for the same reason."""

    reason: Reason
    modes: tuple[str, ...]
    not_started: NotStarted


class Here(Struct, frozen=True, kw_only=True):
    """Modes in which a press comes to the same: what it does there, or for which reasons it does nothing."""

    modes: tuple[str, ...]
    outcome: Outcome
    idle: tuple[Idle, ...] = ()
    not_started: NotStarted
    guess: Guess | None = None
    tricks: tuple[Trick, ...] = ()


class PressAnswer(Struct, frozen=True, kw_only=True):
    """What a press does. ``letters`` are the commands that the menus lead to letter by letter, ``absent`` the claims of
    commands that are not there, in any mode."""

    trigger: Run
    here: tuple[Here, ...]
    letters: tuple[str, ...]
    absent: tuple[Claim, ...]

    @property
    def does_something(self) -> bool:
        """Whether it does anything in one of the modes."""
        return bool(self.letters) or any(each.outcome.what != NOTHING for each in self.here)


def press(keymap: Keymap, trigger: Run, modes: Iterable[str]) -> PressAnswer:
    """What ``trigger`` does in each of ``modes``; those in which it does the same stand together."""
    together: dict[Outcome, list[str]] = {}
    for mode in modes:
        together.setdefault(keymap.decide(trigger, mode), []).append(mode)
    letters = tuple(by_letters(keymap, trigger))
    here = []
    for outcome, where in together.items():
        is_idle = outcome.what == NOTHING and not letters
        here.append(
            Here(
                modes=tuple(where),
                outcome=outcome,
                idle=tuple(_idle(keymap, trigger, where)) if is_idle else (),
                not_started=_not_started(keymap, trigger, where),
                guess=_guess(keymap, outcome),
                tricks=tuple(_tricks(keymap, outcome)),
            )
        )
    absent = _absent(keymap, trigger, keymap.app.modes.names)
    return PressAnswer(trigger=trigger, here=tuple(here), letters=letters, absent=absent)


def beginnings(keymap: Keymap, trigger: Run, mode: str) -> Iterator[tuple[Run, Outcome]]:
    """What each beginning of a sequence does in a mode, until something starts."""
    for length in range(1, len(trigger.strokes)):
        short = Run(trigger.strokes[:length])
        outcome = keymap.decide(short, mode)
        yield short, outcome
        if outcome.what in (STARTS, CHOICE, MUTED):
            return


def _idle(keymap: Keymap, trigger: Run, modes: Iterable[str]) -> Iterator[Idle]:
    # It may be free in one mode and be typed in another.
    by_reason: dict[Reason, list[str]] = {}
    for mode in modes:
        by_reason.setdefault(_reason(keymap, trigger, mode), []).append(mode)
    for reason, where in by_reason.items():
        not_started = _not_started(keymap, trigger, where)
        yield Idle(reason=reason, modes=tuple(where), not_started=not_started)


def _reason(keymap: Keymap, trigger: Run, mode: str) -> Reason:
    """Why a press does nothing in a mode."""
    for short, outcome in beginnings(keymap, trigger, mode):
        if outcome.what in (STARTS, CHOICE, MUTED):
            # The sequence never gets further, whatever else may want it.
            return StartsEarlier(short, outcome)
        if outcome.winners and len(short.strokes) == len(trigger.strokes) - 1:
            return GoesNowhere(short, trigger.strokes[-1], outcome)
    # The commonest reason: the key counts, in a mode inside this one.
    inside = dict.fromkeys(
        claim.mode
        for claim in keymap.buckets.get(keymap.keyboard.press_of(trigger), ())
        if mode not in keymap.app.modes.within(claim.mode)
    )
    if inside:
        return UsedInside(tuple(inside))
    return _why_not_free(keymap, trigger, mode)


def _why_not_free(keymap: Keymap, trigger: Run, mode: str) -> Reason:
    """Why a press that nobody wants is not free in a mode all the same, as ``free`` has it, or that it is."""
    shown = state(keymap, trigger, (mode,), mode in typing_modes(keymap.app, (mode,)))
    if shown == FREE:
        return Unused()
    if shown == TYPED:
        return TypesText()
    for stroke in trigger.strokes:
        why = lacking(keymap.keyboard, stroke)
        if why:
            return CannotBeMade(stroke, why)
    for broken in broken_rules(keymap.app, keymap.keyboard, trigger, (mode,)):
        return AgainstRule(broken.why)
    return LabelUsed()


def _not_started(keymap: Keymap, trigger: Run, modes: Iterable[str]) -> NotStarted:
    keyless = keyless_presses(keymap).get(keymap.keyboard.press_of(trigger), ())
    return NotStarted(tuple(keyless), _absent(keymap, trigger, modes))


def _absent(keymap: Keymap, trigger: Run, modes: Iterable[str]) -> tuple[Claim, ...]:
    """What would start a command with the press in one of the modes, were the command there."""
    pressed = keymap.keyboard.press_of(trigger)
    inside = {path for mode in modes for path in keymap.app.modes.path(mode)}
    found = {
        claim.command: claim
        for claim in absent_claims(keymap.stack)
        if claim.mode in inside and keymap.keyboard.press_of(claim.trigger) == pressed
    }
    return tuple(found.values())


def _guess(keymap: Keymap, outcome: Outcome) -> Guess | None:
    """That it is a guess which of several commands the key starts; None: it is none."""
    if not outcome.winners or "duplicates" not in keymap.app.rules.guessed:
        return None
    # Loaded here: the finding that says so afterwards decides who wants the press at one place.
    from olive_compass.core.findings.same_press import contenders

    first = outcome.winners[0]
    claims = (*outcome.winners, *outcome.overridden)
    here = [each for each in claims if (each.rank, each.mode) == (first.rank, first.mode)]
    wanting = contenders(here)
    if len(wanting) < 2 or any(claim.mutes for claim in wanting):
        return None
    return Guess(tuple(wanting))


def _tricks(keymap: Keymap, outcome: Outcome) -> Iterator[Trick]:
    for claim in (*outcome.winners, *outcome.overridden):
        for scheme in keymap.stack.schemes:
            decision = scheme.mute.get(claim.trigger)
            if claim.mutes and scheme.name == claim.origin and decision is not None:
                yield Trick(decision.never, decision.away)
