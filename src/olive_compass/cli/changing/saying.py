"""Turns what the core decided about a change into refusals, questions and sentences."""

from collections.abc import Iterable, Iterator
from itertools import product
from typing import TYPE_CHECKING

from olive_compass.cli import words
from olive_compass.cli.changing import objections
from olive_compass.cli.terminal.command_lines import line
from olive_compass.core.apps.app import App
from olive_compass.core.apps.modes import joined
from olive_compass.core.apps.rules import DUPLICATES_SAID, TAKES
from olive_compass.core.changes.change import (
    DESPITE,
    SURE,
    Change,
    Question,
    Refusal,
    StillHas,
    Without,
    after_edits,
    shifted,
    touched,
)
from olive_compass.core.changes.view import AppView
from olive_compass.core.keys.kinds import Broken, kind_of
from olive_compass.core.keys.roses import bearing_name
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.consequences import Loss, Shift
from olive_compass.core.schemes.deciding import NOTHING, Keymap
from olive_compass.core.schemes.guards import Guarded
from olive_compass.core.schemes.objections import guards as guards_of
from olive_compass.core.schemes.objections import locked, rules, too_many
from olive_compass.core.schemes.objections.guards import guard_says
from olive_compass.core.schemes.objections.kind import GUARD, TAKEN
from olive_compass.core.schemes.verdicts import Verdict
from olive_compass.core.wording import by_number, capital, clause
from olive_compass.desk.desk import Desk
from olive_compass.desk.paths import app_path, scheme_path
from olive_compass.desk.source_lines import file_and_line_text
from olive_compass.errors import UserError

if TYPE_CHECKING:
    from olive_compass.core.changes.copy_rose import Copied


def _round_rule(app: App, found: Verdict, broken: Broken) -> str:
    """The way out where a trigger breaks a rule of the application."""
    if broken.nearest:
        return f"The nearest are {' or '.join(broken.nearest)}."
    if broken.rule == "swipes":
        roses = [mode for mode in app.modes.names if app.rose(mode)]
        if roses:
            return f"It does in {joined(roses)}: add --mode."
    if broken.rule == "takes" and (kind := _kind(found)) not in app.rules.takes:
        takes = ",".join((*app.rules.takes, kind))
        return f"If it does: {line('app', 'rules', app.name, '--set', f'takes={takes}')}"
    if broken.rule in app.rules.guessed:
        from olive_compass.cli.intake.guesses import way_out

        return f"To change: {way_out(app.name, broken.rule)}"
    return f"The rule is {broken.rule}."


def refused(desk: Desk, view: AppView, refusal: Refusal) -> UserError:
    """What cannot be, as an error: what, where, and the way out."""
    found = refusal.about
    assert isinstance(found, Verdict), f"no words for the refusal {refusal.what}"
    (objection,) = (each for each in found.objections if each.id == refusal.what)
    says = f"{objections.objection_text(desk, view, found, objection)}; nothing was changed."
    app = view.app
    # The layer that keeps the key is the way out: there it can be switched off, or nowhere.
    if objection.kind is locked.KIND:
        return UserError(
            says, file=file_and_line_text(desk, view.keymap, objection.evidence[0].claim)
        )
    if objection.kind is rules.KIND:
        hint = _round_rule(app, found, objection.evidence[0])
        return UserError(says, file=app_path(app.name), hint=hint)
    if objection.kind is too_many.KIND:
        run, scheme = objection.evidence[0].have[0]
        first = line("clear", app.name, found.command.id, str(run), "--scheme", scheme)
        hint = f"Take one first: {first}; or use --instead."
        return UserError(says, file=app_path(app.name), hint=hint)
    return UserError(says)


def _kind(found: Verdict) -> str:
    """The kind of the first stroke that is no key."""
    names = (kind_of(stroke).name for stroke in found.trigger.strokes)
    return next((name for name in names if name in TAKES), "")


def question_lines(desk: Desk, view: AppView, question: Question) -> list[str]:
    """What is to be known before a question is answered."""
    # Loaded here: few changes copy a rose.
    from olive_compass.core.changes.copy_rose import Copied

    about = question.about if question.what == TAKEN else ()
    lines = []
    if isinstance(about, tuple):
        for each in about:
            if isinstance(each, Copied):
                lines.append(_copied_text(view, each))
            elif isinstance(each, Verdict):
                lines += [f"{objections.holder_text(desk, view, each, h)}." for h in each.takers]
    return lines


def _copied_text(view: AppView, each: "Copied") -> str:
    return (
        f"{bearing_name(each.place.bearing)} is {view.title(each.had)}; it would be "
        f"{view.title(each.place.command)}{', which cannot be used there' if each.useless else ''}."
    )


def _about(desk: Desk, view: AppView, question: Question) -> str:
    """What a question is about, as a sentence without its full stop."""
    if isinstance(question.about, Verdict):
        found = question.about
        asked = next(each for each in found.objections if each.kind.asks == question.what)
        return objections.objection_text(desk, view, found, asked)
    if question.what == GUARD:
        return guard_says(_guards(question)[0])
    return ""


def _guards(question: Question) -> list[Guarded]:
    about = question.about
    if isinstance(about, tuple):
        return [each for each in about if isinstance(each, Guarded)]
    return []


def reasons(desk: Desk, view: AppView, question: Question) -> list[str]:
    """The objections to it, in sentences, before a person is asked whether to do it all the same."""
    if question.what not in DESPITE:
        return []
    guards = _guards(question)
    if question.what == GUARD and guards:
        return [f"{guard_says(each)}." for each in guards]
    return [f"{capital(_about(desk, view, question))}."]


def question_text(question: Question) -> tuple[str, str]:
    """The question as it is asked, and the option that answers it in a script."""
    if question.what in DESPITE:
        return "Do it all the same?", f"To do it all the same: --despite {question.what}"
    if question.what == TAKEN:
        return "Replace them?", "Use --if-taken replace."
    return "Do it?", "Use --yes to do it."


def unanswered(desk: Desk, view: AppView, question: Question, way_out: str) -> UserError:
    """The error of a question that nobody can answer."""
    if question.what == SURE:
        return UserError("This asks first; nothing was changed.", hint=way_out)
    if question.what == TAKEN and not isinstance(question.about, Verdict):
        return UserError(f"{_taken_places(question)}; nothing was changed.", hint=way_out)
    says = f"{_about(desk, view, question)}; nothing was changed."
    guards = _guards_asked_about(question)
    if not guards:
        return UserError(says, hint=way_out)
    path = scheme_path(view.app.name, guards[0].scheme.name)
    number = desk.line(path, "guard", str(guards[0].trigger))
    return UserError(says, file=path, line=number, hint=way_out)


def _taken_places(question: Question) -> str:
    """Which of several keys are taken, or that several places are."""
    if not isinstance(question.about, tuple):
        return "Places are taken"
    keys = [str(each.trigger) for each in question.about if isinstance(each, Verdict)]
    if not keys:
        return "Places are taken"
    return f"{joined(keys)} {by_number(len(keys), 'is', 'are')} taken"


def _guards_asked_about(question: Question) -> list[Guarded]:
    """The guards that a question is about, none where it asks something else of a verdict."""
    if not isinstance(question.about, Verdict):
        return _guards(question)
    if question.what == GUARD:
        return list(question.about.evidence(guards_of.KIND))
    return []


def asked_lines(desk: Desk, view: AppView, question: Question) -> list[str]:
    """The sentence that a yes-or-no question is about."""
    text = _about(desk, view, question)
    if text:
        return [f"{text}."]
    return []


def shift_lines(view: AppView, after: Keymap, shifts: Iterable[Shift]) -> list[str]:
    """What presses do differently."""
    return [words.shift_text(view.keymap, after, each) for each in shifts]


def plain_effects(view: AppView, change: Change) -> list[str]:
    """The sentences of the effects that every action may have, in their order."""
    after = after_edits(view, change.edits)
    return [line for each in change.effects for line in _effect_lines(view, after, each)]


def _effect_lines(view: AppView, after: Keymap, effect: object) -> Iterator[str]:
    if isinstance(effect, Shift):
        yield words.shift_text(view.keymap, after, effect)
    elif isinstance(effect, Loss):
        yield f"{view.title(effect.command)}: {words.left_with(after, effect)}."
    elif isinstance(effect, Without):
        rest = clause("; the menu {} remains", effect.route)
        yield f"{view.title(effect.command)} has no key now{rest}."
    elif isinstance(effect, StillHas):
        yield f"A nearer layer still gives it {joined(map(str, effect.triggers))}."


def explained(desk: Desk, view: AppView, change: Change) -> list[str]:
    """With ``--explain``: the application's rules, and what the keys do in the others."""
    rules = view.app.rules
    lines = []
    if not any(isinstance(each, Shift) for each in change.effects):
        lines = shift_lines(view, after_edits(view, change.edits), shifted(view, change.edits))
    lines += [
        f"Rules of {view.app.title}: {DUPLICATES_SAID[rules.duplicates]}; "
        f"keys for a command: {rules.most_keys or 'any number'}; longest sequence: {rules.longest_sequence}; "
        f"switching a key off: {'it can' if rules.can_mute else 'it cannot'}.",
        "In the other applications:",
    ]
    others = [name for name in desk.app_names() if name != view.app.name]
    for edit in change.edits:
        for trigger, name in product(touched(view, edit.before, edit.after), others):
            lines += [f"  {trigger} in {line}" for line in elsewhere(desk, trigger, name)]
    return lines


def elsewhere(desk: Desk, trigger: Run, name: str) -> list[str]:
    """What a trigger does in another application, with a warning where a mistake would cost much."""
    keymap = Keymap(desk.stack(name), desk.keyboard)
    together: dict[str, list[str]] = {}
    for mode in keymap.app.modes.names:
        outcome = keymap.decide(trigger, mode)
        if outcome.what != NOTHING:
            together.setdefault(words.outcome_text(keymap, outcome), []).append(mode)
    return [
        f"{keymap.app.title}: {text} {keymap.app.modes.phrase(modes)}{_warning(keymap, trigger)}"
        for text, modes in together.items()
    ] or [f"{keymap.app.title}: nothing"]


def _warning(keymap: Keymap, trigger: Run) -> str:
    known = keymap.app.catalogue.by_id
    for claim in keymap.buckets.get(keymap.keyboard.press_of(trigger), ()):
        command = known.get(claim.command)
        if command and command.marks.disruptive:
            return f" - beware: {command.title} {command.marks.warning}"
    return ""
