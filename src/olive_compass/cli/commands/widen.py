"""``widen``: lets the keys of a command count in more modes, without typing them again."""

import argparse
from typing import Any

from olive_compass.cli.mode_change import add_mode_arguments, change_modes
from olive_compass.cli.surroundings import Surroundings

GROUP = "assign"
ORDER = 53
SUMMARY = "Let the keys of a command count in more modes"
EXAMPLES = """olive-compass widen quillmap "Check closure" --mode label"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    add_mode_arguments(parser)


def run(args: Any, around: Surroundings) -> int:
    return change_modes(args, around, wider=True)
