"""``help``: the commands, or all about one of them."""

import argparse
from typing import Any

from olive_compass.cli.surroundings import Surroundings

GROUP = "start"
ORDER = 5
SUMMARY = "List the commands, or show all about one of them"
EXAMPLES = """olive-compass help
olive-compass help assign"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("command", nargs="*", metavar="COMMAND", help="a command, and its verb")


def run(args: Any, around: Surroundings) -> int:
    from olive_compass.cli.main import main
    from olive_compass.cli.registry import overview

    if not args.command:
        around.say(overview())
        return 0
    return main([*args.command, "--help"], around)
