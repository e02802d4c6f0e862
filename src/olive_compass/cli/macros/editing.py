"""The verbs of ``macro`` that edit steps, and ``tidy``, which proposes such edits."""

from collections.abc import Callable
from typing import Any

from msgspec import field

from olive_compass.cli import pick
from olive_compass.cli.changing.running import Work, execute, options_of
from olive_compass.cli.changing.saving import confirm
from olive_compass.cli.macros.common import macro_named, new_name, refuse_self_start
from olive_compass.cli.macros.showing import inputs_text, print_steps, step_title
from olive_compass.cli.options import ChangeOptions
from olive_compass.cli.pairs import pairs
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, DIM, GREEN, OFF, RED
from olive_compass.core.apps.modes import joined
from olive_compass.core.changes import edit_macro as core
from olive_compass.core.changes.change import SURE, Answers, Change, Question, Refusal
from olive_compass.core.changes.view import AppView
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.macros.cleaning import suspects
from olive_compass.core.macros.macro import PREFIX, Macro, Step, reference
from olive_compass.core.wording import capital, clause, counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.views import app_view
from olive_compass.errors import UserError
from olive_compass.structs import replace


class MacroEditOptions(ChangeOptions, kw_only=True):
    """The options of the verbs that edit a macro."""

    which: str
    step: int = 0
    input: str = ""
    question: str | None = None
    value: str | None = None
    steps: list[int] = field(default_factory=list)
    to: int = 0
    command: str | None = None
    press: str | None = None
    inputs: list[str] = field(default_factory=list)
    asks: list[str] = field(default_factory=list)
    text: str = ""
    name: str = ""
    other: str = ""


def edit(args: MacroEditOptions, context: Surroundings) -> int:
    """Runs a verb that edits one macro."""
    if args.verb == "tidy" and not _has_to_tidy(args, context):
        return 0
    return execute(options_of(args), context, lambda desk: _prepare(args, context, desk))


def _prepare(args: MacroEditOptions, context: Surroundings, desk: Desk) -> Work:
    app, macro = macro_named(desk, args.which, context)
    view = app_view(desk, app.name)
    wanted = _REQUESTS[args.verb](desk, view, args, context)

    def ask(question: Question, answers: Answers) -> Answers:
        if not args.quiet and not args.json:
            _show_tidying(context, view, macro, question)
        kept = f"{macro.title} stays as it is; nothing was changed."
        confirm(args.yes, context, "Tidying", "Do it?", kept)
        return replace(answers, sure=True)

    return Work(
        view=view,
        decide=lambda answers: core.edit_macro(view, core.EditMacro(macro, wanted, answers)),
        what=lambda change: _what(view, macro, wanted, change),
        report=lambda change: _report(view, macro, wanted, change),
        ask=ask,
        refused=lambda change: _refused(view, change.refusals[0]),
    )


def _has_to_tidy(args: MacroEditOptions, context: Surroundings) -> bool:
    """Whether there is something to tidy; says that there is not, and shows what a dry run would do."""
    desk = pick.desk(args, context)
    app, macro = macro_named(desk, args.which, context)
    view = app_view(desk, app.name)
    change = core.edit_macro(view, core.EditMacro(macro, core.Tidy()))
    if change.already and not args.json:
        context.report(
            f"{macro.title}: no step looks accidental, and no value belongs to one document."
        )
        return False
    if args.dry_run and not args.json:
        _show_tidying(context, view, macro, change.questions[0])
    return True


def _drop(
    _desk: Desk, _view: AppView, args: MacroEditOptions, _context: Surroundings
) -> core.DropSteps:
    return core.DropSteps(tuple(args.steps))


def _insert(
    _desk: Desk, view: AppView, args: MacroEditOptions, context: Surroundings
) -> core.Insert:
    if args.press:
        return core.Insert(
            args.step, Step(command="", press=str(read_trigger(args.press, view.app.rules.typed)))
        )
    if not args.command:
        raise UserError("Name a command, or a key with --press; nothing was changed.")
    id_ = args.command
    if not id_.startswith(PREFIX):
        id_ = pick.command(view.app, id_, context).id
    step = Step(command=id_, inputs=pairs(args.inputs, "INPUT"), ask=dict.fromkeys(args.asks, ""))
    return core.Insert(args.step, step)


def _split(
    desk: Desk, view: AppView, args: MacroEditOptions, context: Surroundings
) -> core.SplitMacro:
    _, name, title = new_name(desk, f"{view.app.name}/{args.name}", context)
    return core.SplitMacro(args.step, name, title)


def _join(desk: Desk, view: AppView, args: MacroEditOptions, context: Surroundings) -> core.Join:
    return core.Join(macro_named(desk, f"{view.app.name}/{args.other}", context)[1])


#: What each verb asks of the core.
_REQUESTS: dict[
    str, Callable[[Desk, AppView, MacroEditOptions, Surroundings], core.MacroRequest]
] = {
    "ask": lambda _desk, _view, args, _context: core.Ask(
        args.step, args.input, args.question or ""
    ),
    "fix": lambda _desk, _view, args, _context: core.FixInput(args.step, args.input, args.value),
    "cut": _drop,
    "move": lambda _desk, _view, args, _context: core.MoveStep(args.step, args.to),
    "insert": _insert,
    "note": lambda _desk, _view, args, _context: core.Note(args.step, args.text),
    "split": _split,
    "join": _join,
    "tidy": lambda _desk, _view, _args, _context: core.Tidy(),
    "remove": lambda _desk, _view, _args, _context: core.Remove(),
}


def _what(view: AppView, macro: Macro, wanted: core.MacroRequest, change: Change) -> str:
    """What was done, in a sentence."""
    if isinstance(wanted, core.Remove):
        return f"Removed macro {macro.title}"
    return f"{macro.title}: {_done(view, wanted, change)}"


def _done(view: AppView, wanted: core.MacroRequest, change: Change) -> str:
    match wanted:
        case core.Ask(step, name, question):
            return f"step {step} asks for {name}" + clause(" (“{}”)", question)
        case core.FixInput(step, name):
            return _fixed(change.macros[0].after, step, name)
        case core.DropSteps(steps):
            return f"removed step {joined(map(str, steps))}"
        case core.MoveStep(step, to):
            return f"moved step {step} to {to}"
        case core.Insert(at, new):
            return f"added step {at}, {step_title(view.app, new)}"
        case core.Note(step):
            return f"added a note to step {step}"
        case core.SplitMacro(step, _, title):
            return f"split off the steps from {step} on as {title}"
        case core.Join(other):
            return f"added the steps of {other.title}"
    count = sum(len(each.says) for each in change.effects if isinstance(each, core.Proposed))
    return f"tidied, {counted(count, 'change')}"


def _fixed(after: Macro | None, step: int, name: str) -> str:
    """Which value an input of a step has for good."""
    value = ""
    if after:
        value = after.steps[step - 1].inputs[name]
    if reference(value):
        return f"step {step} takes {name} from {value}"
    return f"step {step} has {name} fixed at {value}, on purpose"


def _report(view: AppView, macro: Macro, wanted: core.MacroRequest, change: Change) -> list[str]:
    """What follows, in lines."""
    if isinstance(wanted, core.SplitMacro):
        head, tail = (each.after for each in change.macros)
        if head and tail:
            has = counted(len(head.steps), "step")
            return [f"{head.title} keeps {has}, {tail.title} has {len(tail.steps)}."]
    if isinstance(wanted, core.Join) and (after := change.macros[0].after):
        has = counted(len(after.steps), "step")
        return [f"It has {has} now. {wanted.other.title} is still there."]
    return list(filter(None, (_effect_text(view, macro, each) for each in change.effects)))


def _effect_text(view: AppView, macro: Macro, effect: object) -> str:
    """What an edit does beside the steps that it was asked for, ``""``: nothing to be said."""
    match effect:
        case core.NewStep(number, step):
            inputs = inputs_text(step)
            says = f"  {number}  {step_title(view.app, step)}{clause(': {}', inputs)}"
            return f"{DIM}{says}{OFF}"
        case core.PlayedBy(title):
            return f"Note that {title} plays it."
        case core.HeldBy(scheme, triggers):
            given = f"{scheme} gives it {joined(map(str, triggers))}"
            return f"Note that {given}: olive-compass clear {view.app.name} {macro.id}"
    return ""


def _refused(view: AppView, refusal: Refusal) -> UserError | None:
    """What cannot be, in words."""
    about: Any = refusal.about
    match refusal.what:
        case core.STEP:
            return UserError(f"{capital(about)}; nothing was changed.")
        case core.NO_INPUT:
            has = joined(about.has) or "none"
            return UserError(f"{about.command} has no input “{about.input}”; it has {has}.")
        case core.WRONG_VALUE:
            return UserError(f"“{about.value}” is no value for {about.input}: {about.why}.")
        case core.NO_VALUE:
            says = f"Step {about.step} has no fixed value for {about.input}; say which"
            return UserError(f"{says}; nothing was changed.")
        case core.NO_MACRO:
            return UserError(f"{view.app.title} has no macro “{about}”; nothing was changed.")
        case core.PLAYS_ITSELF:
            return refuse_self_start(*about)
    return None


def _show_tidying(context: Surroundings, view: AppView, before: Macro, question: Question) -> None:
    """The macro as it is and as it would be, before a person is asked."""
    if question.what != SURE:
        return
    result: Any = question.about
    context.say(f"{BOLD}{before.title} as it is{OFF}")
    print_steps(context, view.app, before, suspects(view.app, before))
    context.say(f"\n{BOLD}{before.title} as it would be{OFF}")
    print_steps(context, view.app, result.macro)
    context.say()
    for change in result.changes:
        context.say(f"  {_sign(change)} {change}")


def _sign(change: str) -> str:
    if " goes: " in change:
        return f"{RED}-{OFF}"
    return f"{GREEN}+{OFF}"
