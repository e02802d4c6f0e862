"""Orders steps where a trigger must be free before it is given: chains first, then rings.

A ring of commands that wait for each other is opened at one place, by taking a trigger first, or by a
spare one where none can be taken. The order is an Euler circuit (Hierholzer 1873) through the graph whose
arcs are triggers, from the command that lets one go to the command that gets it, so that each trigger is
free when its turn comes.
"""

from collections.abc import Container, Mapping
from heapq import heapify, heappop, heappush
from itertools import pairwise

from msgspec import Struct

from olive_compass.core.keys.triggers import Run
from olive_compass.core.sharing.manual_steps import Held, Limits, Step, illegal

#: Who is outside of all commands: where free triggers come from.
_OUTSIDE = ""


def _goes_from_one_to_one(wanters: list[str], holders: list[str], limits: Limits) -> bool:
    """Whether a trigger goes from one command to one other, which could not both have it."""
    if len(wanters) != 1 or len(holders) > 1:
        return False
    return not holders or limits.meet(wanters[0], holders[0])


def refusing(now: Held, target: Held, limits: Limits, spares: list[Run]) -> list[Step]:
    """The steps from ``now`` to ``target``, which the rules allow as a whole; ``spares`` are free."""
    gets = {id_: sorted(target[id_] - now[id_], key=str) for id_ in target}
    loses = {id_: sorted(now[id_] - target[id_], key=str) for id_ in target}
    wanters: dict[Run, list[str]] = {}
    holders: dict[Run, list[str]] = {}
    for id_ in sorted(target):
        for run in gets[id_]:
            wanters.setdefault(run, []).append(id_)
        for run in loses[id_]:
            holders.setdefault(run, []).append(id_)
    # Then the changes are chains and rings, and the fewest steps are known.
    if all(_goes_from_one_to_one(wanters[run], holders.get(run, []), limits) for run in wanters):
        return _circuits(gets, loses, wanters, holders, limits, spares)
    return _StepByStep(now, gets, loses, limits, spares).steps()


class _Arc(Struct, frozen=True):
    """A trigger on its way from one command to another; None: a gift or a taking without one."""

    run: Run | None
    to: str


def _circuits(
    gets: Mapping[str, list[Run]],
    loses: Mapping[str, list[Run]],
    wanters: Mapping[Run, list[str]],
    holders: Mapping[Run, list[str]],
    limits: Limits,
    spares: list[Run],
) -> list[Step]:
    """One Euler circuit for every part of the graph: first the part that free triggers open."""
    arcs: dict[str, list[_Arc]] = {_OUTSIDE: [], **{id_: [] for id_ in gets}}
    for id_ in gets:
        # Useless triggers and gifts lead outside; what others wait for leads to them.
        for run in loses[id_]:
            arcs[id_].append(_Arc(run, wanters[run][0] if run in wanters else _OUTSIDE))
        arcs[id_] += [_Arc(None, _OUTSIDE)] * max(0, len(gets[id_]) - len(loses[id_]))
        arcs[_OUTSIDE] += [_Arc(run, id_) for run in gets[id_] if run not in holders]
        arcs[_OUTSIDE] += [_Arc(None, id_)] * max(0, len(loses[id_]) - len(gets[id_]))
    for each in arcs.values():
        # The last one is taken first: so the list goes through the menus from their beginning.
        each.reverse()
    steps = _walk(_circuit(_OUTSIDE, arcs))
    for id_ in sorted(gets):
        if arcs[id_]:
            steps += _opened(_circuit(id_, arcs), id_, limits, spares)
    return steps


def _circuit(start: str, arcs: dict[str, list[_Arc]]) -> list[_Arc]:
    """The arcs of an Euler circuit from ``start``, which are used up (Hierholzer 1873)."""
    trail: list[tuple[str, _Arc | None]] = [(start, None)]
    found: list[_Arc] = []
    while trail:
        node, by = trail[-1]
        if arcs[node]:
            arc = arcs[node].pop()
            trail.append((arc.to, arc))
        else:
            trail.pop()
            if by is not None:
                found.append(by)
    return found[::-1]


def _walk(circuit: list[_Arc]) -> list[Step]:
    """The steps of a circuit that begins and ends outside: each passage of a command is one."""
    steps = []
    for come, go in pairwise(circuit):
        if come.to != _OUTSIDE:
            steps.append(Step(command=come.to, gets=come.run, loses=go.run))
    return steps


def _opened(circuit: list[_Arc], start: str, limits: Limits, spares: list[Run]) -> list[Step]:
    """The steps of a ring: opened at ``start``, whose first trigger goes before it gets its last."""
    first, last = circuit[0], circuit[-1]
    inner = [Step(command=come.to, gets=come.run, loses=go.run) for come, go in pairwise(circuit)]
    if limits.can_take:
        return [
            Step(command=start, gets=None, loses=first.run),
            *inner,
            Step(command=start, gets=last.run),
        ]
    if not spares:
        return []
    spare = spares[0]
    return [
        Step(command=start, gets=spare, loses=first.run, spare=True),
        *inner,
        Step(command=start, gets=last.run, loses=spare),
    ]


class _StepByStep:
    """Whatever can be done next is done; where nothing can, one ring is opened.

    For triggers that several commands have or want, in modes that do not meet. Whoever may have become
    ready waits in a heap, in the order of the commands, and is looked at again when its turn comes.
    """

    def __init__(
        self,
        now: Held,
        gets: Mapping[str, list[Run]],
        loses: Mapping[str, list[Run]],
        limits: Limits,
        spares: list[Run],
    ) -> None:
        self.limits, self.spares = limits, spares
        self.state = Held(now)
        self.get = {id_: list(runs) for id_, runs in gets.items()}
        self.lose = {id_: list(runs) for id_, runs in loses.items()}
        self.wanters: dict[Run, set[str]] = {}
        for id_, runs in self.get.items():
            for run in runs:
                self.wanters.setdefault(run, set()).add(id_)
        self.waiting = [id_ for id_ in self.get if self.get[id_]]
        heapify(self.waiting)
        self.stuck = sorted(id_ for id_ in self.lose if self.lose[id_])
        self.done: list[Step] = []
        #: The spares that commands stand on for a while.
        self.passing: set[Run] = set()

    def steps(self) -> list[Step]:
        """The steps in their order; what no rule allows is left out."""
        while step := self._ready() or self._opening():
            self._do(step)
        return self.done

    def _ready(self) -> Step | None:
        while self.waiting:
            id_ = self.waiting[0]
            lose = self.lose[id_]
            for run in self.get[id_]:
                if not illegal(
                    self.state,
                    Step(command=id_, gets=run, loses=lose[0] if lose else None),
                    self.limits,
                ):
                    return Step(command=id_, gets=run, loses=self._first(id_))
            heappop(self.waiting)
        return None

    def _taking(self) -> Step | None:
        """The step that takes a trigger, best from a command that has more to lose than to get."""
        for id_ in sorted(self.stuck, key=lambda i: len(self.lose[i]) <= len(self.get[i])):
            return Step(command=id_, gets=None, loses=self._first(id_))
        return None

    def _can_pass(self, id_: str) -> bool:
        """Whether a command waits for a key and has one that can make way for a while."""
        return bool(self.get[id_]) and self._first(id_, self.passing) is not None

    def _opening(self) -> Step | None:
        """The step that opens a ring: a trigger is taken, or changed into a spare one."""
        self.stuck = [id_ for id_ in self.stuck if self.lose[id_]]
        if self.limits.can_take:
            return self._taking()
        # What stands on a spare already has made way once: to another spare it would go for ever.
        at = next(filter(self._can_pass, self.stuck), None)
        spare = next((run for run in self.spares if not self.state.holders(run)), None)
        if at is None or spare is None:
            return None
        return Step(command=at, gets=spare, loses=self._first(at, self.passing), spare=True)

    def _first(self, id_: str, but: Container[Run] = ()) -> Run | None:
        """What a command lets go first: what others wait for."""
        lose = [run for run in self.lose[id_] if run not in but]
        return max(lose, key=lambda run: bool(self.wanters.get(run)), default=None)

    def _do(self, step: Step) -> None:
        self.done.append(step)
        self.state.do(step, self.limits)
        if step.loses is not None:
            self.lose[step.command].remove(step.loses)
        if step.spare and step.gets is not None:
            self.passing.add(step.gets)
            self.lose[step.command].append(step.gets)
        elif step.gets is not None:
            self.get[step.command].remove(step.gets)
            self.wanters[step.gets].discard(step.command)
        freed = self.wanters.get(step.loses, ()) if step.loses is not None else ()
        for id_ in {step.command, *freed}:
            heappush(self.waiting, id_)
