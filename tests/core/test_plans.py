"""Plans against every plan there is: the cheapest is found, no bound is above it, and what is promised comes."""

from collections import Counter
from itertools import product

import pytest
from hypothesis import given
from hypothesis import strategies as st

from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import Rules
from olive_compass.core.changes.assign import Assign, assign
from olive_compass.core.changes.assign_family import assign_family
from olive_compass.core.changes.view import AppView
from olive_compass.core.findings import all_findings
from olive_compass.core.findings.advice import scheme_to_write
from olive_compass.core.keys.reading import read_trigger as key
from olive_compass.core.keys.triggers import Run
from olive_compass.core.macros.recording import Event
from olive_compass.core.savings import suggestable, suggesting
from olive_compass.core.savings.least import least
from olive_compass.core.savings.model import DEFAULT, press_cost
from olive_compass.core.savings.savings_of_keys import savings_of_keys, seconds_by_change, whole
from olive_compass.core.savings.solving import Demand, Pairs
from olive_compass.core.savings.suggesting import suggest
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.decisions import Assignment, Scheme
from olive_compass.core.schemes.layers import PERSONAL
from olive_compass.core.usage.counting import tally_of
from olive_compass.core.usage.summing import usage_of
from olive_compass.core.usage.tally import Count, Use
from olive_compass.desk.keyboards import load
from olive_compass.structs import replace
from tests.core.test_one_judge import FEW, MANY
from tests.core.worlds import COMMANDS, TRIGGERS, views

BOARD = load(".", "pc", "ansi-104", "us")
TREE = ModeTree({"draw": "everywhere", "text": "everywhere"})
#: All keys but these are taken, so that every plan can be tried.
FREE = ("Q", "J", "F9", "Ctrl+B")

commands = st.lists(
    st.tuples(
        st.sampled_from(["Join", "Quay", "Buoy", "Mole"]),
        st.sampled_from([(), ("draw",), ("text",)]),
        st.integers(1, 40),
    ),
    min_size=1,
    max_size=4,
)


def view_of(found: list[tuple[str, tuple[str, ...], int]]) -> tuple[AppView, list[Demand]]:
    made = tuple(
        Command(id=f"c.{n}", title=title, menu=(f"Menu {n}",), keys=(), modes=modes)
        for n, (title, modes, _) in enumerate(found)
    )
    app = App(
        name="app", title="App", version="1", modes=TREE, rules=Rules(), catalogue=Catalogue(made)
    )
    view = AppView(Stack(app), BOARD)
    return view, [Demand(each, float(n)) for each, (_, _, n) in zip(made, found, strict=True)]


@given(commands)
@FEW
def test_no_plan_is_cheaper_and_none_is_below_the_bound(
    found: list[tuple[str, tuple[str, ...], int]],
) -> None:
    view, demands = view_of(found)
    real = suggestable.free_strokes
    few = {key(text).strokes[0] for text in FREE}
    suggestable.free_strokes = lambda *args: [s for s in real(*args) if s in few]  # type: ignore[assignment]
    try:
        plan = suggest(view, demands, DEFAULT)
        pairs = suggestable.suggestable(view, tuple(demands), DEFAULT, "")
    finally:
        suggestable.free_strokes = real
    columns = range(pairs.cost.shape[1])
    best = min(
        _cost(pairs, chosen)
        for chosen in product([None, *columns], repeat=len(demands))
        if _fits(pairs, chosen)
    )
    assert abs(plan.weighed - best) < 1e-6
    assert plan.bound <= plan.cost + 1e-6


def _cost(pairs: Pairs, chosen: tuple[int | None, ...]) -> float:
    return sum(
        pairs.alone[i] if j is None else float(pairs.cost[i, j]) for i, j in enumerate(chosen)
    )


def _fits(pairs: Pairs, chosen: tuple[int | None, ...]) -> bool:
    held = [(j, mode) for i, j in enumerate(chosen) if j is not None for mode in pairs.modes[i]]
    return len(held) == len(set(held))


def test_the_bound_counts_no_key_that_is_refused_or_taken() -> None:
    view, demands = view_of([("Join", (), 10)])
    free = least(view, demands, [9.0], DEFAULT)
    named = replace(view.app, rules=Rules(modifiers=(), plain_keys="named"))
    assert free < least(AppView(Stack(named), BOARD), demands, [9.0], DEFAULT) < 90
    letters = tuple(key(letter) for letter in "ABCDEFGHIJKLMNOPQRSTUVWXYZ")
    other = Command(id="other", title="Other", menu=(), keys=letters)
    taken = replace(view.app, catalogue=Catalogue((demands[0].command, other)))
    assert free < least(AppView(Stack(taken), BOARD), demands, [9.0], DEFAULT) < 90


@given(st.integers(1, 50), st.integers(0, 50), st.sampled_from(["Q", "Ctrl+Shift+F12", "J"]))
def test_what_a_change_is_worth_is_what_it_costs_to_go_back(
    pressed: int, by_menu: int, run: str
) -> None:
    view, _ = view_of([("Join", (), 1), ("Quay", (), 1)])
    keyed = replace(
        view.stack.with_scheme(Scheme(app="app", name="mine", layer=PERSONAL)),
        schemes=(
            Scheme(
                app="app",
                name="mine",
                layer=PERSONAL,
                assign={"c.0": (Assignment(keys=(key(run),)),)},
            ),
        ),
    )
    other = AppView(keyed, BOARD)
    tally = {
        Use(
            log="log",
            seat="seat",
            day="2026-10-05",
            app="app",
            mode="",
            command="c.0",
            how="key",
            key=run,
        ): Count(times=pressed, undone=0, first="", last=""),
        Use(
            log="log", seat="seat", day="2026-10-05", app="app", mode="", command="c.1", how="menu"
        ): Count(times=by_menu, undone=0, first="", last=""),
    }
    there = seconds_by_change(view, other.keymap, usage_of(tally), DEFAULT)
    back = seconds_by_change(other, view.keymap, usage_of(tally), DEFAULT)
    assert abs(there + back) < 1e-9
    assert seconds_by_change(view, view.keymap, usage_of(tally), DEFAULT) == 0
    assert there >= 0, "a key is never worse than the menu that stays beside it"
    assert (
        sum(each.a_week for each in savings_of_keys(view, usage_of(tally), DEFAULT))
        == pressed + by_menu
    )


some_demands = st.lists(st.tuples(st.sampled_from(COMMANDS), st.integers(1, 60)), min_size=1)

#: What a command was counted for: how often, and by which way.
counts = st.dictionaries(
    st.tuples(st.sampled_from(COMMANDS), st.sampled_from(["key", "menu", "toolbar"])),
    st.integers(1, 90),
    min_size=1,
    max_size=6,
)


@given(views(), counts, st.booleans())
@FEW
def test_a_promise_is_kept(view: AppView, counted: dict[tuple[str, str], int], moves: bool) -> None:
    """What is suggested, ``assign`` takes without a word; what it promises, ``savings`` says afterwards; and
    ``check`` has nothing new against it."""
    scheme = scheme_to_write(view)
    assert scheme
    tally = {
        Use(
            log="log", seat="seat", day="2026-10-05", app="app", mode="", command=command, how=way
        ): Count(times=n, undone=0, first="T", last="T")
        for (command, way), n in counted.items()
    }
    found = savings_of_keys(view, usage_of(tally), DEFAULT)
    demands = [
        Demand(view.app.catalogue.by_id[e.command], e.a_week, e.now / e.a_week) for e in found
    ]
    plan = suggest(view, demands, DEFAULT, moves=moves, scheme=scheme)
    assert plan.bound <= plan.cost + 1e-6
    assert plan.cost <= plan.now + 1e-6
    assert all(each.saves > 0 for each in plan.suggestions)
    promised = sum(each.saves for each in plan.suggestions)
    assert promised == pytest.approx(plan.now - plan.cost)
    if not plan.suggestions:
        return
    change = assign_family(
        view,
        tuple(
            Assign(
                command=e.command,
                trigger=e.trigger,
                modes=e.command.modes or ("everywhere",),
                scheme=scheme,
                why="",
                instead=moves,
            )
            for e in plan.suggestions
        ),
    )
    assert (change.refusals, change.questions) == ((), ())
    after = AppView(view.stack.with_scheme(change.edits[-1].after), view.keyboard)
    before_, then = (
        {e.command: e for e in savings_of_keys(v, usage_of(tally), DEFAULT)} for v in (view, after)
    )
    for each in plan.suggestions:
        was, now = before_[each.command.id], then[each.command.id]
        assert now.key == str(each.trigger)
        assert (was.by_key if was.key else was.now) - now.by_key == pytest.approx(each.saves)
    # Nobody else gets slower. Who gets a key by it need not press it, where it is slower than the menu was.
    for command in before_.keys() - {each.command.id for each in plan.suggestions}:
        if then[command].key and not before_[command].key:
            continue
        was, now = (
            min(e.by_key if e.key else e.now, e.now) for e in (before_[command], then[command])
        )
        assert now <= was + 1e-6, command
    own = {str(each.trigger) for each in plan.suggestions}
    # What was wrong with a command before is told in other words where it has another key.
    old = {(f.id, f.commands[:1]) for f in all_findings(view)}
    new = [
        f
        for f in all_findings(after)
        if f.severity != "note" and (f.id, f.commands[:1]) not in old and own & {*f.keys}
    ]
    assert new == [], [(f.id, f.says) for f in new]


@given(views(), some_demands)
@FEW
def test_nothing_that_assign_takes_is_below_the_bound(
    view: AppView, given_: list[tuple[str, int]]
) -> None:
    scheme = scheme_to_write(view)
    assert scheme
    demands = [Demand(view.app.catalogue.by_id[c], float(n)) for c, n in dict(given_).items()]
    plan = suggest(view, demands, DEFAULT, moves=True, scheme=scheme)
    wanted, _ = suggesting._with_a_chance(view, demands, True, scheme)
    others = sum(w.a_week * suggestable.takes_now(view, w, DEFAULT) for w in wanted)
    assert plan.bound <= others + 1e-6
    # One after another is given the quickest that is taken without a question.
    total, there = 0.0, view
    for demand in sorted(wanted, key=lambda w: -w.a_week):
        now = suggestable.takes_now(view, demand, DEFAULT)
        for trigger in sorted(TRIGGERS, key=lambda run: _press(view, run)):
            if _press(view, trigger) >= now:
                break
            scheme = scheme_to_write(there)
            assert scheme
            modes = demand.command.modes or ("everywhere",)
            change = assign(
                there,
                Assign(
                    command=demand.command, trigger=trigger, modes=modes, scheme=scheme, why="why"
                ),
            )
            if not change.refusals and not change.questions:
                now = _press(view, trigger)
                there = AppView(there.stack.with_scheme(change.edits[0].after), there.keyboard)
                break
        total += demand.a_week * now
    assert plan.bound <= total + 1e-6


def _press(view: AppView, run: Run) -> float:
    return press_cost(view.keyboard, run, DEFAULT, view.weights, view.hand).seconds


ways = st.sampled_from(["key", "menu", "toolbar", "tray", "swipe", "macro"])


some_events = st.lists(st.tuples(st.sampled_from(COMMANDS), ways), min_size=1, max_size=30)


@given(views(), some_events)
@MANY
def test_what_is_shown_can_be_counted_again(view: AppView, done: list[tuple[str, str]]) -> None:
    """From the events alone: how often each command was started, by which way, and what its key saved."""
    events = [
        Event(
            time=f"2026-10-05T09:{n:02}:00",
            app="app",
            version="1",
            mode="draw",
            command=command,
            how=how,
            key="F6" if how == "key" else "",
        )
        for n, (command, how) in enumerate(done)
    ]
    tally = tally_of(events, "log", "seat")
    by_hand = Counter(c for c, how in done if how in ("menu", "toolbar", "tray"))
    pressed = Counter(c for c, how in done if how in ("key", "swipe"))
    found = {each.command: each for each in savings_of_keys(view, usage_of(tally), DEFAULT)}
    assert set(found) == set(by_hand) | set(pressed)
    for command, each in found.items():
        assert (each.by_hand, each.pressed) == (by_hand[command], pressed[command])
        gained = each.menu.seconds - each.press.seconds
        assert each.saves == pytest.approx(pressed[command] * gained)
        parts = [sum(p.seconds for p in cost.parts) for cost in (each.press, each.menu)]
        assert parts == pytest.approx([each.press.seconds, each.menu.seconds])
    sums = whole(view, list(found.values()), DEFAULT)
    assert sums.now == pytest.approx(sum(each.now for each in found.values()))
    assert sums.saved == pytest.approx(sum(each.saves for each in found.values() if each.key))
