"""Work lists: every step is legal, the end is the wanted one, and no order is shorter."""

from collections import deque

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from olive_compass.core.apps.rules import DUPLICATES
from olive_compass.core.keys.reading import read_trigger as key
from olive_compass.core.keys.triggers import Run
from olive_compass.core.sharing.cycles import refusing
from olive_compass.core.sharing.manual_steps import Held, Limits, Step, illegal
from olive_compass.core.sharing.ordering import work_list

KEYS = tuple(key(letter) for letter in "ABCDE")
SPARES = tuple(key(f"F{n}") for n in range(1, 9))


def state(**keys: str) -> dict[str, frozenset[Run]]:
    return {id_: frozenset(map(key, text)) for id_, text in keys.items()}


def said(
    now: dict[str, frozenset[Run]], wanted: dict[str, frozenset[Run]], limits: Limits
) -> list[str]:
    found = work_list(now, wanted, limits, SPARES)
    return [f"{s.command}:{s.loses or ''}>{s.gets or ''}" for s in found.steps]


def test_a_swap_goes_through_a_spare_or_a_gap() -> None:
    now, wanted = state(a="A", b="B"), state(a="B", b="A")
    assert said(now, wanted, Limits(duplicates="first-wins", most=1, can_take=False)) == [
        "a:A>F1",
        "b:B>A",
        "a:F1>B",
    ]
    assert said(now, wanted, Limits(duplicates="refuse")) == ["a:A>", "b:B>A", "a:>B"]
    assert len(said(now, wanted, Limits(duplicates="replace"))) == 2
    assert len(said(now, wanted, Limits(duplicates="choice"))) == 2


def test_a_key_is_freed_before_it_is_given() -> None:
    now, wanted = state(a="A", b="", c="C"), state(a="B", b="C", c="A")
    assert said(now, wanted, Limits(duplicates="refuse")) == ["a:A>B", "c:C>A", "b:>C"]
    two_rings = said(
        state(a="AC", b="B", c="D"), state(a="BD", b="A", c="C"), Limits(duplicates="refuse")
    )
    assert len(two_rings) == 5


def test_what_cannot_be_done_is_said() -> None:
    parked = work_list(
        state(a="A", b=""),
        state(a="", b="A"),
        Limits(duplicates="refuse", most=1, can_take=False),
        SPARES,
    )
    assert [str(s.gets) for s in parked.steps] == ["F1", "A"]
    assert "F1 takes its place" in parked.left[0].why
    stuck = work_list(
        state(a="A", b=""), state(a="", b="A"), Limits(duplicates="refuse", most=1, can_take=False)
    )
    assert (stuck.steps, {each.why for each in stuck.left}) == (
        (),
        {"it cannot be taken away", "{by} cannot let it go"},
    )
    shared = work_list(state(a="", b=""), state(a="A", b="A"), Limits(duplicates="refuse"))
    assert (len(shared.steps), shared.left[0].by) == (1, "a")
    many = work_list(state(a=""), state(a="ABC"), Limits(duplicates="choice", most=2))
    assert (len(many.steps), len(many.left)) == (2, 1)


STATES = st.fixed_dictionaries(
    {id_: st.frozensets(st.sampled_from(KEYS), max_size=2) for id_ in "abcd"}
)
LIMITS = st.builds(
    Limits,
    duplicates=st.sampled_from(DUPLICATES),
    most=st.sampled_from([0, 1, 2]),
    can_take=st.booleans(),
    meet=st.just(lambda one, other: True),
)


def tidy(now: dict[str, frozenset[Run]], limits: Limits) -> dict[str, frozenset[Run]]:
    """A state that the rules allow to begin with."""
    seen: set[Run] = set()
    result = {}
    for id_, runs in now.items():
        own = sorted(runs, key=str)
        if limits.duplicates not in ("choice", "last-wins"):
            own = [run for run in own if run not in seen]
        own = own[: limits.most or None]
        seen.update(own)
        result[id_] = frozenset(own)
    return result


@given(STATES, STATES, LIMITS)
def test_every_step_is_legal_and_the_end_is_the_wanted_one(
    now: dict[str, frozenset[Run]], wanted: dict[str, frozenset[Run]], limits: Limits
) -> None:
    now = tidy(now, limits)
    found = work_list(now, wanted, limits, SPARES)
    reached = Held(now)
    for step in found.steps:
        assert not illegal(reached, step, limits), (step, found)
        reached.do(step, limits)
    assert dict(reached) == found.reached
    excused = {(each.command, each.trigger) for each in found.left}
    for id_, runs in wanted.items():
        for run in runs ^ reached[id_]:
            assert (id_, run) in excused or run in SPARES, (id_, run, found)
    assert not work_list(reached, reached, limits, SPARES).steps


@pytest.mark.long
@settings(max_examples=4)
@given(STATES, STATES, LIMITS)
def test_no_order_is_shorter(
    now: dict[str, frozenset[Run]], wanted: dict[str, frozenset[Run]], limits: Limits
) -> None:
    no_order_is_shorter(now, wanted, limits, "abc")


@given(STATES, STATES, LIMITS)
def test_no_order_of_two_is_shorter(
    now: dict[str, frozenset[Run]], wanted: dict[str, frozenset[Run]], limits: Limits
) -> None:
    no_order_is_shorter(now, wanted, limits, "ab")


def no_order_is_shorter(
    now: dict[str, frozenset[Run]], wanted: dict[str, frozenset[Run]], limits: Limits, of: str
) -> None:
    now = {id_: runs for id_, runs in tidy(now, limits).items() if id_ in of}
    wanted = {id_: runs for id_, runs in wanted.items() if id_ in of}
    found = work_list(now, wanted, limits, SPARES)
    assert len(found.steps) == shortest(now, found.reached, limits, len(found.steps))


def shortest(
    now: dict[str, frozenset[Run]], goal: dict[str, frozenset[Run]], limits: Limits, most: int
) -> int:
    """The fewest steps by trying all of them, those with one spare included; at most ``most``."""
    spare = next(run for run in reversed(SPARES) if not any(run in runs for runs in goal.values()))
    parked = tuple(run for runs in goal.values() for run in runs if run in SPARES)
    keys = (*KEYS, spare, *parked)
    start = tuple(sorted(now.items()))
    seen = {start}
    waiting = deque([(start, 0)])
    end = tuple(sorted(goal.items()))
    while waiting:
        here, count = waiting.popleft()
        if here == end:
            return count
        if count >= most - 1:
            continue
        state = dict(here)
        for id_, runs in state.items():
            steps = [
                Step(command=id_, gets=get, loses=lose) for get in keys for lose in (None, *runs)
            ]
            steps += [Step(command=id_, gets=None, loses=lose) for lose in runs]
            for step in steps:
                held = Held(state)
                if not illegal(held, step, limits):
                    held.do(step, limits)
                    after = tuple(sorted(held.items()))
                    if after not in seen:
                        seen.add(after)
                        waiting.append((after, count + 1))
    return most


@given(STATES, STATES, st.booleans())
def test_in_modes_that_do_not_meet_the_same_trigger_may_stand_twice(
    now: dict[str, frozenset[Run]], wanted: dict[str, frozenset[Run]], can_take: bool
) -> None:
    def meet(one: str, other: str) -> bool:
        return (one in "ab") == (other in "ab")

    limits = Limits(duplicates="refuse", most=2, can_take=can_take, meet=meet)
    half = [
        tidy({i: r for i, r in now.items() if (i in "ab") is side}, limits)
        for side in (True, False)
    ]
    now = {**half[0], **half[1]}
    found = work_list(now, wanted, limits, SPARES)
    reached = Held(now)
    for step in found.steps:
        assert not illegal(reached, step, limits), (step, found)
        reached.do(step, limits)
    excused = {(each.command, each.trigger) for each in found.left}
    for id_, runs in wanted.items():
        for run in runs ^ reached[id_]:
            assert (id_, run) in excused or run in SPARES, (id_, run, found)


def test_who_can_never_get_a_key_goes_to_one_spare_and_no_further() -> None:
    """Two want a key in modes that do not meet, and a third keeps it: each spare is tried once, not for ever."""
    f1, f2, f3 = (key(f"F{n}") for n in (1, 2, 3))
    now = Held({"a": frozenset([f1]), "b": frozenset([f3]), "c": frozenset([f2])})
    target = Held({"a": frozenset([f2]), "b": frozenset([f2]), "c": frozenset([f2])})
    limits = Limits(
        duplicates="refuse", can_take=False, meet=lambda one, other: {one, other} != {"a", "b"}
    )
    steps = refusing(now, target, limits, [key(f"Ctrl+F{n}") for n in range(1, 5)])
    assert len(steps) <= 2
