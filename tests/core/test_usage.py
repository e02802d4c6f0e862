"""Tallies add up; what is counted, what it is worth, what is suggested and practised."""

import random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import Rules
from olive_compass.core.changes.view import AppView
from olive_compass.core.findings import all_findings
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.reading import read_trigger as key
from olive_compass.core.macros.macro import Macro, Step
from olive_compass.core.macros.recording import Event
from olive_compass.core.savings import suggestable
from olive_compass.core.savings.model import DEFAULT, changed, menu_cost, press_cost, way_cost
from olive_compass.core.savings.practising import DAYS, Box, after, cards, read_box
from olive_compass.core.savings.savings_of_keys import savings, savings_of_keys, whole
from olive_compass.core.savings.solving import Demand
from olive_compass.core.savings.suggesting import Plan, suggest
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme
from olive_compass.core.schemes.layers import PERSONAL
from olive_compass.core.sharing.cross_app import Across
from olive_compass.core.sharing.purposes import Purpose, Purposes
from olive_compass.core.usage import looking
from olive_compass.core.usage.counting import tally_of
from olive_compass.core.usage.summing import usage_of, weeks_together
from olive_compass.core.usage.tally import (
    FOLLOWS,
    Count,
    Tally,
    Use,
    join,
    joined,
    says_no_way,
    uses,
)
from olive_compass.desk.formats.tally_file import by_file, read, write
from olive_compass.desk.keyboards import load
from olive_compass.structs import replace

GERMAN = load(".", "pc", "ansi-104", "us")
COMMANDS = (
    Command(id="save", title="Save", menu=("File",), keys=(key("Ctrl+S"),)),
    Command(id="undo", title="Undo", menu=("Edit",), keys=(key("Ctrl+Z"),)),
    Command(id="shade", title="Shade", menu=("View", "More"), keys=(key("F6"),)),
    Command(id="look", title="Look", menu=("View",), keys=(key("F5"),)),
    Command(id="buoy", title="Buoy", menu=("Draw", "Harbour")),
    Command(id="beacon", title="Beacon", menu=("Draw", "Harbour")),
    Command(id="note", title="Note", menu=("Text",), keys=(), modes=("text",)),
)


def app() -> App:
    tree = ModeTree({"draw": "everywhere", "text": "everywhere"})
    return App(
        name="app",
        title="App",
        version="1",
        modes=tree,
        rules=Rules(duplicates="replace", longest_sequence=3, typed_sequences=True),
        catalogue=Catalogue(COMMANDS),
    )


def view_of(*schemes: Scheme, tally: Tally | None = None, of: App | None = None) -> AppView:
    view = AppView(Stack(of or app(), schemes), GERMAN)
    view.usage = usage_of(tally or {})
    return view


def event(
    command: str,
    how: str = "menu",
    pressed: str = "",
    at: str = "09:00:00",
    day: str = "2026-10-05",
) -> Event:
    return Event(
        time=f"{day}T{at}",
        app="app",
        version="1",
        mode="draw",
        command=command,
        how=how,
        key=pressed,
    )


events = st.builds(
    Event,
    time=st.sampled_from(
        [f"2026-10-{day:02}T09:{m:02}:00" for day in (5, 6, 14) for m in range(5)]
    ),
    app=st.just("app"),
    version=st.just("1"),
    mode=st.sampled_from(["draw", "text"]),
    command=st.sampled_from(["save", "undo", "shade", "look"]),
    how=st.sampled_from(["key", "menu", "macro"]),
    key=st.sampled_from(["", "F5", "F6"]),
    inputs=st.just({}),
    outcome=st.sampled_from(["done", "cancelled"]),
)
logs = st.lists(events, max_size=20)


@given(st.lists(logs, min_size=3, max_size=3))
def test_tallies_add_up_whatever_the_order_the_grouping_and_doubles(
    found: list[list[Event]],
) -> None:
    a, b, c = (tally_of(each, f"log{n}", "seat") for n, each in enumerate(found))
    assert join(a, b) == join(b, a)
    assert join(join(a, b), c) == join(a, join(b, c))
    assert join(a, a) == a
    assert join(join(a, b), a) == join(a, b)
    both = join(a, b)
    assert sum(n.times for _, n in uses(both)) == sum(
        event.how != "macro" for each in found[:2] for event in each
    )


@given(logs, st.integers(0, 20))
def test_a_log_that_has_grown_counts_once(found: list[Event], part: int) -> None:
    found = sorted(found, key=lambda each: each.time)
    early, late = (tally_of(each, "log", "seat") for each in (found[:part], found))
    assert join(early, late) == late


@given(st.lists(logs, min_size=2, max_size=2), st.booleans())
def test_weeks_together_say_what_days_and_seats_said(
    found: list[list[Event]], a_list: bool
) -> None:
    tallies = [tally_of(each, f"log{n}", f"seat{n}") for n, each in enumerate(found)]
    if a_list:
        use = Use(
            log="list",
            seat="seat0",
            day="2026-10-05",
            app="app",
            mode="draw",
            command="look",
            how="menu",
        )
        count = Count(times=4, undone=0, first="2026-10-05", last="2026-10-05")
        tallies.append({use: count})
    tally = joined(tallies)
    one, other = usage_of(tally), weeks_together(usage_of(tally))
    keymap = view_of().keymap
    assert (one.seats, one.days, one.weeks) == (other.seats, other.days, other.weeks)
    for asked in (looking.used, looking.slips, looking.trend):
        assert asked(one.tally) == asked(other.tally)  # type: ignore[operator]
    never = [
        [c.trigger for c in looking.never_pressed(keymap, each.tally)] for each in (one, other)
    ]
    assert never[0] == never[1]
    lists = [{u.command for u, c in uses(e.tally) if says_no_way(u, c)} for e in (one, other)]
    assert lists[0] == lists[1]
    # A plain list stays what it is, with its seat: it has no time of day.
    plain = {u: c for u, c in tally.items() if u.log == "list"}
    assert plain.items() <= other.tally.items()
    # A week that is put together once more is the same.
    assert weeks_together(other) == other
    assert len(other.tally) <= len(tally)


@given(logs)
def test_a_file_holds_its_tally_and_nothing_private(found: list[Event]) -> None:
    tally = tally_of([replace(e, inputs={"text": "Sule Point"}) for e in found], "log", "Klära /x")
    files = by_file(tally)
    again: dict[Use, Count] = {}
    for path, part in files.items():
        assert path.startswith("tallies/klara-x-")
        data = write(part)
        assert b"Sule" not in data
        again |= read(data, path)
    assert again == dict(tally)


def test_what_follows_what_is_counted_within_an_application() -> None:
    events = [event("shade"), event("look"), replace(event("save"), app="other"), event("look")]
    counted = tally_of(events, "log", "seat")
    follows = {(u.after, u.command): c.times for u, c in counted.items() if u.how == FOLLOWS}
    assert follows == {("shade", "look"): 1}


def test_slips_are_told_by_what_is_taken_back_at_once() -> None:
    tally = tally_of(
        [
            event("shade", "key", "F6", "09:00:00"),
            event("undo", "key", "Ctrl+Z", "09:00:01"),
            event("look", "key", "F5", "09:00:02"),
            event("shade", "key", "F6", "09:10:00"),
            event("undo", "key", "Ctrl+Z", "09:10:30"),
        ],
        "log",
        "seat",
    )
    assert [(s.pressed, s.meant, s.times) for s in looking.slips(tally)] == [("F6", "F5", 1)]
    assert {e.command: e.undone for e in looking.used(tally)} == {"shade": 1, "undo": 0, "look": 0}


def weeks(counts: dict[tuple[str, str, str], int]) -> dict[Use, Count]:
    """A tally over four weeks: command, way and key, and how often."""
    found = {}
    for day in ("2026-10-05", "2026-11-01"):
        for (command, how, pressed), times in counts.items():
            use = Use(
                log="log",
                seat="seat",
                day=day,
                app="app",
                mode="draw",
                command=command,
                how=how,
                key=pressed,
            )
            found[use] = Count(times=times, undone=0, first=f"{day}T09:00", last=f"{day}T10:00")
    return found


def test_what_a_tally_says_beside_the_keys() -> None:
    tally = weeks(
        {
            ("save", "key", "Ctrl+S"): 30,
            ("look", "menu", ""): 25,
            ("look", "key", "F5"): 3,
            ("buoy", "menu", ""): 40,
            ("beacon", "menu", ""): 2,
        }
    )
    keymap = view_of().keymap
    assert usage_of(tally).days == 28
    assert [e.command for e in looking.used(tally)] == ["buoy", "save", "look", "beacon"]
    assert [e.command for e in looking.by_menu_though_keyed(keymap, looking.used(tally))] == [
        "look"
    ]
    assert [e.command for e in looking.without_key(keymap, looking.used(tally))] == [
        "buoy",
        "beacon",
    ]
    keyless = Scheme(
        app="app", name="mine", layer=PERSONAL, keyless={"buoy": Decision(why="on purpose")}
    )
    kept = looking.without_key(view_of(keyless).keymap, looking.used(tally))
    assert [e.command for e in kept] == ["beacon"]
    assert {str(c.trigger) for c in looking.never_pressed(keymap, tally)} == {"Ctrl+Z", "F6"}
    assert [w.day for w in looking.trend(tally)] == ["2026-10-05", "2026-10-26"]
    assert looking.narrowed(tally, since="2026-11-01").keys() < tally.keys()
    other = {replace(use, seat="toma"): count for use, count in tally.items()}
    assert looking.narrowed({**tally, **other}, seat="toma") == other
    assert looking.narrowed({**tally, **other}, app="elsewhere") == {}


@pytest.mark.parametrize(("steps", "without"), [(("buoy",), []), (("buoy", "save"), ["buoy"])])
def test_a_key_on_a_macro_of_one_step_is_a_key_of_its_command(
    steps: tuple[str, ...], without: list[str]
) -> None:
    mark = Macro(
        app="app", name="mark", title="Mark", steps=tuple(Step(command=each) for each in steps)
    )
    command = Command(id=mark.id, title="Mark", menu=(), keys=(key("F9"),))
    keymap = view_of(of=replace(app(), catalogue=Catalogue((*COMMANDS, command)))).keymap
    used = looking.used(weeks({("buoy", "menu", ""): 4}))
    assert [e.command for e in looking.without_key(keymap, used, {"mark": mark})] == without


def test_the_model_adds_up_its_operators() -> None:
    deep, flat = (menu_cost(app(), command, DEFAULT).seconds for command in ("buoy", "note"))
    assert deep - flat == pytest.approx(DEFAULT.point)
    assert menu_cost(app(), "buoy", DEFAULT).text == "M 1.35 + 3 P 3.30 + 4 B 0.40"
    view = view_of()

    def press(run: str) -> float:
        return press_cost(GERMAN, key(run), DEFAULT, view.weights).seconds

    assert press("F") < press("Ctrl+F") < press("Ctrl+Shift+Backspace")
    # The hand at the mouse has to leave it for a key of the right hand.
    assert press("J") > press("F") + 1.9 * DEFAULT.home
    assert changed(DEFAULT, {"K": 1.0}).key == 1.0
    with pytest.raises(ValueError):
        changed(DEFAULT, {"K": -1})
    # A button of a toolbar is pointed at and clicked; an item of a tray that is none is two steps away.
    ways = {how: way_cost(app(), "save", how, DEFAULT).seconds for how in ("toolbar", "tray")}
    click = 2 * DEFAULT.button
    assert ways["toolbar"] == pytest.approx(DEFAULT.mind + DEFAULT.point + click)
    assert ways["tray"] == pytest.approx(DEFAULT.mind + 2 * (DEFAULT.point + click))
    assert way_cost(app(), "save", "menu", DEFAULT) == menu_cost(app(), "save", DEFAULT)


def test_savings_are_counted_against_menus_and_factory() -> None:
    tally = weeks(
        {("save", "key", "Ctrl+S"): 30, ("buoy", "menu", ""): 40, ("look", "menu", ""): 10}
    )
    view = view_of()
    found = savings_of_keys(view, usage_of(tally), DEFAULT)
    by = {each.command: each for each in found}
    assert by["save"].saves == pytest.approx(
        15 * (by["save"].menu.seconds - by["save"].press.seconds)
    )
    assert by["look"].saves == pytest.approx(0)
    assert by["look"].would_save > 0
    sums = whole(view, found, DEFAULT)
    assert sums.now == pytest.approx(sum(each.now for each in found))
    assert sums.pressed < sums.now < sums.menus
    assert sums.factory == pytest.approx(sums.now)
    (best,) = savings(view, found, DEFAULT)
    assert best.savings.command == "buoy"
    assert best.pays_after == pytest.approx(DEFAULT.learn * 7 / best.seconds)
    given_key = Scheme(
        app="app", name="mine", layer=PERSONAL, assign={"buoy": (Assignment(keys=(key("Q"),)),)}
    )
    better = view_of(given_key)
    pressed = weeks({("buoy", "key", "Q"): 40})
    now = savings_of_keys(better, usage_of(pressed), DEFAULT)
    assert whole(better, now, DEFAULT).factory > whole(better, now, DEFAULT).now
    assert savings(better, now, DEFAULT) == []


def greedy(view: AppView, demands: list[Demand]) -> float:
    """What it costs to give the best free key to one command after another, as the plan weighs it."""
    pairs = suggestable.suggestable(view, tuple(demands), DEFAULT, "")
    total = 0.0
    taken: set[tuple[int, str]] = set()
    for i in sorted(range(len(demands)), key=lambda n: -demands[n].a_week):
        open_ = [
            j for j in range(len(pairs.runs)) if not taken & {(j, mode) for mode in pairs.modes[i]}
        ]
        best = min(open_, key=lambda j: float(pairs.cost[i, j]))
        taken |= {(best, mode) for mode in pairs.modes[i]}
        total += float(pairs.cost[i, best])
    return total


def studio(seed: int, number: int) -> tuple[AppView, list[Demand]]:
    draw = random.Random(seed)
    words = ["Buoy", "Beacon", "Wreck", "Shoal", "Light", "Mole", "Quay", "Ferry", "Marsh", "Weir"]
    modes = [(), ("draw",), ("text",)]
    commands = tuple(
        Command(
            id=f"c.{n}",
            title=f"{draw.choice(words)} {draw.choice(words).lower()}",
            menu=(draw.choice(["Draw", "Edit", "View"]), draw.choice(["One", "Two", "Three"])),
            keys=(),
            modes=draw.choice(modes) if seed % 2 else (),
        )
        for n in range(number)
    )
    about = replace(app(), catalogue=Catalogue(commands))
    return view_of(of=about), [Demand(each, float(draw.randrange(1, 60))) for each in commands]


@pytest.mark.parametrize("seed", range(4))
def test_a_plan_is_near_its_bound_and_no_worse_than_one_after_another(seed: int) -> None:
    view, demands = studio(seed, 24)
    plan = suggest(view, demands, DEFAULT)
    assert plan.bound <= plan.cost + 1e-6
    assert plan.weighed <= greedy(view, demands) + 1e-6
    assert len(plan.suggestions) + len(plan.left) == len(demands)
    held = [(str(s.trigger), mode) for s in plan.suggestions for mode in _inside(view, s.command)]
    assert len(held) == len(set(held))


def _inside(view: AppView, command: Command) -> tuple[str, ...]:
    return view.app.modes.inside(command.modes or ("everywhere",))


def test_a_plan_gives_only_what_nothing_stands_against() -> None:
    view, demands = studio(3, 12)
    from olive_compass.core.schemes.verdicts import verdict

    left: Plan = suggest(view, demands, DEFAULT, "left")
    for each in left.suggestions:
        modes = each.command.modes or ("everywhere",)
        assert verdict(view, each.command, each.trigger, modes).clean
        assert "left hand alone" in each.offer.reasons or "no hand" in str(each.offer.reasons)
    keyed = [Demand(COMMANDS[0], 9.0)]
    assert suggest(view_of(), keyed, DEFAULT).suggestions == ()
    moved = suggest(view_of(), keyed, DEFAULT, moves=True)
    assert moved.cost < moved.now


def test_boxes_go_on_and_back_and_come_again() -> None:
    tally = weeks({("look", "menu", ""): 25, ("save", "menu", ""): 5})
    keymap = view_of().keymap
    due = cards(keymap, tally, {}, "2026-11-26")
    assert [card.command for card in due] == ["look", "save"]
    box = after(due[0].box, True, "2026-11-26")
    assert (box.number, box.due) == (2, "2026-11-27")
    assert read_box(str(box)) == box
    again = cards(keymap, tally, {"look": box}, "2026-11-26")
    assert [card.command for card in again] == ["save"]
    assert after(Box(len(DAYS), "2026-11-26"), True, "2026-11-27").number == len(DAYS)
    assert after(box, False, "2026-11-27") == Box(1, "2026-11-27")


@pytest.mark.parametrize(
    ("finding", "counts", "given_to"),
    [
        ("used-without-key", {("buoy", "menu", ""): 40}, None),
        ("menu-despite-key", {("look", "menu", ""): 40}, None),
        ("never-pressed", {("buoy", "menu", ""): 1}, "buoy"),
        ("rare-on-easy-key", {("beacon", "menu", ""): 40}, "buoy"),
    ],
)
def test_what_was_counted_is_found(
    finding: str, counts: dict[tuple[str, str, str], int], given_to: str | None
) -> None:
    schemes = []
    if given_to:
        assigned = {given_to: (Assignment(keys=(key("E"),)),)}
        schemes = [Scheme(app="app", name="mine", layer=PERSONAL, assign=assigned)]

    def ids(tally: Tally) -> set[str]:
        return {f.id for f in all_findings(view_of(*schemes, tally=tally))}

    assert finding in ids(weeks(counts))
    quiet = {("save", "key", "Ctrl+S"): 1, ("buoy", "key", "E"): 9}
    assert finding not in ids(weeks(quiet))


def test_the_most_used_purpose_on_another_key_than_elsewhere() -> None:
    other = replace(app(), name="other", title="Other")
    commands = tuple(
        replace(c, keys=(key("F9"),)) if c.id == "save" else c for c in other.catalogue.commands
    )
    other = replace(other, catalogue=Catalogue(commands))
    links = {"app": ("save",), "other": ("save",)}
    purposes = Purposes((Purpose(id="save", title="Save", links=links),))
    for times, is_found in ((30, True), (3, False)):
        view = view_of(tally=weeks({("save", "key", "Ctrl+S"): times}))
        view.across = Across(
            {"app": view.keymap, other.name: Keymap(Stack(other), GERMAN)}, purposes
        )
        assert ("used-purpose-elsewhere" in {f.id for f in all_findings(view)}) is is_found


def test_a_key_that_is_mostly_taken_back_is_found() -> None:
    use = Use(
        log="log",
        seat="seat",
        day="2026-10-05",
        app="app",
        mode="draw",
        command="shade",
        how="key",
        key="F6",
    )
    for undone, there in ((4, True), (1, False)):
        tally = {use: Count(times=6, undone=undone, first="", last="")}
        found = {f.id for f in all_findings(view_of(tally=tally))}
        assert ("mostly-undone" in found) == there


def test_a_board_without_a_form_has_costs_too() -> None:
    assert press_cost(Keyboard("pc"), key("Ctrl+S"), DEFAULT, view_of().weights).text
