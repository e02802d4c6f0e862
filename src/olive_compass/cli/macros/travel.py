"""``macro export`` and ``macro import``: macros as TOML and JSON, also for another application."""

import os
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import writing_of
from olive_compass.cli.files import read_file
from olive_compass.cli.macros.common import (
    macro_named,
    new_name,
    refuse_self_call,
    save_changes,
    stack_app,
    world,
)
from olive_compass.cli.macros.showing import print_steps
from olive_compass.cli.options import Common, WriteOptions
from olive_compass.cli.output.new_file import Into, claimed, put_new
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.command_ids import slug
from olive_compass.core.macros.cleaning import suspects
from olive_compass.core.macros.macro import Macro, in_plain_text
from olive_compass.core.macros.travelling import Left, translated
from olive_compass.core.wording import counted
from olive_compass.desk.formats import macro_file
from olive_compass.desk.paths import macro_path
from olive_compass.desk.reported.macros import step_report
from olive_compass.desk.texts import json_text
from olive_compass.desk.texts.csv_text import each_row
from olive_compass.desk.texts.json_text import load as load_json
from olive_compass.desk.texts.schemas import refuse_together
from olive_compass.desk.writing.changed_files import changed_macro
from olive_compass.errors import UserError
from olive_compass.structs import replace, to_builtins


class MacroExportOptions(Common, kw_only=True):
    """The options of ``macro export``."""

    which: str
    form: str
    out: str | None
    dry_run: bool


def export_macro(args: MacroExportOptions, context: Surroundings) -> int:
    """Runs ``macro export``: to a file, or to standard output."""
    desk = pick.desk(args, context)
    app, macro = macro_named(desk, args.which, context)
    if args.form == "json":
        text = json_text.text(_as_json(macro))
    else:
        text = desk.bytes(macro_path(app.name, macro.name)).decode("utf-8-sig")
    if not args.out:
        context.write(text)
        return 0
    claimed(context, args.out)
    put_new(Into(args.form, args.out, args.dry_run), context, text.encode())
    return 0


class MacroImportOptions(WriteOptions, kw_only=True):
    """The options of ``macro import``."""

    file: str
    app: str
    name: str | None
    table: str | None


def import_macro(args: MacroImportOptions, context: Surroundings) -> int:
    """Runs ``macro import``."""
    desk = pick.desk(args, context)
    app = stack_app(desk, args.app)
    macro = _read(args.file, context)
    given = args.name or macro.title
    _, name, title = new_name(desk, f"{app.name}/{given}", context)
    table = {}
    if args.table:
        table = _table(args.table, context)
    after, left = translated(replace(macro, name=name, title=title), app, table)
    if macro.app and macro.app != app.name:
        after = replace(after, recorded=f"from {macro.app}: {macro.recorded or macro.title}")
    if not after.steps:
        raise UserError(
            f"No step of {macro.title} has a counterpart in {app.title}; nothing was changed.",
            file=args.file,
            hint="Give a table of commands: --table FILE, two columns: from, to",
        )
    _, keymap = world(desk, app)
    # It was for another application: a key that it presses may be its own here.
    refuse_self_call(desk, keymap, after)
    if not context.quiet:
        print_steps(context, app, after, suspects(app, after))
    what = f"{app.title}: imported the macro {title}, {counted(len(after.steps), 'step')}"
    dropped = [
        {"step": e.step, "command": e.command, "input": e.input or None, "why": e.why} for e in left
    ]
    changes = [changed_macro(desk, None, after)]
    lines = list(map(_left_out_text, left))
    return save_changes(
        writing_of(args), context, desk, changes, what, lines, **{"left-out": dropped}
    )


def _left_out_text(left: Left) -> str:
    """That a step, or an input of it, was left out, and why."""
    where = ", ".join(filter(None, (str(left.step), left.command, left.input)))
    return f"Step {where}: {left.why}; it was left out."


def _read(file: str, context: Surroundings) -> Macro:
    """The macro in a file of TOML or JSON, whatever application it is for."""
    data = read_file(context, file)
    name = slug(os.path.splitext(os.path.basename(file))[0]) or "macro"
    # Told by how it begins, for files are renamed on their way.
    if data.lstrip()[:1] != b"{":
        from olive_compass.desk.texts.toml_text import load

        app = str(load(data, file, macro_file.FORMAT).get("app", ""))
        return in_plain_text(macro_file.read(data, file, app, name))
    content = load_json(data, file)
    if not isinstance(content, dict) or content.get("format") != macro_file.FORMAT:
        raise UserError(f'The macro does not have "format": "{macro_file.FORMAT}".', file=file)
    macro, mistakes = macro_file.fit(content, name)
    refuse_together(mistakes, file)
    return in_plain_text(macro)


def _as_json(macro: Macro) -> dict[str, Any]:
    fields: dict[str, Any] = {
        "format": macro_file.FORMAT,
        "app": macro.app,
        "title": macro.title,
        "does": macro.does,
        "modes": list(macro.modes),
        "version": macro.version,
        "recorded": macro.recorded,
        "steps": [to_builtins(step_report(step)) for step in macro.steps],
    }
    for step in fields["steps"]:
        if not step["command"]:
            del step["command"]
    return {name: value for name, value in fields.items() if value or name == "steps"}


def _table(table: str, context: Surroundings) -> dict[str, str]:
    """Commands of one application and their counterparts: a CSV of two columns."""
    text = read_file(context, table).decode("utf-8-sig", "replace")
    found = {}
    for number, row in enumerate(each_row(text, table), 1):
        cells = [cell.strip() for cell in row]
        heads = number == 1 and "." not in "".join(cells)
        if heads or not any(cells) or cells[0].startswith("#"):
            continue
        if len(cells) < 2 or not cells[0] or not cells[1]:
            raise UserError("A row needs two commands, from and to.", file=table, line=number)
        found[cells[0]] = cells[1]
    return found
