"""``bare``: leaves a command without a key on purpose."""

import argparse
from typing import Any

from olive_compass.cli import pick, words
from olive_compass.cli.parsing import app_argument, change_options, command_argument, scheme_option
from olive_compass.cli.saving import save_edit, until_saved
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.modes import joined
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.editing import make_bare
from olive_compass.core.schemes.holdings import live_triggers

GROUP = "assign"
ORDER = 30
SUMMARY = "Leave a command without a key on purpose, with the reason"
EXAMPLES = """olive-compass bare quillmap "Burn all plates" --why "a plate costs money: from the menu only\""""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    command_argument(parser, "command", metavar="COMMAND", help="id, title, menu path or fragment")
    parser.add_argument("--why", required=True, metavar="TEXT", help="the reason")
    scheme_option(parser)
    change_options(parser)


def run(args: Any, around: Surroundings) -> int:
    return until_saved(lambda: _bare(args, around))


def _bare(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    stack = at.stack(at.app_name(args.app))
    scheme = pick.scheme_to_write(at, stack, args.scheme)
    command = pick.command(stack.app, args.command, around)
    args.command = command.id
    after = make_bare(scheme, command.id, args.why)
    old = Keymap(stack, at.keyboard)
    new = Keymap(stack.with_scheme(after), at.keyboard)
    report = words.shifts(old, new, live_triggers(old, command.id))
    rest = f"the menu {command.route}" if command.route else "nothing else: no menu has it"
    report.append(f"What is left to reach it: {rest}.")
    if still := live_triggers(new, command.id):
        report.append(f"A nearer layer still gives it {joined(map(str, still))}.")
    what = f"{stack.app.title}: {command.title} is bare"
    return save_edit(args, around, at, scheme, after, what, report, args.why)
