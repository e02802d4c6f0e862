"""``sheet``: the keys of an application as a list to read, print or pass on."""

import argparse
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.parsing import app_argument, keys_as_option, only_option
from olive_compass.cli.surroundings import BOLD, DIM, OFF, Surroundings, width_of
from olive_compass.cli.tables import wrapped
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.sheet import SheetGroup, sheet_groups

GROUP = "paper"
ORDER = 10
SUMMARY = "Print the keys of an application: at the terminal, as HTML, CSV, Markdown or JSON"
EXAMPLES = """olive-compass sheet quillmap
olive-compass sheet quillmap --mode draw
olive-compass sheet quillmap --as html > quillmap.html"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument(
        "--as",
        dest="form",
        choices=("text", "html", "csv", "markdown", "json"),
        default="text",
        help="the form of the sheet (text)",
    )
    parser.add_argument("--all", action="store_true", help="also the commands without a key")
    parser.add_argument("--mode", help="only what works in this mode")
    only_option(parser)
    keys_as_option(parser)
    parser.add_argument(
        "--json", action="store_const", const="json", dest="form", help="the same as --as json"
    )


def run(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    pick.show_keys(args, around, at)
    stack = pick.only(at.stack(at.app_name(args.app)), args.only)
    mode = pick.mode(stack.app, args.mode) if args.mode else None
    keymap = Keymap(stack, at.keyboard)
    groups = sheet_groups(keymap, mode, args.all, around.key)
    if args.form == "text":
        _print(keymap, groups, mode, around)
    elif args.form == "json":
        around.json(_as_json(keymap, groups, mode))
    else:
        from olive_compass.drawing import sheets

        about = sheets.About(
            stack.app.title,
            stack.app.version,
            at.settings.name,
            mode or "",
            " over ".join(stack.names),
            around.now().date().isoformat(),
        )
        around.write(getattr(sheets, f"as_{args.form}")(groups, about))
    return 0 if groups else 1


def _print(
    keymap: Keymap, groups: list[SheetGroup], mode: str | None, around: Surroundings
) -> None:
    app = keymap.app
    schemes = " over ".join(keymap.stack.names)
    count = len({line.id for group in groups for line in group.lines})
    where = f", {mode}" if mode else ""
    around.say(
        f"{BOLD}{app.title} {app.version}{OFF}{where} {DIM}({schemes}; {count} commands){OFF}"
    )
    if not groups:
        around.say("No command has a key here.")
        return
    left = max(width_of(", ".join(line.texts)) for group in groups for line in group.lines)
    left = min(left, 26)
    for group in groups:
        around.say(f"\n{BOLD}{group.name}{OFF}")
        for line in group.lines:
            keys = ", ".join(line.texts) or "-"
            said = line.note or ("" if mode else line.where)
            note = f"  {DIM}{said}{OFF}" if said else ""
            folded = wrapped(keys, left)
            for n, part in enumerate(folded):
                title = line.title + note if n == 0 else ""
                around.say(f"  {part}{' ' * (left - width_of(part))}  {title}".rstrip())


def _as_json(keymap: Keymap, groups: list[SheetGroup], mode: str | None) -> dict[str, Any]:
    return {
        "app": keymap.app.name,
        "title": keymap.app.title,
        "version": keymap.app.version,
        "mode": mode,
        "groups": [
            {
                "name": group.name,
                "lines": [
                    {
                        "keys": [
                            {"key": each.text, "modes": list(each.modes)} for each in line.keys
                        ],
                        "title": line.title,
                        "command": line.id,
                        "where": line.where or None,
                        "does": line.does,
                        "bare": line.note or None,
                    }
                    for line in group.lines
                ],
            }
            for group in groups
        ],
    }
