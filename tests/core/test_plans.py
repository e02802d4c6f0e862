"""Plans against every plan there is: on small desks the cheapest is found, and no bound is above it."""

from itertools import product

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from olive_compass.core.apps.app import App, Catalogue, Command, Rules
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.changes.view import AppView
from olive_compass.core.keys.reading import read_trigger as key
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.decisions import Assignment, Scheme
from olive_compass.core.schemes.layers import PERSONAL
from olive_compass.core.usage.tally import Count, Use
from olive_compass.core.worth import suggesting
from olive_compass.core.worth.model import DEFAULT
from olive_compass.core.worth.solving import Pairs, Wish
from olive_compass.core.worth.suggesting import suggest
from olive_compass.core.worth.worths import change_worth, worths
from olive_compass.desk.keyboards import load
from olive_compass.structs import replace

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


def view_of(found: list[tuple[str, tuple[str, ...], int]]) -> tuple[AppView, list[Wish]]:
    made = tuple(
        Command(f"c.{n}", title, (f"Menu {n}",), (), modes)
        for n, (title, modes, _) in enumerate(found)
    )
    app = App("app", "App", "1", TREE, Rules(), Catalogue(made))
    view = AppView(Stack(app), BOARD)
    return view, [Wish(each, float(n)) for each, (_, _, n) in zip(made, found, strict=True)]


@given(commands)
@settings(max_examples=25, suppress_health_check=list(HealthCheck), deadline=None)
def test_no_plan_is_cheaper_and_none_is_below_the_bound(
    found: list[tuple[str, tuple[str, ...], int]],
) -> None:
    view, wishes = view_of(found)
    real = suggesting.free_strokes
    few = {key(text).strokes[0] for text in FREE}
    suggesting.free_strokes = lambda *args: [s for s in real(*args) if s in few]  # type: ignore[assignment]
    try:
        plan = suggest(view, wishes, DEFAULT)
        pairs = suggesting._pairs(view, tuple(wishes), DEFAULT, "", False)
    finally:
        suggesting.free_strokes = real
    columns = range(pairs.cost.shape[1])
    best = min(
        _cost(pairs, chosen)
        for chosen in product([None, *columns], repeat=len(wishes))
        if _fits(pairs, chosen)
    )
    assert plan.bound <= best + 1e-6
    assert abs(plan.cost - best) < 1e-6


def _cost(pairs: Pairs, chosen: tuple[int | None, ...]) -> float:
    return sum(
        pairs.alone[i] if j is None else float(pairs.cost[i, j]) for i, j in enumerate(chosen)
    )


def _fits(pairs: Pairs, chosen: tuple[int | None, ...]) -> bool:
    held = [(j, mode) for i, j in enumerate(chosen) if j is not None for mode in pairs.modes[i]]
    return len(held) == len(set(held))


@given(st.integers(1, 50), st.integers(0, 50), st.sampled_from(["Q", "Ctrl+Shift+F12", "J"]))
@settings(max_examples=40)
def test_what_a_change_is_worth_is_what_it_costs_to_go_back(
    pressed: int, by_menu: int, run: str
) -> None:
    view, _ = view_of([("Join", (), 1), ("Quay", (), 1)])
    keyed = replace(
        view.stack.with_scheme(Scheme("app", "mine", PERSONAL)),
        schemes=(Scheme("app", "mine", PERSONAL, assign={"c.0": (Assignment((key(run),)),)}),),
    )
    other = AppView(keyed, BOARD)
    tally = {
        Use("log", "seat", "2026-10-05", "app", "", "c.0", "key", run): Count(pressed, 0, "", ""),
        Use("log", "seat", "2026-10-05", "app", "", "c.1", "menu"): Count(by_menu, 0, "", ""),
    }
    there = change_worth(view, other.keymap, tally, DEFAULT)
    back = change_worth(other, view.keymap, tally, DEFAULT)
    assert abs(there + back) < 1e-9
    assert change_worth(view, view.keymap, tally, DEFAULT) == 0
    assert there >= 0, "a key is never worse than the menu that stays beside it"
    assert sum(each.a_week for each in worths(view, tally, DEFAULT)) == pressed + by_menu
