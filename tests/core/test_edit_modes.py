"""Modes of an application are added, moved, renamed and removed, and every decision keeps its meaning."""

from hypothesis import given
from hypothesis import strategies as st

from olive_compass.core.apps.app import App
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.changes.change import Change
from olive_compass.core.changes.edit_modes import (
    IN_USE,
    INSIDE_ITSELF,
    IS_ROOT,
    THERE,
    EditModes,
    edit_modes,
    uses_of,
)
from olive_compass.core.changes.view import AppView
from olive_compass.core.schemes.claims import Stack
from tests.core.worlds import MODES, NAMES, TRIGGERS, views

own_modes = st.sampled_from(list(MODES))


def edited(view: AppView, **request: str) -> Change:
    return edit_modes(view, EditModes(schemes=view.stack.schemes, **request))


def app_of(change: Change) -> App:
    (edit,) = change.apps
    return edit.after


def told(app: App) -> tuple[object, ...]:
    """All of an application in which modes are named."""
    return app.modes.parents, app.catalogue.commands, app.rules


def after(view: AppView, change: Change) -> AppView:
    """The view once a change is made."""
    new = {edit.after.name: edit.after for edit in change.edits}
    schemes = tuple(new.get(scheme.name, scheme) for scheme in view.stack.schemes)
    return AppView(Stack(app_of(change), schemes, view.stack.system), view.keyboard)


def pressed(view: AppView, mode: str) -> list[tuple[str, ...]]:
    """What every trigger does in a mode."""
    outcomes = (view.keymap.decide(trigger, mode) for trigger in TRIGGERS)
    return [tuple(claim.command for claim in outcome.winners) for outcome in outcomes]


def refusals(change: Change) -> list[str]:
    return [refusal.what for refusal in change.refusals]


@given(views(), own_modes)
def test_a_renamed_mode_does_what_it_did_and_its_old_name_brings_all_back(
    view: AppView, mode: str
) -> None:
    there = after(view, edited(view, verb="rename", mode=mode, to="other"))
    for name in NAMES:
        assert pressed(there, "other" if name == mode else name) == pressed(view, name)
    back = after(there, edited(there, verb="rename", mode="other", to=mode))
    assert (told(back.app), back.stack.schemes) == (told(view.app), view.stack.schemes)
    assert uses_of(there.app, there.stack.schemes, mode).any is False


@given(views(), own_modes, st.sampled_from(NAMES))
def test_a_mode_is_moved_anywhere_but_into_itself(view: AppView, mode: str, parent: str) -> None:
    change = edited(view, verb="move", mode=mode, parent=parent)
    inside = view.app.modes.inside((mode,))
    assert (refusals(change) == [INSIDE_ITSELF]) == (parent in inside)
    if parent not in inside:
        assert app_of(change).modes.parents == {**view.app.modes.parents, mode: parent}


@given(views(), own_modes)
def test_a_mode_that_is_named_is_removed_only_into_another(view: AppView, mode: str) -> None:
    named = uses_of(view.app, view.stack.schemes, mode)
    alone = edited(view, verb="remove", mode=mode)
    assert (refusals(alone) == [IN_USE]) == named.any
    above = view.app.modes.parents[mode]
    there = after(view, edited(view, verb="remove", mode=mode, to=above))
    assert mode not in there.app.modes
    assert uses_of(there.app, there.stack.schemes, mode).any is False
    # What lay inside it lies where it lay.
    inner = [name for name, parent in view.app.modes.parents.items() if parent == mode]
    assert {there.app.modes.parents[name] for name in inner} <= {above}
    if not named.any:
        for name in there.app.modes.names:
            assert pressed(there, name) == pressed(view, name)


@given(views())
def test_a_name_is_given_once_and_everywhere_stays_as_it_is(view: AppView) -> None:
    assert refusals(edited(view, verb="add", mode="draw", parent=ROOT)) == [THERE]
    assert refusals(edited(view, verb="rename", mode="draw", to="label")) == [THERE]
    assert refusals(edited(view, verb="remove", mode=ROOT)) == [IS_ROOT]
    added = after(view, edited(view, verb="add", mode="trace", parent="draw"))
    assert added.app.modes.parents["trace"] == "draw"
    assert pressed(added, "trace") == pressed(view, "draw")
    assert told(added.app)[1:] == told(view.app)[1:]
