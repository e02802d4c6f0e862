"""The hand changes that lead to the wanted keys, as few as can be, each allowed when its turn comes.

The keys of an application are pairs of a command and a trigger. A step gives a trigger to a command,
takes one from it, or changes one of its triggers into another.

The fewest steps: every command needs as many as it has triggers to get or to lose, whichever is
more; and every ring that nothing else opens (``cycles.py``) needs one more.
"""

from collections import deque
from collections.abc import Iterable

from olive_compass.core.keys.triggers import Run
from olive_compass.core.sharing.cycles import refusing
from olive_compass.core.sharing.manual_steps import Held, Limits, NotAllowed, State, Step, WorkList


def work_list(
    now: State,
    wanted: State,
    limits: Limits,
    spares: Iterable[Run] = (),
    parks: Iterable[Run] | None = None,
) -> WorkList:
    """The steps from ``now`` to ``wanted``; ``spares`` are triggers that nobody has or wants, and ``parks``
    those to which a command is moved for good that can be left without none (the spares)."""
    free = list(spares)
    if parks is None:
        far = free
    else:
        far = list(parks)
    had = Held(now)
    target, left = _Possible(had, wanted, limits, far).found()
    # Where a command was parked is no way for others to pass.
    free = [run for run in free if not target.holders(run)]
    if limits.refuses:
        steps = refusing(had, target, limits, free)
    else:
        steps = _easy(had, target, limits)
    reached = Held(now)
    for step in steps:
        reached.do(step, limits)
    return WorkList(tuple(steps), tuple(left), dict(reached))


class _Possible:
    """What of the wanted keys the rules allow at all, and what they do not."""

    def __init__(self, now: Held, wanted: State, limits: Limits, parks: list[Run]) -> None:
        self.now, self.limits, self.parks = now, limits, parks
        ids = dict.fromkeys((*now, *wanted))
        self.target = Held({id_: frozenset(wanted.get(id_, frozenset())) for id_ in ids})
        self.left: list[NotAllowed] = []

    def found(self) -> tuple[Held, list[NotAllowed]]:
        """The keys that can be reached, and the wishes that cannot be met."""
        self._as_many_as_may_be()
        if self.limits.refuses or self.limits.duplicates == "replace":
            self._each_for_one()
        if not self.limits.can_take:
            self._parked()
            self._what_cannot_go_stays()
        return self.target, self.left

    def _as_many_as_may_be(self) -> None:
        most = self.limits.most
        if not most:
            return
        for id_ in sorted(self.target):
            # Those that it has already cost no step.
            runs = sorted(self.target[id_], key=lambda run: (run not in self.now[id_], str(run)))
            self.left += [
                NotAllowed(command=id_, trigger=run, why=f"a command may have {most}")
                for run in runs[most:]
            ]
            self.target[id_] = frozenset(runs[:most])

    def _each_for_one(self) -> None:
        for id_ in sorted(self.target):
            for run in sorted(self.target[id_], key=str):
                # Of several who want one key someone must have it: by name, so that the list is the same each time.
                others = [o for o in self._others(id_, run) if o < id_]
                if others:
                    why = "{by} is to have it, and it cannot be shared"
                    self.left.append(NotAllowed(command=id_, trigger=run, why=why, by=others[0]))
                    self.target[id_] -= {run}

    def _parked(self) -> None:
        """What cannot be taken away is changed into a trigger that nobody presses."""
        for id_ in sorted(self.target):
            for run in sorted(self._stays(id_), key=str):
                if self.parks:
                    spare = self.parks.pop(0)
                    self.target[id_] |= {spare}
                    why = f"it cannot be taken away, so {spare} takes its place"
                    self.left.append(NotAllowed(command=id_, trigger=run, why=why))

    def _what_cannot_go_stays(self) -> None:
        """Whoever must keep a trigger blocks who wants it, who may then have to keep another one."""
        waiting = deque(sorted(self.target))
        queued = set(waiting)
        while waiting:
            id_ = waiting.popleft()
            queued.discard(id_)
            stays = self._stays(id_)
            self.target[id_] |= stays
            self.left += [
                NotAllowed(command=id_, trigger=run, why="it cannot be taken away")
                for run in sorted(stays, key=str)
            ]
            if self.limits.refuses:
                for blocked in self._blocked_by(id_):
                    if blocked not in queued:
                        queued.add(blocked)
                        waiting.append(blocked)

    def _blocked_by(self, id_: str) -> list[str]:
        """Those who do not get what a command has and goes on having; it is taken from their wishes."""
        blocked = []
        for run in sorted(self.target[id_] & self.now[id_], key=str):
            for other in self._others(id_, run):
                # Who has it as well goes on having it: nothing is asked of anybody.
                if run not in self.now[other]:
                    self.target[other] -= {run}
                    self.left.append(
                        NotAllowed(command=other, trigger=run, why="{by} cannot let it go", by=id_)
                    )
                    blocked.append(other)
        return blocked

    def _others(self, id_: str, run: Run) -> list[str]:
        """The others that are to have a trigger in a mode where this command has it."""
        others = self.target.holders(run, but=id_)
        return [other for other in others if self.limits.meet(id_, other)]

    def _stays(self, id_: str) -> frozenset[Run]:
        """The triggers that a command must keep, because nothing takes their place."""
        have, want = self.now[id_], self.target[id_]
        surplus = sorted(have - want, key=str)
        if self.limits.duplicates == "replace":
            # Giving it to another takes it from this one.
            surplus = [run for run in surplus if not self._others(id_, run)]
        # A key that is wanted takes the place of one that is not, by a change: that one need not be taken.
        room = len(want - have)
        # What others wait for is released first.
        surplus.sort(key=lambda run: (not self.target.holders(run, but=id_), str(run)))
        return frozenset(surplus[room:])


def _easy(now: Held, target: Held, limits: Limits) -> list[Step]:
    """The steps where a trigger in use can be given: changes and gifts, then what is left to take."""
    state = Held(now)
    steps: list[Step] = []

    def do(step: Step) -> None:
        steps.append(step)
        state.do(step, limits)

    for id_ in sorted(target):
        for run in sorted(target[id_] - state[id_], key=str):
            loses = sorted(state[id_] - target[id_], key=str)
            if limits.duplicates == "replace":
                # What another will get goes from here by itself: change what would else be taken.
                loses.sort(key=lambda r: bool(target.holders(r, but=id_)))
            do(Step(command=id_, gets=run, loses=loses[0] if loses else None))
    for id_ in sorted(target):
        for run in sorted(state[id_] - target[id_], key=str):
            do(Step(command=id_, gets=None, loses=run))
    return steps
