"""The verbs of ``macro`` that edit steps, and ``tidy``, which proposes such edits."""

from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.macros.common import (
    checked_value,
    edit_change,
    macro_named,
    new_change,
    new_name,
    pairs,
    refuse_self_call,
    save_changes,
    world,
)
from olive_compass.cli.macros.showing import inputs_text, print_steps, step_title
from olive_compass.cli.saving import confirm
from olive_compass.cli.surroundings import BOLD, DIM, GREEN, OFF, RED, Surroundings
from olive_compass.core.apps.app import App
from olive_compass.core.apps.modes import joined
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.macros import editing
from olive_compass.core.macros.cleaning import suspects, tidied
from olive_compass.core.macros.macro import PREFIX, Macro, Step, reference
from olive_compass.core.wording import capital, counted
from olive_compass.desk.desk import Desk, macro_path
from olive_compass.desk.history import FileChange
from olive_compass.errors import Refused


def edit(args: Any, around: Surroundings) -> int:
    """Runs a verb that edits one macro."""
    at = pick.desk(args, around)
    app, before = macro_named(at, args.which)
    try:
        after, what = _EDITS[args.verb](at, app, before, args, around)
    except ValueError as error:
        raise Refused(f"{capital(error)}; nothing was changed.") from error
    _, keymap = world(at, app)
    refuse_self_call(at, keymap, after)
    changes = [edit_change(at, before, after)]
    lines = _changed_steps(app, before, after)
    return save_changes(args, around, at, changes, f"{before.title}: {what}", lines)


def _ask(at: Desk, app: App, macro: Macro, args: Any, around: Surroundings) -> tuple[Macro, str]:
    step = editing.step_at(macro, args.step)
    checked_value(app, step, args.input, f"@{args.step}")
    question = f" (“{args.question}”)" if args.question else ""
    after = editing.ask(macro, args.step, args.input, args.question or "")
    return after, f"step {args.step} asks for {args.input}{question}"


def _fix(at: Desk, app: App, macro: Macro, args: Any, around: Surroundings) -> tuple[Macro, str]:
    step = editing.step_at(macro, args.step)
    value = args.value if args.value is not None else step.inputs.get(args.input)
    if value is None:
        raise ValueError(f"step {args.step} has no fixed value for {args.input}; say which")
    value = checked_value(app, step, args.input, value)
    after = editing.fix(macro, args.step, args.input, value)
    if reference(value):
        return after, f"step {args.step} takes {args.input} from {value}"
    return after, f"step {args.step} has {args.input} fixed at {value}, on purpose"


def _drop(at: Desk, app: App, macro: Macro, args: Any, around: Surroundings) -> tuple[Macro, str]:
    return editing.drop(macro, args.steps), f"without step {joined(map(str, args.steps))}"


def _move(at: Desk, app: App, macro: Macro, args: Any, around: Surroundings) -> tuple[Macro, str]:
    return editing.move(macro, args.step, args.to), f"step {args.step} is now step {args.to}"


def _insert(at: Desk, app: App, macro: Macro, args: Any, around: Surroundings) -> tuple[Macro, str]:
    if args.press:
        step = Step("", press=str(read_trigger(args.press, app.rules.typed)))
    elif not args.command:
        raise ValueError("name a command, or a key with --press")
    else:
        id_ = args.command
        if not id_.startswith(PREFIX):
            id_ = pick.command(app, id_, around).id
        elif id_[len(PREFIX) :] not in at.macros(app.name):
            raise ValueError(f"{app.title} has no macro “{id_[len(PREFIX) :]}”")
        step = Step(id_)
        inputs = pairs(args.inputs, "INPUT")
        values = {name: checked_value(app, step, name, value) for name, value in inputs.items()}
        asked = {name: "" for name in args.asks}
        for name in asked:
            checked_value(app, step, name, "@1")
        step = step._replace(inputs=values, ask=asked, keep=tuple(values))
    after = editing.insert(macro, args.step, step)
    return after, f"new step {args.step}, {step_title(app, step)}"


def _note(at: Desk, app: App, macro: Macro, args: Any, around: Surroundings) -> tuple[Macro, str]:
    return editing.note(macro, args.step, args.text), f"a note to step {args.step}"


_EDITS = {
    "ask": _ask,
    "fix": _fix,
    "drop": _drop,
    "move": _move,
    "insert": _insert,
    "note": _note,
}


def split(args: Any, around: Surroundings) -> int:
    """Runs ``macro split``."""
    at = pick.desk(args, around)
    app, before = macro_named(at, args.which)
    _, name, title = new_name(at, f"{app.name}/{args.name}")
    try:
        head, tail = editing.split(before, args.step, name, title)
    except ValueError as error:
        raise Refused(f"{capital(error)}; nothing was changed.") from error
    what = f"{before.title}: from step {args.step} on it is now {title}"
    changes = [edit_change(at, before, head), new_change(tail)]
    lines = [
        f"{head.title} keeps {counted(len(head.steps), 'step')}, {title} has {len(tail.steps)}."
    ]
    return save_changes(args, around, at, changes, what, lines)


def join(args: Any, around: Surroundings) -> int:
    """Runs ``macro join``."""
    at = pick.desk(args, around)
    app, first = macro_named(at, args.which)
    _, second = macro_named(at, f"{app.name}/{args.other}")
    after = editing.join(first, second)
    _, keymap = world(at, app)
    refuse_self_call(at, keymap, after)
    what = f"{first.title}: the steps of {second.title} were added"
    lines = [f"It has {counted(len(after.steps), 'step')} now. {second.title} is still there."]
    return save_changes(args, around, at, [edit_change(at, first, after)], what, lines)


def remove(args: Any, around: Surroundings) -> int:
    """Runs ``macro remove``."""
    at = pick.desk(args, around)
    app, macro = macro_named(at, args.which)
    users = [
        each.title
        for each in at.macros(app.name).values()
        if any(step.calls == macro.name for step in each.steps)
    ]
    held = [
        f"{scheme.name} gives it {joined(str(k) for a in scheme.assign[macro.id] for k in a.keys)}"
        for scheme in at.stack(app.name).schemes
        if macro.id in scheme.assign
    ]
    lines = [f"Mind that {each} plays it." for each in users]
    lines += [f"Mind that {each}: olive-compass clear {app.name} {macro.id}" for each in held]
    path = macro_path(app.name, macro.name)
    change = FileChange(path, at.bytes(path), None)
    return save_changes(args, around, at, [change], f"{macro.title} was taken away", lines)


def tidy(args: Any, around: Surroundings) -> int:
    """Runs ``macro tidy``."""
    at = pick.desk(args, around)
    app, before = macro_named(at, args.which)
    result = tidied(app, before)
    if not result.changes:
        around.report(f"{before.title}: nothing looks like chance, and no value ties it down.")
        return 0
    if not around.quiet or args.dry_run:
        around.say(f"{BOLD}{before.title} as it is{OFF}")
        print_steps(around, app, before, suspects(app, before))
        around.say(f"\n{BOLD}{before.title} as it would be{OFF}")
        print_steps(around, app, result.macro)
        around.say()
        for change in result.changes:
            sign = f"{RED}-{OFF}" if " goes: " in change else f"{GREEN}+{OFF}"
            around.say(f"  {sign} {change}")
    if args.dry_run:
        around.say("Nothing was written.")
        return 0
    kept = f"{before.title} stays as it is; nothing was changed."
    confirm(args, around, "Tidying", "Do it?", kept)
    count = len(result.changes)
    what = f"{before.title}: tidied, {counted(count, 'change')}"
    return save_changes(args, around, at, [edit_change(at, before, result.macro)], what, [])


def _changed_steps(app: App, before: Macro, after: Macro) -> list[str]:
    """The steps that an edit made or changed, as they are now."""
    lines = []
    old = [step.meaning for step in before.steps]
    for number, step in enumerate(after.steps, 1):
        if step.meaning not in old:
            inputs = inputs_text(step)
            lines.append(f"  {number}  {step_title(app, step)}{f': {inputs}' if inputs else ''}")
    return [f"{DIM}{line}{OFF}" for line in lines]
