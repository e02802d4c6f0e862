"""Orders hand changes so that an application's rules allow every single step, with as few as can be.

The keys of an application are pairs of a command and a trigger. A step gives a trigger to a command,
takes one from it, or changes one of its triggers into another. Where a trigger that is in use is
refused, it must be free before it is given; a ring of commands that wait for each other is then
opened at one place, by taking a trigger first, or by a spare one where none can be taken.

The fewest steps: every command needs as many as it has triggers to get or to lose, whichever is
more; and every ring that nothing else opens needs one more. The order is an Euler circuit
(Hierholzer 1873) through the graph whose arcs are triggers, from the command that lets one go to the
command that gets it, so that each trigger is free when its turn comes.
"""

from collections.abc import Callable, Iterable, Mapping
from itertools import pairwise
from typing import NamedTuple

from olive_compass.core.keys.triggers import Run

#: What a command has: its triggers, by command id.
State = Mapping[str, frozenset[Run]]

#: Who is outside of all commands: where free triggers come from.
_OUTSIDE = ""


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


def work_list(now: State, wanted: State, limits: Limits, spares: Iterable[Run] = ()) -> WorkList:
    """The steps from ``now`` to ``wanted``; ``spares`` are triggers that nobody has or wants."""
    free = list(spares)
    target, left = _possible(now, wanted, limits, free)
    steps = _refusing(now, target, limits, free) if limits.refuses else _easy(now, target, limits)
    reached = {id_: frozenset(runs) for id_, runs in now.items()}
    for step in steps:
        reached = after_step(reached, step, limits)
    return WorkList(tuple(steps), tuple(left), reached)


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
        for other in _holders(state, step.gets):
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
            for other in _holders(state, step.gets):
                if other != step.command and limits.meet(step.command, other):
                    after[other] = after[other] - {step.gets}
    after[step.command] = frozenset(have)
    return after


def _holders(state: State, run: Run) -> list[str]:
    return [command for command, runs in state.items() if run in runs]


def _possible(
    now: State, wanted: State, limits: Limits, spares: list[Run]
) -> tuple[dict[str, frozenset[Run]], list[Left]]:
    """What of ``wanted`` the rules allow at all, and what they do not."""
    target = {
        id_: frozenset(wanted.get(id_, frozenset())) for id_ in dict.fromkeys((*now, *wanted))
    }
    left: list[Left] = []
    for id_ in sorted(target):
        runs = sorted(target[id_], key=lambda run: (run not in now.get(id_, frozenset()), str(run)))
        if limits.most and len(runs) > limits.most:
            left += [
                Left(id_, run, f"a command may have {limits.most}") for run in runs[limits.most :]
            ]
            target[id_] = frozenset(runs[: limits.most])
    if limits.refuses or limits.duplicates == "replace":
        for id_ in sorted(target):
            for run in sorted(target[id_], key=str):
                others = [o for o in _holders(target, run) if o < id_ and limits.meet(id_, o)]
                if others:
                    why = "{by} is to have it, and it cannot be shared"
                    left.append(Left(id_, run, why, others[0]))
                    target[id_] -= {run}
    for id_ in sorted(target) if not limits.can_take else ():
        have, want = frozenset(now.get(id_, frozenset())), target[id_]
        # What cannot be taken away is changed into a trigger that nobody presses.
        for run in sorted(_stays(id_, have, want, target, limits), key=str):
            if spares:
                spare = spares.pop(0)
                target[id_] |= {spare}
                left.append(Left(id_, run, f"it cannot be taken away, so {spare} takes its place"))
    changed = not limits.can_take
    while changed:
        changed = False
        for id_ in sorted(target):
            have, want = frozenset(now.get(id_, frozenset())), target[id_]
            stays = _stays(id_, have, want, target, limits)
            if stays:
                target[id_] = want | stays
                left += [
                    Left(id_, run, "it cannot be taken away") for run in sorted(stays, key=str)
                ]
                changed = True
        for id_ in sorted(target) if limits.refuses else ():
            for run in sorted(target[id_] - frozenset(now.get(id_, frozenset())), key=str):
                blocking = [
                    o
                    for o in _holders(target, run)
                    if o != id_ and run in now.get(o, frozenset()) and limits.meet(id_, o)
                ]
                if blocking:
                    target[id_] -= {run}
                    left.append(Left(id_, run, "{by} cannot let it go", blocking[0]))
                    changed = True
    return target, left


def _stays(
    id_: str,
    have: frozenset[Run],
    want: frozenset[Run],
    target: Mapping[str, frozenset[Run]],
    limits: Limits,
) -> frozenset[Run]:
    """The triggers that a command must keep, because nothing takes their place."""
    surplus = sorted(have - want, key=str)
    if limits.duplicates == "replace":
        # Giving it to another takes it from this one.
        surplus = [
            run
            for run in surplus
            if not any(o != id_ and limits.meet(id_, o) for o in _holders(target, run))
        ]
    room = len(want - have)
    if len(surplus) <= room:
        return frozenset()
    # What others wait for is let go first.
    surplus.sort(key=lambda run: (not any(o != id_ for o in _holders(target, run)), str(run)))
    return frozenset(surplus[room:])


def _easy(now: State, target: Mapping[str, frozenset[Run]], limits: Limits) -> list[Step]:
    """The steps where a trigger in use can be given: changes and gifts, then what is left to take."""
    state = {id_: frozenset(runs) for id_, runs in now.items()}
    steps: list[Step] = []
    for id_ in sorted(target):
        gets = sorted(target[id_] - state.get(id_, frozenset()), key=str)
        for run in gets:
            loses = sorted(state.get(id_, frozenset()) - target[id_], key=str)
            if limits.duplicates == "replace":
                # What another will get goes from here by itself: change what would else be taken.
                loses.sort(key=lambda r: any(o != id_ for o in _holders(target, r)))
            step = Step(id_, run, loses[0] if loses else None)
            steps.append(step)
            state = after_step(state, step, limits)
    for id_ in sorted(target):
        for run in sorted(state.get(id_, frozenset()) - target[id_], key=str):
            step = Step(id_, None, run)
            steps.append(step)
            state = after_step(state, step, limits)
    return steps


def _refusing(
    now: State, target: Mapping[str, frozenset[Run]], limits: Limits, spares: list[Run]
) -> list[Step]:
    """The steps where a trigger must be free before it is given."""
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
            free = [run for run in spares if not _holders(state, run)]
            if at is None or not free:
                break
            spare = free[0]
            do(Step(at, spare, max(lose[at], key=awaited), True))
            lose[at].append(spare)
            continue
        do(ready)
    return steps
