"""``sheet``: the keys of applications as a list to read, print, pin to the wall or pass on."""

import argparse

from olive_compass.cli import exit_status, pick
from olive_compass.cli.current_app import named_or_current
from olive_compass.cli.options import (
    PaperOptions,
    factory_option,
    json_form_option,
    keys_as_option,
    mode_option,
)
from olive_compass.cli.output.papers import paper_options, table_options, wanted
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, DIM, OFF, width_of, wrapped
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.sheet import SheetGroup, SheetLine, sheet_groups
from olive_compass.core.wording import clause
from olive_compass.desk.desk import Desk
from olive_compass.desk.views import restricted
from olive_compass.errors import UserError

GROUP = "first steps"
ORDER = 110
SUMMARY = "Print the keys on screen, on paper or as a spreadsheet"
EXAMPLES = """olive-compass sheet quillmap
olive-compass sheet quillmap --mode draw
olive-compass sheet quillmap --as html > quillmap.html
olive-compass sheet quillmap tagwright --as pdf --paper a3 --out wall.pdf
olive-compass sheet --keyset larkspur --as pdf --out studio.pdf
olive-compass sheet quillmap --as xlsx --out quillmap.xlsx"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "apps", nargs="*", metavar="APP", help="one or more applications (default: the current one)"
    )
    table_options(parser, "json")
    parser.add_argument(
        "--keyset",
        metavar="SET",
        help="print this key set instead: a row for each purpose, a column for each application",
    )
    parser.add_argument("--all", action="store_true", help="also list the commands without a key")
    mode_option(parser, "only keys that work in this mode")
    factory_option(parser)
    keys_as_option(parser)
    json_form_option(parser)
    paper_options(parser, "a4").add_argument(
        "--columns", type=int, metavar="N", help="the number of columns (default: as fit best)"
    )


class SheetOptions(PaperOptions, kw_only=True):
    """The options of ``sheet``."""

    apps: list[str]
    keyset: str | None
    all: bool
    mode: str | None
    only: str | None
    keys_as: str | None
    columns: int | None


def _refuse_options_of_apps(args: SheetOptions) -> None:
    """Raises ``UserError`` for an option that the sheet of a key set does not have."""
    for_apps = {"all": args.all, "mode": args.mode, "only": args.only, "columns": args.columns}
    for option, value in for_apps.items():
        if value:
            raise UserError(f"--{option} is for the sheet of an application, not of a key set.")


def run(args: SheetOptions, context: Surroundings) -> int:
    asked = wanted(args, context, columns=args.columns)
    desk = pick.desk(args, context)
    if args.keyset:
        from olive_compass.cli.sharing.keyset_sheets import sheet_of_set

        _refuse_options_of_apps(args)
        pick.show_keys(args.keys_as, context, desk, args.apps)
        return sheet_of_set(args.keyset, args.apps, asked, context, desk)
    pick.show_keys(args.keys_as, context, desk, args.apps)
    sheets = [
        _sheet(args.only, args.mode, args.all, context, desk, name)
        for name in named_or_current(desk, context, args.apps)
    ]
    if asked.into.out and not any(groups for _, groups, _ in sheets):
        context.say("No command has a key here; nothing was written.")
        return 1
    if asked.form == "text":
        for n, (keymap, groups, mode) in enumerate(sheets):
            if n:
                context.say()
            _print(keymap, groups, mode, context)
    else:
        from olive_compass.cli.output.sheet_forms import give_sheets

        give_sheets(asked, context, desk, sheets)
    return exit_status.found(any(groups for _, groups, _ in sheets))


def _sheet(
    only: str | None,
    asked_mode: str | None,
    everything: bool,
    context: Surroundings,
    desk: Desk,
    name: str,
) -> tuple[Keymap, list[SheetGroup], str | None]:
    stack = restricted(desk.stack(name), only)
    mode = None
    if asked_mode:
        mode = pick.mode(stack.app, asked_mode)
    keymap = Keymap(stack, desk.keyboard)
    asks = {macro.id: macro.asked for macro in desk.macros(name).values()}
    return keymap, sheet_groups(keymap, mode, everything, context.key, asks), mode


def _print(
    keymap: Keymap, groups: list[SheetGroup], mode: str | None, context: Surroundings
) -> None:
    app = keymap.app
    schemes = " over ".join(keymap.stack.names)
    count = len({line.id for group in groups for line in group.lines})
    where = clause(", {}", mode)
    context.say(f"{BOLD}{app.heading}{OFF}{where} {DIM}({schemes}; {count} commands){OFF}")
    if not groups:
        context.say("No command has a key here.")
        return
    left = max(width_of(", ".join(line.texts)) for group in groups for line in group.lines)
    left = min(left, 26)
    for group in groups:
        context.say(f"\n{BOLD}{group.name}{OFF}")
        for line in group.lines:
            title = line.title + _beside(line, mode)
            for part in wrapped(", ".join(line.texts) or "-", left):
                context.say(f"  {part}{' ' * (left - width_of(part))}  {title}".rstrip())
                # Further keys stand below the first ones, with nothing beside them.
                title = ""


def _beside(line: SheetLine, mode: str | None) -> str:
    """What stands beside a title: why the command has no key, or where the key works; and what it asks for."""
    parts = [line.note or ("" if mode else line.where)]
    if line.asks:
        parts.append(f"asks {', '.join(line.asks)}")
    said = "; ".join(filter(None, parts))
    if said:
        return f"  {DIM}{said}{OFF}"
    return ""
