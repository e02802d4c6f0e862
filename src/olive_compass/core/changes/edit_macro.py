"""Edits a macro: its steps, in two, with another, tidied, or away."""

from msgspec import Struct

from olive_compass.core.changes.change import (
    SURE,
    Answers,
    Change,
    Effect,
    MacroEdit,
    Question,
    Refusal,
)
from olive_compass.core.changes.view import AppView
from olive_compass.core.keys.triggers import Run
from olive_compass.core.macros import editing
from olive_compass.core.macros.calling import self_start
from olive_compass.core.macros.cleaning import tidied
from olive_compass.core.macros.inputs import accepted, declared
from olive_compass.core.macros.macro import PREFIX, Macro, Step, reference
from olive_compass.structs import replace

#: A step that is not there, or cannot stand there (``about`` says why); an input that the command
#: does not have; a value that it cannot take; no value where one is to be fixed; a macro of that name
#: that is not there; and a macro that would come to play itself (``about``: the titles on the way).
STEP, NO_INPUT, WRONG_VALUE, NO_VALUE, NO_MACRO, PLAYS_ITSELF = (
    "step",
    "no-input",
    "wrong-value",
    "no-value",
    "no-macro",
    "plays-itself",
)


class Ask(Struct, frozen=True):
    """Turn a fixed value of a step into a question."""

    step: int
    input: str
    question: str = ""


class FixInput(Struct, frozen=True):
    """Turn a question into a fixed value, or mean the one that is there (``value`` None)."""

    step: int
    input: str
    value: str | None = None


class DropSteps(Struct, frozen=True):
    """Take steps out."""

    steps: tuple[int, ...]


class MoveStep(Struct, frozen=True):
    """Move a step to another place."""

    step: int
    to: int


class Insert(Struct, frozen=True):
    """Put a step in, so that it becomes the one of number ``at``."""

    at: int
    step: Step


class Note(Struct, frozen=True):
    """Write a note to a step."""

    step: int
    text: str


class SplitMacro(Struct, frozen=True):
    """Make two macros of one: from ``step`` on it is ``name``."""

    step: int
    name: str
    title: str


class Join(Struct, frozen=True):
    """Add the steps of another macro."""

    other: Macro


class Tidy(Struct, frozen=True):
    """Drop what is chance, and ask for what ties it to one document."""


class Remove(Struct, frozen=True):
    """Take the macro away."""


#: What can be done to a macro.
MacroRequest = (
    Ask | FixInput | DropSteps | MoveStep | Insert | Note | SplitMacro | Join | Tidy | Remove
)


class EditMacro(Struct, frozen=True):
    """Do ``edit`` to ``macro``."""

    macro: Macro
    edit: MacroRequest
    answers: Answers = Answers()


class Wrong(Struct, frozen=True, kw_only=True):
    """An input of a step, the value for it and what is wrong with that; or the inputs it has."""

    command: str
    input: str
    value: str = ""
    why: str = ""
    has: tuple[str, ...] = ()


class NewStep(Struct, frozen=True):
    """A step that the edit made or changed, and its number now."""

    number: int
    step: Step


class PlayedBy(Struct, frozen=True):
    """Another macro that plays the one that is taken away."""

    title: str


class HeldBy(Struct, frozen=True):
    """A scheme that gives the macro keys."""

    scheme: str
    triggers: tuple[Run, ...]


class Proposed(Struct, frozen=True):
    """What tidying does, a sentence each."""

    says: tuple[str, ...]


class _RefusedError(Exception):
    """Ends an edit with its refusal."""

    def __init__(self, refusal: Refusal) -> None:
        super().__init__(refusal.what)
        self.refusal = refusal


def edit_macro(view: AppView, request: EditMacro) -> Change:
    """The macro after the edit; its effects are the steps that are new or other, or who used it."""
    macro, edit = request.macro, request.edit
    if isinstance(edit, Remove):
        return Change(effects=_users(view, macro), macros=(MacroEdit(macro, None),))
    if isinstance(edit, Tidy):
        return _tidy(view, request)
    try:
        edits = _edits(view, macro, edit)
    except _RefusedError as ended:
        return Change(refusals=(ended.refusal,))
    except ValueError as error:
        return Change(refusals=(Refusal(STEP, str(error)),))
    for after in (each.after for each in edits):
        if after is not None and (way := self_start(view.keymap, view.macros, after)):
            titles = tuple(_title(view, after, name) for name in way)
            return Change(refusals=(Refusal(PLAYS_ITSELF, (after, titles)),))
    return Change(effects=_new_steps(macro, edits[0].after), macros=edits)


def _edits(
    view: AppView,
    macro: Macro,
    edit: Ask | FixInput | DropSteps | MoveStep | Insert | Note | SplitMacro | Join,
) -> tuple[MacroEdit, ...]:
    """The macros that an edit changes or makes. Raises ``ValueError`` and ``_RefusedError``."""
    if isinstance(edit, SplitMacro):
        head, tail = editing.split(macro, edit.step, edit.name, edit.title)
        return MacroEdit(macro, head), MacroEdit(None, tail)
    if isinstance(edit, Join):
        after = editing.join(macro, edit.other)
    elif isinstance(edit, DropSteps):
        after = editing.drop(macro, edit.steps)
    elif isinstance(edit, MoveStep):
        after = editing.move(macro, edit.step, edit.to)
    elif isinstance(edit, Note):
        after = editing.note(macro, edit.step, edit.text)
    elif isinstance(edit, Insert):
        after = editing.insert(macro, edit.at, _checked_step(view, edit.step))
    else:
        after = _asked_or_fixed(view, macro, edit)
    return (MacroEdit(macro, after),)


def _asked_or_fixed(view: AppView, macro: Macro, edit: Ask | FixInput) -> Macro:
    step = editing.step_at(macro, edit.step)
    if isinstance(edit, Ask):
        _checked(view, step, edit.input, f"{{step {edit.step}}}")
        return editing.ask(macro, edit.step, edit.input, edit.question)
    value = edit.value if edit.value is not None else step.inputs.get(edit.input)
    if value is None:
        raise _RefusedError(Refusal(NO_VALUE, edit))
    return editing.fix(macro, edit.step, edit.input, _checked(view, step, edit.input, value))


def _checked_step(view: AppView, step: Step) -> Step:
    """A new step with its values written one way, each of them meant."""
    if step.command.startswith(PREFIX) and step.calls not in view.macros:
        raise _RefusedError(Refusal(NO_MACRO, step.calls))
    values = {name: _checked(view, step, name, value) for name, value in step.inputs.items()}
    for name in step.ask:
        _checked(view, step, name, "{step 1}")
    return replace(step, inputs=values, keep=tuple(values))


def _checked(view: AppView, step: Step, name: str, value: str) -> str:
    """A value for an input, written one way."""
    command = view.app.catalogue.by_id.get(step.command)
    if command is None:
        return value
    wanted = {each.name: each for each in declared(command)}
    if name not in wanted:
        raise _RefusedError(
            Refusal(NO_INPUT, Wrong(command=command.title, input=name, has=tuple(wanted)))
        )
    if reference(value):
        return value
    try:
        return accepted(wanted[name], value)
    except ValueError as error:
        wrong = Wrong(command=command.title, input=name, value=value, why=str(error))
        raise _RefusedError(Refusal(WRONG_VALUE, wrong)) from error


def _tidy(view: AppView, request: EditMacro) -> Change:
    result = tidied(view.app, request.macro)
    if not result.changes:
        return Change(macros=(MacroEdit(request.macro, request.macro),))
    proposed: tuple[Effect, ...] = (Proposed(result.changes),)
    questions = () if request.answers.sure else (Question(SURE, result),)
    edits = (MacroEdit(request.macro, result.macro),)
    return Change(edits=(), effects=proposed, refusals=(), questions=questions, macros=edits)


def _new_steps(before: Macro, after: Macro | None) -> tuple[NewStep, ...]:
    old = [step.meaning for step in before.steps]
    steps = after.steps if after else ()
    return tuple(NewStep(n, step) for n, step in enumerate(steps, 1) if step.meaning not in old)


def _users(view: AppView, macro: Macro) -> tuple[Effect, ...]:
    """Who plays the macro, and which schemes give it keys."""
    played = [
        PlayedBy(each.title)
        for each in view.macros.values()
        if any(step.calls == macro.name for step in each.steps)
    ]
    held = [
        HeldBy(scheme.name, tuple(key for a in scheme.assign[macro.id] for key in a.keys))
        for scheme in view.stack.schemes
        if macro.id in scheme.assign
    ]
    return (*played, *held)


def _title(view: AppView, macro: Macro, name: str) -> str:
    if name == macro.name:
        return macro.title
    return view.macros[name].title
