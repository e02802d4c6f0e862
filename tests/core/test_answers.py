"""The answers of the core say what the judge decides, for any application and any press."""

from hypothesis import given
from hypothesis import strategies as st

from olive_compass.core.answers.check import check, stack_of
from olive_compass.core.answers.merge import MADE_TOGETHER, wrong_together
from olive_compass.core.answers.press import StartsEarlier, Unused, UsedInside, press
from olive_compass.core.answers.savings import savings_of
from olive_compass.core.answers.search import SearchQuery, search_desk
from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import Rules
from olive_compass.core.changes.view import AppView
from olive_compass.core.keys.reading import read_trigger as key
from olive_compass.core.keys.triggers import Run
from olive_compass.core.savings.model import DEFAULT
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.deciding import NOTHING
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.free import FREE, state
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.schemes.traits import typing_modes
from olive_compass.core.usage.summing import usage_of
from olive_compass.core.usage.tally import Count, Use
from olive_compass.desk.keyboards import load
from tests.core.test_one_judge import FEW, MANY
from tests.core.worlds import triggers, views


@given(views(), triggers)
@MANY
def test_a_press_is_answered_for_every_mode_and_with_a_reason_where_it_does_nothing(
    view: AppView, trigger: Run
) -> None:
    modes = view.app.modes.names
    answer = press(view.keymap, trigger, modes)
    assert sorted(mode for here in answer.here for mode in here.modes) == sorted(modes)
    for here in answer.here:
        assert all(view.keymap.decide(trigger, mode) == here.outcome for mode in here.modes)
        does_nothing = here.outcome.what == NOTHING and not answer.letters
        assert bool(here.idle) == does_nothing
        for idle in here.idle:
            for mode in idle.modes:
                _check_reason(view, trigger, mode, idle.reason)
    assert answer.does_something == any(not here.idle for here in answer.here)


def _check_reason(view: AppView, trigger: Run, mode: str, reason: object) -> None:
    keymap = view.keymap
    shown = state(keymap, trigger, (mode,), mode in typing_modes(view.app, (mode,)))
    if isinstance(reason, Unused):
        assert shown == FREE
    elif isinstance(reason, StartsEarlier):
        assert keymap.decide(reason.strokes, mode).what != NOTHING
    elif isinstance(reason, UsedInside):
        press_ = keymap.keyboard.press_of(trigger)
        assert {claim.mode for claim in keymap.buckets[press_]} >= {*reason.modes}
        assert mode not in reason.modes
    else:
        assert shown != FREE


@given(views(), st.sampled_from(["assigned", "unassigned", "keyless"]))
@MANY
def test_a_search_for_keys_finds_what_has_some(view: AppView, having: str) -> None:
    asked = dict.fromkeys(("assigned", "unassigned", "keyless"), False) | {having: True}
    query = SearchQuery(
        words="", app=None, key=None, mode=None, menu=None, kind=None, mark=None, **asked
    )
    answer = search_desk([view.keymap], [], query, 1000)
    assert answer.total == len(answer.hits)
    found = {hit.command.id for hit in answer.hits}
    keyless = {id_ for scheme in view.stack.schemes for id_ in scheme.keyless}
    for command in view.app.catalogue.commands:
        has_key = bool(live_triggers(view.keymap, command.id, None))
        wanted = {
            "assigned": has_key,
            "unassigned": not has_key and command.id not in keyless,
            "keyless": not has_key and command.id in keyless,
        }
        assert (command.id in found) == wanted[having]


@given(views())
@MANY
def test_a_check_above_another_stack_has_what_that_one_has_not(view: AppView) -> None:
    # Advice names another key each time, so that no two findings offer the same.
    everything = [(f.id, f.says) for f in check(view, {})]
    for name in view.stack.names:
        above = stack_of(view.stack, name, {})
        assert above is not None
        old = {(f.id, f.says) for f in check(AppView(above, view.keyboard, view.weights), {})}
        new = [(f.id, f.says) for f in check(view, {}, above)]
        assert new == [each for each in everything if each not in old]
    assert check(view, {}, view.stack) == []
    assert stack_of(view.stack, "nobody's", {}) is None


@given(views())
@FEW
def test_what_a_merge_makes_wrong_is_wrong_on_neither_side(view: AppView) -> None:
    for scheme in view.stack.schemes:
        empty = Scheme(app=scheme.app, name=scheme.name, layer=scheme.layer)
        found = wrong_together(view.stack, view.keyboard, empty, empty, scheme)
        wrong = check(view, {})
        assert set(found) <= {each.says for each in wrong if each.id in MADE_TOGETHER}
        # What one side had already is nothing that the two make together.
        assert wrong_together(view.stack, view.keyboard, scheme, empty, scheme) == []


def test_savings_are_answered_for_all_and_for_each_command() -> None:
    app = App(
        name="app",
        title="App",
        version="1",
        modes=ModeTree({}),
        rules=Rules(),
        catalogue=Catalogue(
            (
                Command(id="save", title="Save", menu=("File",), keys=(key("Ctrl+S"),)),
                Command(id="look", title="Look", menu=("View",)),
            )
        ),
    )
    view = AppView(Stack(app), load("", "pc", "ansi-104", "us", {}))

    def counted(command: str, how: str, first: str) -> tuple[Use, Count]:
        use = Use(
            log="log",
            seat="seat",
            day="2026-10-05",
            app="app",
            mode="",
            command=command,
            how=how,
            key="Ctrl+S" if how == "key" else "",
        )
        return use, Count(times=7, undone=0, first=first, last=first)

    tally = dict(
        [counted("save", "key", "2026-10-05T09:00:00"), counted("look", "menu", "2026-10-05")]
    )
    answer = savings_of(view, usage_of(tally), DEFAULT)
    assert (answer.days, answer.from_lists) == (1, ("look",))
    assert [each.savings.command for each in answer.best] == ["look"]
    assert answer.whole.now == sum(each.now for each in answer.commands)
    assert answer.whole.saved > 0
