"""The answers of the core say what the judge decides, for any application and any press."""

from hypothesis import given
from hypothesis import strategies as st

from olive_compass.core.answers.press import StartsEarlier, Unused, UsedInside, press
from olive_compass.core.answers.search import SearchQuery, search_desk
from olive_compass.core.changes.view import AppView
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.deciding import NOTHING
from olive_compass.core.schemes.free import FREE, state
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.schemes.traits import typing_modes
from tests.core.test_one_judge import MANY
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
