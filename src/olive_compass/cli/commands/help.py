"""``help``: the commands, or all about one of them."""

import argparse

from olive_compass.cli.options import Common
from olive_compass.cli.surroundings import Surroundings

GROUP = "help"
ORDER = 10
SUMMARY = "List the commands, or show the help of one"
EXAMPLES = """olive-compass help
olive-compass help assign
olive-compass help --all
olive-compass help options"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    from olive_compass.cli.completion import complete_with
    from olive_compass.cli.registry import command_names

    argument = parser.add_argument(
        "command",
        nargs="*",
        metavar="COMMAND",
        help="a command, or a command and its verb; options: the options of every command",
    )
    complete_with(argument, lambda *_, **__: [*command_names(), "options"])
    parser.add_argument("--all", action="store_true", help="list every command with its summary")


class HelpOptions(Common, kw_only=True):
    """The options of ``help``."""

    command: list[str]
    all: bool


def run(args: HelpOptions, context: Surroundings) -> int:
    from olive_compass.cli.main import main
    from olive_compass.cli.parsing import common_options
    from olive_compass.cli.registry import every_command, overview

    if args.all or not args.command:
        context.say(every_command() if args.all else overview())
        return 0
    if args.command == ["options"]:
        context.say(common_options())
        return 0
    return main([*args.command, "--help"], context)
