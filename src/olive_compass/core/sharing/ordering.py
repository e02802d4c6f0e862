"""The hand changes that lead to the wanted keys, as few as can be, each allowed when its turn comes.

The keys of an application are pairs of a command and a trigger. A step gives a trigger to a command,
takes one from it, or changes one of its triggers into another.

The fewest steps: every command needs as many as it has triggers to get or to lose, whichever is
more; and every ring that nothing else opens (``rings.py``) needs one more.
"""

from collections.abc import Iterable, Mapping

from olive_compass.core.keys.triggers import Run
from olive_compass.core.sharing.handwork import (
    Left,
    Limits,
    State,
    Step,
    WorkList,
    after_step,
    holders_of,
)
from olive_compass.core.sharing.rings import refusing


def work_list(now: State, wanted: State, limits: Limits, spares: Iterable[Run] = ()) -> WorkList:
    """The steps from ``now`` to ``wanted``; ``spares`` are triggers that nobody has or wants."""
    free = list(spares)
    target, left = _possible(now, wanted, limits, free)
    steps = refusing(now, target, limits, free) if limits.refuses else _easy(now, target, limits)
    reached = {id_: frozenset(runs) for id_, runs in now.items()}
    for step in steps:
        reached = after_step(reached, step, limits)
    return WorkList(tuple(steps), tuple(left), reached)


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
                others = [o for o in holders_of(target, run) if o < id_ and limits.meet(id_, o)]
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
                    for o in holders_of(target, run)
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
            if not any(o != id_ and limits.meet(id_, o) for o in holders_of(target, run))
        ]
    room = len(want - have)
    if len(surplus) <= room:
        return frozenset()
    # What others wait for is let go first.
    surplus.sort(key=lambda run: (not any(o != id_ for o in holders_of(target, run)), str(run)))
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
                loses.sort(key=lambda r: any(o != id_ for o in holders_of(target, r)))
            step = Step(id_, run, loses[0] if loses else None)
            steps.append(step)
            state = after_step(state, step, limits)
    for id_ in sorted(target):
        for run in sorted(state.get(id_, frozenset()) - target[id_], key=str):
            step = Step(id_, None, run)
            steps.append(step)
            state = after_step(state, step, limits)
    return steps
