"""Changing keys by hand: what an application has, what a step is, and which steps it allows."""

from collections.abc import Callable, Iterator, Mapping

from msgspec import Struct

from olive_compass.core.keys.triggers import Run

#: What a command has: its triggers, by command id.
State = Mapping[str, frozenset[Run]]


class Limits(Struct, frozen=True, kw_only=True):
    """What an application allows by hand.

    ``duplicates`` is its rule for a trigger that is in use; ``most`` how many triggers a command may
    have (0: any number); ``can_take`` whether a trigger can be taken from a command without giving
    it another. ``meet`` says whether two commands can be used in one mode.
    """

    duplicates: str = "replace"
    most: int = 0
    can_take: bool = True
    meet: Callable[[str, str], bool] = lambda _one, _other: True

    @property
    def refuses(self) -> bool:
        """Whether a trigger in use cannot be given: it is refused, or has no effect."""
        return self.duplicates in ("refuse", "first-wins")


class Step(Struct, frozen=True, kw_only=True):
    """One change by hand: ``command`` gets ``gets`` (None: nothing) in place of ``loses`` (None)."""

    command: str
    gets: Run | None
    loses: Run | None = None
    spare: bool = False


class NotAllowed(Struct, frozen=True, kw_only=True):
    """A wish that the application's rules do not allow: who, which trigger, and why.

    ``why`` may have ``{by}`` in it, the title of the command ``by``.
    """

    command: str
    trigger: Run
    why: str
    by: str = ""


class WorkList(Struct, frozen=True):
    """The steps in their order, what cannot be done, and the keys that the steps lead to."""

    steps: tuple[Step, ...]
    left: tuple[NotAllowed, ...]
    reached: dict[str, frozenset[Run]]


class Held(Mapping[str, frozenset[Run]]):
    """What every command has, to be changed step by step; it knows at once who has a trigger."""

    def __init__(self, state: State) -> None:
        """Start from what ``state`` says: triggers by command id."""
        self._runs: dict[str, frozenset[Run]] = {}
        self._place: dict[str, int] = {}
        self._holders: dict[Run, set[str]] = {}
        for command, runs in state.items():
            self[command] = frozenset(runs)

    def __getitem__(self, command: str) -> frozenset[Run]:
        """The triggers of a command; one that is not known has none."""
        return self._runs.get(command, frozenset())

    def __iter__(self) -> Iterator[str]:
        return iter(self._runs)

    def __len__(self) -> int:
        return len(self._runs)

    def __setitem__(self, command: str, runs: frozenset[Run]) -> None:
        """Let a command have these triggers and no others."""
        before = self[command]
        for run in before - runs:
            self._holders[run].discard(command)
        for run in runs - before:
            self._holders.setdefault(run, set()).add(command)
        self._place.setdefault(command, len(self._place))
        self._runs[command] = runs

    def holders(self, run: Run, but: str = "") -> list[str]:
        """The commands that have a trigger, in the order of the commands, without ``but``."""
        found = (other for other in self._holders.get(run, ()) if other != but)
        return sorted(found, key=self._place.__getitem__)

    def do(self, step: Step, limits: Limits) -> None:
        """Change the keys as a step does, by the rules of the application."""
        have = self[step.command]
        if step.loses is not None:
            have -= {step.loses}
        if step.gets is not None:
            have |= {step.gets}
            if limits.duplicates == "replace":
                for other in self.holders(step.gets, but=step.command):
                    if limits.meet(step.command, other):
                        self[other] -= {step.gets}
        self[step.command] = have


def illegal(held: Held, step: Step, limits: Limits) -> str:
    """Why the application's rules do not allow a step, ``""``: they do."""
    have = held[step.command]
    if step.loses is not None and step.loses not in have:
        return f"{step.command} has no {step.loses}"
    if step.gets is None:
        if limits.can_take:
            return ""
        return "a trigger cannot be taken away"
    if step.gets in have:
        return f"{step.command} has {step.gets} already"
    if limits.refuses:
        for other in held.holders(step.gets, but=step.command):
            if limits.meet(step.command, other):
                return f"{step.gets} is in use by {other}"
    # A key that takes the place of another makes no more of them.
    count = len(have) + 1 - (step.loses is not None)
    if limits.most and count > limits.most:
        return f"{step.command} may have {limits.most} triggers"
    return ""
