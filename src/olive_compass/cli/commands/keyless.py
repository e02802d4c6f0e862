"""``keyless``: leaves a command without a key on purpose."""

import argparse

from olive_compass.cli import pick
from olive_compass.cli.changing import saying
from olive_compass.cli.changing.running import Work, change_options, execute, options_of
from olive_compass.cli.options import (
    ChangeOptions,
    app_argument,
    command_argument,
    modes_option,
    why_option,
)
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.modes import ROOT, joined
from olive_compass.core.changes.change import Change
from olive_compass.core.changes.keyless import Keyless, keyless
from olive_compass.core.changes.together import together
from olive_compass.core.changes.view import AppView
from olive_compass.core.wording import by_number
from olive_compass.desk.desk import Desk
from olive_compass.desk.views import app_view
from olive_compass.structs import replace

GROUP = "change"
ORDER = 40
SUMMARY = "Leave a command without a key on purpose, and record why"
EXAMPLES = """olive-compass keyless quillmap "Burn all plates" --why "a plate costs money: from the menu only\""""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    command_argument(
        parser,
        "commands",
        nargs="+",
        metavar="COMMAND",
        help="a command: its id, its title, its menu path, or a part that fits only one",
    )
    modes_option(parser)
    why_option(parser)
    change_options(parser)


class KeylessOptions(ChangeOptions, kw_only=True):
    """The options of ``keyless``."""

    app: str
    commands: list[str]
    mode: list[str] | None
    why: str


def run(args: KeylessOptions, context: Surroundings) -> int:
    return execute(options_of(args), context, lambda desk: _prepare(desk, context, args))


def _prepare(desk: Desk, context: Surroundings, args: KeylessOptions) -> Work:
    view = app_view(desk, desk.app_name(args.app))
    scheme = pick.scheme_to_write(desk, view.stack, args.scheme)
    commands = list(dict.fromkeys(pick.command(view.app, name, context) for name in args.commands))
    modes = pick.modes(view.app, args.mode)
    requests = [
        Keyless(command=command, scheme=scheme, why=args.why, modes=modes) for command in commands
    ]
    names = joined([command.title for command in commands], 4)
    verb = by_number(len(commands), "is", "are")
    where = ""
    if ROOT not in modes:
        where = f" {view.app.modes.phrase(view.app.modes.inside(modes))}"
    return Work(
        view=view,
        decide=lambda answers: together(
            view, [replace(r, answers=answers) for r in requests], keyless
        ),
        what=lambda _change: f"{view.app.title}: {names} {verb} keyless{where}",
        report=lambda change: _report(view, requests, change),
        why=args.why,
    )


def _report(view: AppView, requests: list[Keyless], change: Change) -> list[str]:
    lines = saying.plain_effects(view, change)
    for request in requests:
        command = request.command
        there = ""
        if ROOT not in request.modes:
            there = "there "
        subject = "it"
        if len(requests) > 1:
            subject = command.title
        if command.route:
            lines.append(f"You can still reach {subject} {there}from the menu {command.route}.")
        else:
            lines.append(f"Nothing reaches {subject} {there}now: no menu has it.")
    return lines
