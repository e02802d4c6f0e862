"""``macro list`` and ``macro show``: macros as numbered steps, with what is suspicious in them."""

from olive_compass.cli import exit_status, pick, words
from olive_compass.cli.macros.common import macro_named
from olive_compass.cli.options import Common
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, DIM, OFF, YELLOW
from olive_compass.cli.terminal.tables import print_fields, print_table
from olive_compass.core.apps.app import App
from olive_compass.core.apps.modes import in_modes
from olive_compass.core.macros.cleaning import Suspect, by_step, suspects
from olive_compass.core.macros.macro import Macro, Step
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.wording import clause, counted
from olive_compass.desk.paths import macro_path
from olive_compass.desk.reported.macros import macro_report, macro_row


class MacroListOptions(Common, kw_only=True):
    """The options of ``macro list``."""

    app: str | None
    json: bool


def list_macros(args: MacroListOptions, context: Surroundings) -> int:
    """Runs ``macro list``."""
    desk = pick.desk(args, context)
    rows = []
    for stack in pick.stacks(desk, args.app):
        macros = desk.macros(stack.app.name)
        keymap = None
        if macros:
            keymap = Keymap(stack, desk.keyboard)
        for macro in macros.values():
            assert keymap is not None
            rows.append(macro_row(keymap, macro))
    if args.json:
        context.json({"macros": rows})
    elif not rows:
        context.say("No macro yet. Record one: olive-compass macro record APP/NAME")
    else:
        print_table(
            context,
            ("macro", "title", "steps", "questions", "suspicious", "keys"),
            [
                (
                    f"{row.app}/{row.name}",
                    str(row.title),
                    str(row.steps),
                    str(row.questions),
                    str(row.suspicious or ""),
                    ", ".join(row.keys),
                )
                for row in rows
            ],
        )
    return exit_status.found(rows)


class MacroShowOptions(Common, kw_only=True):
    """The options of ``macro show``."""

    which: str
    json: bool


def show_macro(args: MacroShowOptions, context: Surroundings) -> int:
    """Runs ``macro show``."""
    desk = pick.desk(args, context)
    app, macro = macro_named(desk, args.which, context)
    keymap = Keymap(desk.stack(app.name), desk.keyboard)
    found = suspects(app, macro)
    if args.json:
        context.json(macro_report(keymap, macro, found))
        return 0
    print_macro(context, app, macro, found, keymap)
    return 0


def print_macro(
    context: Surroundings,
    app: App,
    macro: Macro,
    found: tuple[Suspect, ...],
    keymap: Keymap,
) -> None:
    """Prints a macro: what it is, its steps, and under each what is suspicious."""
    path = macro_path(app.name, macro.name)
    context.say(f"{BOLD}{macro.title}{OFF} {DIM}({macro.id}, {app.title}; {path}){OFF}")
    command = app.catalogue.by_id.get(macro.id) or macro.command
    print_fields(
        context,
        [
            ("does", macro.does),
            ("recorded", macro.recorded),
            ("starts", in_modes(macro.modes) if macro.modes else "anywhere"),
            ("keys", words.keys_with_sources(keymap, command, context.key) or "none"),
        ],
    )
    print_steps(context, app, macro, found)
    chance = sum(each.is_chance for each in found)
    tied = len(found) - chance
    if found:
        parts = []
        if chance:
            parts = [f"{counted(chance, 'step')} that look accidental"]
        if tied:
            parts.append(f"{counted(tied, 'value')} of one document")
        context.say(
            f"{' and '.join(parts)}. To tidy it: olive-compass macro tidy {app.name}/{macro.name}"
        )


def print_steps(
    context: Surroundings, app: App, macro: Macro, found: tuple[Suspect, ...] = ()
) -> None:
    """The numbered steps as a table, with suspicions in the last column."""
    pointed = by_step(found)
    rows = []
    for number, step in enumerate(macro.steps, 1):
        says = [_says(each) for each in pointed.get(number, [])]
        if step.note:
            says.append(step.note)
        rows.append((str(number), step_title(app, step), inputs_text(step), "; ".join(says)))
    if rows:
        print_table(context, ("no.", "step", "inputs", "suspicious"), rows)
    else:
        context.say("It has no steps.")


def step_title(app: App, step: Step) -> str:
    """What a step does, by its command's title."""
    if step.press:
        return f"press {step.press}"
    command = app.catalogue.by_id.get(step.command)
    if step.calls:
        return f"play {command.title if command else step.calls}"
    if command:
        return command.title
    return f"{step.command} (unknown)"


def inputs_text(step: Step) -> str:
    """The inputs of a step in a line: ``at asks; character Fl.W.5s``."""
    parts = [f"{name} {value}" for name, value in step.inputs.items()]
    parts += [f"{name} asks" + clause(" “{}”", text) for name, text in step.ask.items()]
    return "; ".join(parts)


def _says(each: Suspect) -> str:
    if each.is_chance:
        return f"{YELLOW}accidental{OFF}: {each.says}"
    return f"{YELLOW}{each.says}{OFF}"
