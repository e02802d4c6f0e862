"""Every surface gives the same answer: what must hold on any desk, tried on random ones."""

from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st

from olive_compass.core.actions import AssignKey
from olive_compass.core.apps.app import Catalogue, Command
from olive_compass.core.changes.assign import Assign, assign
from olive_compass.core.changes.change import DESPITE, Answers
from olive_compass.core.changes.view import AppView
from olive_compass.core.findings import Finding, all_findings
from olive_compass.core.findings.advice import scheme_to_write
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.board import FREE, KEYLESS, SHARED, board_keys, otherwise
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.deciding import Keymap, Outcome
from olive_compass.core.schemes.decisions import Assignment, Scheme
from olive_compass.core.schemes.free import free_strokes
from olive_compass.core.schemes.holdings import letter_route, live_triggers
from olive_compass.core.schemes.offers import offers
from olive_compass.core.schemes.pressing import press_changes
from olive_compass.core.schemes.sheet import sheet_groups
from olive_compass.core.schemes.verdicts import ASKED, REFUSED, verdict
from olive_compass.core.sharing.delivering import applied, factory_by_mode, reached_there, to_be
from olive_compass.structs import replace
from tests.core.worlds import COMMANDS, NAMES, TRIGGERS, some_modes, triggers, views

#: Making a failing desk smaller takes minutes: it is shown as it was found.
MANY = settings(
    phases=[Phase.explicit, Phase.reuse, Phase.generate],
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.data_too_large],
)

#: For what takes the better part of a second a desk: a third as many.
FEW = settings(MANY, max_examples=max(settings().max_examples // 3, 1))

#: Which part of a verdict says beforehand what a finding says afterwards.
SAID_BY = {
    "against-rules": ("rules", "too-many", "first"),
    "behind-altgr": ("altgr",),
    "same-keys": ("holders",),
    "guarded-key": ("guards",),
    "hard-to-press": ("hard",),
    "irreversible-on-habit-key": ("habit-key",),
    "lost-last-key": ("holders", "first", "outside"),
    "not-available": ("unavailable",),
    "not-on-keyboard": ("lacking",),
    "no-such-direction": ("rules",),
    "reserved-key": ("locked",),
    "waits-for-sequence": ("waits", "delays"),
    "sequence-too-long": ("rules",),
    "same-press": ("holders",),
    "slip": ("slips",),
    "blocks-character": ("untypable",),
    "blocks-typing": ("typing",),
    "press-and-hold": ("twins",),
    "wider-than-needed": ("outside",),
}


def after(view: AppView, scheme: Scheme) -> AppView:
    return AppView(view.stack.with_scheme(scheme), view.keyboard)


def grave(view: AppView) -> set[tuple[str, str]]:
    return {(f.id, f.says) for f in all_findings(view) if f.severity != "note"}


def command_of(view: AppView, name: str) -> Command:
    return view.app.catalogue.by_id[name]


@given(views(), st.sampled_from(COMMANDS))
@MANY
def test_what_is_offered_is_taken_without_a_word(view: AppView, name: str) -> None:
    """``free --for`` offers it, ``assign`` takes it, ``check`` has nothing new against it."""
    scheme = scheme_to_write(view)
    assert scheme
    command = command_of(view, name)
    before = grave(view)
    for offer in offers(view, command, most=2, scheme=scheme):
        modes = command.modes or ("everywhere",)
        change = assign(
            view, Assign(command=command, trigger=offer.trigger, modes=modes, scheme=scheme)
        )
        assert (change.refusals, change.questions) == ((), ())
        (found,) = change.effects
        assert found.against() == (), found.against()  # type: ignore[attr-defined]
        edited = change.edits[0].after
        then = after(view, edited)
        for press in then.keymap.keyboard.presses_of(offer.trigger):
            for mode in then.app.modes.inside(modes):
                assert [c.command for c in then.keymap.winners(press, mode)] == [name]
        new = [
            finding
            for finding in all_findings(then)
            if finding.severity != "note" and (finding.id, finding.says) not in before
        ]
        assert [f.says for f in new if str(offer.trigger) in f.keys] == []


@given(views(), st.sampled_from(NAMES))
@MANY
def test_a_key_that_is_shown_free_does_nothing(view: AppView, mode: str) -> None:
    for stroke in free_strokes(view, view.app.modes.inside([mode])):
        for inner in view.app.modes.within(mode):
            assert view.keymap.decide(Run((stroke,)), inner).what == "nothing", (stroke, inner)
    for held in ((), ("Ctrl",)):
        for code, key in board_keys(view.keymap, held, view.app.modes.inside([mode])).items():
            for inner in view.app.modes.within(mode) if key.state == FREE else ():
                assert view.keymap.decide_press(((held, code),), inner).what == "nothing"


@given(views(), st.sampled_from([None, *NAMES]))
@MANY
def test_a_line_of_a_sheet_is_true(view: AppView, mode: str | None) -> None:
    for group in sheet_groups(view.keymap, mode, every_command=False):
        for line in group.lines:
            for key in line.keys:
                for each in (mode,) if mode else key.modes:
                    outcome = view.keymap.decide(key.trigger, each)
                    commands = [claim.command for claim in outcome.winners]
                    assert line.id in commands, (line, key, each, outcome.what)


@given(views(), st.sampled_from(COMMANDS), triggers, some_modes)
@MANY
def test_whatever_check_finds_assign_said(
    view: AppView, name: str, trigger: Run, modes: tuple[str, ...]
) -> None:
    """An error of ``check`` was refused or asked about; a warning was said."""
    scheme = scheme_to_write(view)
    assert scheme
    found = verdict(view, command_of(view, name), trigger, modes, scheme)
    answers = Answers("replace", frozenset(DESPITE), sure=True)
    change = assign(
        view,
        Assign(
            command=command_of(view, name),
            trigger=trigger,
            modes=modes,
            scheme=scheme,
            why="why",
            instead=False,
            answers=answers,
        ),
    )
    if change.refusals:
        assert found.against(REFUSED)
        return
    edited = change.edits[0].after
    then = after(view, edited)
    old = grave(view)
    for finding in all_findings(then):
        if finding.severity == "note" or (finding.id, finding.says) in old:
            continue
        if not _about(finding, name, trigger):
            continue
        parts = SAID_BY.get(finding.id, ())
        said = [part for part in parts if found.has(part)]
        assert said or _known(view, finding, found), (finding.id, finding.says, found.against())
        if finding.severity == "error" and not _known(view, finding, found):
            assert found.against(REFUSED, ASKED), (finding.id, finding.says)


def _about(finding: Finding, name: str, trigger: Run) -> bool:
    return name in finding.commands and (not finding.keys or str(trigger) in finding.keys)


def _known(view: AppView, finding: Finding, found: object) -> bool:
    """What was wrong with the command before, told in other words now.

    A guard that did not hold is told by its press: another command may have come between.
    """
    before = all_findings(view)
    if finding.id == "guarded-key":
        return any(
            (f.id, f.keys) == (finding.id, finding.keys) and set(f.modes) & set(finding.modes)
            for f in before
        )
    return (finding.id, finding.commands[:1]) in {(f.id, f.commands[:1]) for f in before}


@given(views(), views())
@MANY
def test_a_comparison_is_empty_exactly_where_every_press_does_the_same(
    one: AppView, other: AppView
) -> None:
    for second in (one, other):
        before = Keymap(one.stack, one.keyboard)
        after_ = Keymap(second.stack, one.keyboard)
        found = {
            (one.keyboard.press_of(each.trigger), mode)
            for each in press_changes(before, after_)
            for mode in each.modes
        }
        differ = {
            (press, mode)
            for trigger in TRIGGERS
            # As the application sees them: it may take the pad's digits for those of the row.
            for press in {
                *before.keyboard.presses_of(trigger),
                *after_.keyboard.presses_of(trigger),
            }
            for mode in NAMES
            if _told(before.decide_press(press, mode)) != _told(after_.decide_press(press, mode))
        }
        assert bool(found) == bool(differ)
        assert all(mode in NAMES for _, mode in found)


def _told(outcome: Outcome) -> tuple[object, ...]:
    return (
        outcome.what,
        [(claim.command, claim.wired) for claim in outcome.winners],
        bool(outcome.longer),
    )


@given(views(), views(), st.sampled_from(NAMES))
@MANY
def test_a_board_marks_what_does_something_else_and_nothing_more(
    one: AppView, other: AppView, mode: str
) -> None:
    here = Keymap(one.stack, one.keyboard)
    there = Keymap(other.stack, one.keyboard)
    form = here.keyboard.form
    assert form is not None
    for held in ((), ("Ctrl",), ("Ctrl", "Alt")):
        marked = otherwise(here, there, held, (mode,), form.seats)
        for code in form.seats:
            press = ((held, here.keyboard.folded_code(code)),)
            differs = _told(here.decide_press(press, mode)) != _told(
                there.decide_press(press, mode)
            )
            assert (code in marked) is differs, (held, code)
        assert otherwise(here, here, held, (mode,), form.seats) == {}


@given(views(), st.sampled_from(NAMES))
@MANY
def test_what_a_board_calls_shared_offers_a_choice_and_what_it_calls_bare_does_nothing(
    view: AppView, mode: str
) -> None:
    for held in ((), ("Ctrl",)):
        for code, key in board_keys(view.keymap, held, (mode,)).items():
            press = ((held, view.keymap.keyboard.folded_code(code)),)
            outcome = view.keymap.decide_press(press, mode)
            assert key.shared is (len(outcome.winners) > 1)
            if key.drawn == SHARED:
                assert len(outcome.winners) > 1
            if key.drawn == KEYLESS:
                assert outcome.what == "nothing"
                assert key.keyless


@given(views(), st.sampled_from(COMMANDS))
@MANY
def test_what_is_not_there_starts_nothing(view: AppView, name: str) -> None:
    """A command that was withdrawn, or whose licence is missing: no press, sheet, board, letter or advice has it,
    and its key is for others."""
    app = view.app
    gone = {each.id for each in app.catalogue.commands if app.why_absent(each)}
    for trigger in TRIGGERS:
        for mode in NAMES:
            outcome = view.keymap.decide(trigger, mode)
            started = {c.command for c in (*outcome.winners, *outcome.overridden, *outcome.longer)}
            assert not started & gone, (trigger, mode)
        for held in ((), ("Ctrl",)):
            for key in board_keys(view.keymap, held, NAMES).values():
                assert not {claim.command for claim in key.claims} & gone
    for group in sheet_groups(view.keymap, None, every_command=True):
        assert not [line.id for line in group.lines if line.keys and line.id in gone]
    assert not any(live_triggers(view.keymap, command) for command in gone)
    assert not any(letter_route(view.keymap, command) for command in gone)
    told = [finding for finding in all_findings(view) if gone & {*finding.commands}]
    for finding in told:
        assert not [
            each for each in (finding.advice, *finding.instead) if isinstance(each, AssignKey)
        ]
    about = [(f.id, f.commands, f.places) for f in told if f.id == "not-available"]
    assert len(about) == len(set(about))
    found = verdict(view, command_of(view, name), TRIGGERS[0], NAMES[:1])
    assert not {holder.claim.command for holder in found.takers} & gone


@given(views())
@MANY
def test_hands_and_file_end_where_press_says(view: AppView) -> None:
    """What an application has by the keys that its work list leads to, and its file says, is what ``press`` says,
    but for what is named."""
    app, keymap = view.app, view.keymap
    factory = factory_by_mode(app, True)
    wished = to_be(keymap, factory, True)
    # What nobody decided stays in the file, and does there what it does without any decision.
    undecided = Keymap(Stack(app, (), view.stack.system), keymap.keyboard)
    always, left = reached_there(undecided, factory, True)
    decided = {id_: applied(always.get(id_, {}), some) for id_, some in wished.deltas.items()}
    by_command = {**always, **decided}
    excused = {keymap.keyboard.press_of(each.trigger) for each in (*wished.left, *left)}
    plain = tuple(replace(c, keys=()) for c in app.catalogue.commands)
    assign = {
        id_: tuple(Assignment(keys=keys, modes=(mode,)) for mode, keys in by_mode.items() if keys)
        for id_, by_mode in by_command.items()
    }
    rules = replace(app.rules, most_keys=0, unlisted={}, reserved={})
    bare_app = replace(app, catalogue=Catalogue(plain), rules=rules)
    there = Keymap(
        Stack(bare_app, (Scheme(app="app", name="file", assign=assign),)), keymap.keyboard
    )
    for trigger in TRIGGERS:
        for press in keymap.keyboard.presses_of(trigger):
            for mode in NAMES:
                here = keymap.decide_press(press, mode)
                if press in excused or any(claim.wired for claim in here.winners):
                    continue
                wanted = {claim.command for claim in here.winners if claim.command}
                now = {claim.command for claim in there.decide_press(press, mode).winners}
                assert now == wanted, (trigger, mode, wished.left)
