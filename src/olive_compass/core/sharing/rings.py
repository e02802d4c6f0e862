"""Orders steps where a trigger must be free before it is given: chains first, then rings.

A ring of commands that wait for each other is opened at one place, by taking a trigger first, or by a
spare one where none can be taken. The order is an Euler circuit (Hierholzer 1873) through the graph whose
arcs are triggers, from the command that lets one go to the command that gets it, so that each trigger is
free when its turn comes.
"""

from collections.abc import Mapping
from itertools import pairwise
from typing import NamedTuple

from olive_compass.core.keys.triggers import Run
from olive_compass.core.sharing.handwork import Limits, State, Step, after_step, holders_of, illegal

#: Who is outside of all commands: where free triggers come from.
_OUTSIDE = ""


def refusing(
    now: State, target: Mapping[str, frozenset[Run]], limits: Limits, spares: list[Run]
) -> list[Step]:
    """The steps from ``now`` to ``target``, which the rules allow as a whole; ``spares`` are free."""
    gets = {id_: sorted(target[id_] - frozenset(now.get(id_, ())), key=str) for id_ in target}
    loses = {id_: sorted(frozenset(now.get(id_, ())) - target[id_], key=str) for id_ in target}
    wanters: dict[Run, list[str]] = {}
    holders: dict[Run, list[str]] = {}
    for id_ in sorted(target):
        for run in gets[id_]:
            wanters.setdefault(run, []).append(id_)
        for run in loses[id_]:
            holders.setdefault(run, []).append(id_)
    simple = all(
        len(wanters[run]) == 1 and len(holders.get(run, [])) <= 1 for run in wanters
    ) and all(limits.meet(wanters[run][0], holders[run][0]) for run in wanters if run in holders)
    if simple:
        return _circuits(gets, loses, wanters, holders, limits, spares)
    return _step_by_step(now, gets, loses, limits, spares)


class _Arc(NamedTuple):
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
            steps.append(Step(come.to, come.run, go.run))
    return steps


def _opened(circuit: list[_Arc], start: str, limits: Limits, spares: list[Run]) -> list[Step]:
    """The steps of a ring: opened at ``start``, whose first trigger goes before it gets its last."""
    first, last = circuit[0], circuit[-1]
    inner = [Step(come.to, come.run, go.run) for come, go in pairwise(circuit)]
    if limits.can_take:
        return [Step(start, None, first.run), *inner, Step(start, last.run)]
    if not spares:
        return []
    spare = spares[0]
    return [Step(start, spare, first.run, True), *inner, Step(start, last.run, spare)]


def _step_by_step(
    now: State,
    gets: Mapping[str, list[Run]],
    loses: Mapping[str, list[Run]],
    limits: Limits,
    spares: list[Run],
) -> list[Step]:
    """Whatever can be done next is done; where nothing can, one ring is opened.

    For triggers that several commands have or want, in modes that do not meet.
    """
    state = {id_: frozenset(runs) for id_, runs in now.items()}
    get = {id_: list(runs) for id_, runs in gets.items()}
    lose = {id_: list(runs) for id_, runs in loses.items()}
    steps: list[Step] = []

    def do(step: Step) -> None:
        nonlocal state
        steps.append(step)
        state = after_step(state, step, limits)
        if step.gets in get[step.command]:
            get[step.command].remove(step.gets)
        if step.loses in lose[step.command]:
            lose[step.command].remove(step.loses)

    def awaited(run: Run) -> bool:
        return any(run in runs for runs in get.values())

    while any(get.values()) or any(lose.values()):
        ready = next(
            (
                Step(id_, run, max(lose[id_], key=awaited, default=None))
                for id_ in sorted(get)
                for run in get[id_]
                if not illegal(state, Step(id_, run, lose[id_][0] if lose[id_] else None), limits)
            ),
            None,
        )
        if ready is None and limits.can_take:
            extra = [i for i in sorted(lose) if len(lose[i]) > len(get[i])]
            at = next(iter(extra), None) or next((i for i in sorted(lose) if lose[i]), None)
            if at is not None:
                ready = Step(at, None, max(lose[at], key=awaited))
        if ready is None:
            at = next((i for i in sorted(lose) if lose[i] and get[i]), None)
            free = [run for run in spares if not holders_of(state, run)]
            if at is None or not free:
                break
            spare = free[0]
            do(Step(at, spare, max(lose[at], key=awaited), True))
            lose[at].append(spare)
            continue
        do(ready)
    return steps
