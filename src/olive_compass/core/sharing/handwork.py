"""Changing keys by hand: what an application has, what a step is, and which steps it allows."""

from collections.abc import Callable, Mapping
from typing import NamedTuple

from olive_compass.core.keys.triggers import Run

#: What a command has: its triggers, by command id.
State = Mapping[str, frozenset[Run]]


class Limits(NamedTuple):
    """What an application allows by hand.

    ``duplicates`` is its rule for a trigger that is in use; ``most`` how many triggers a command may
    have (0: any number); ``can_take`` whether a trigger can be taken from a command without giving
    it another. ``meet`` says whether two commands can be used in one mode.
    """

    duplicates: str = "replace"
    most: int = 0
    can_take: bool = True
    meet: Callable[[str, str], bool] = lambda one, other: True

    @property
    def refuses(self) -> bool:
        """Whether a trigger in use cannot be given: it is refused, or has no effect."""
        return self.duplicates in ("refuse", "first-wins")


class Step(NamedTuple):
    """One change by hand: ``command`` gets ``gets`` (None: nothing) in place of ``loses`` (None)."""

    command: str
    gets: Run | None
    loses: Run | None = None
    spare: bool = False


class Left(NamedTuple):
    """A wish that the application's rules do not allow: who, which trigger, and why.

    ``why`` may have ``{by}`` in it, the title of the command ``by``.
    """

    command: str
    trigger: Run
    why: str
    by: str = ""


class WorkList(NamedTuple):
    """The steps in their order, what cannot be done, and the keys that the steps lead to."""

    steps: tuple[Step, ...]
    left: tuple[Left, ...]
    reached: dict[str, frozenset[Run]]


def illegal(state: State, step: Step, limits: Limits) -> str:
    """Why the application's rules do not allow a step, ``""``: they do."""
    have = state.get(step.command, frozenset())
    if step.loses is not None and step.loses not in have:
        return f"{step.command} has no {step.loses}"
    if step.gets is None:
        return "" if limits.can_take else "a trigger cannot be taken away"
    if step.gets in have:
        return f"{step.command} has {step.gets} already"
    if limits.refuses:
        for other in holders_of(state, step.gets):
            if other != step.command and limits.meet(step.command, other):
                return f"{step.gets} is in use by {other}"
    count = len(have) + 1 - (step.loses is not None)
    if limits.most and count > limits.most:
        return f"{step.command} may have {limits.most} triggers"
    return ""


def after_step(state: State, step: Step, limits: Limits) -> dict[str, frozenset[Run]]:
    """The keys after a step."""
    after = dict(state)
    have = set(after.get(step.command, frozenset()))
    have -= {step.loses}
    if step.gets is not None:
        have.add(step.gets)
        if limits.duplicates == "replace":
            for other in holders_of(state, step.gets):
                if other != step.command and limits.meet(step.command, other):
                    after[other] = after[other] - {step.gets}
    after[step.command] = frozenset(have)
    return after


def holders_of(state: State, run: Run) -> list[str]:
    """The commands that have a trigger."""
    return [command for command, runs in state.items() if run in runs]
