"""``narrow``: lets the keys of a command count in fewer modes, without typing them again."""

import argparse
from typing import Any

from olive_compass.cli.mode_change import add_mode_arguments, change_modes
from olive_compass.cli.surroundings import Surroundings

GROUP = "assign"
ORDER = 52
SUMMARY = "Let the keys of a command count in fewer modes"
EXAMPLES = """olive-compass narrow quillmap "Check closure" --mode canvas --scheme house"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    add_mode_arguments(parser)


def run(args: Any, around: Surroundings) -> int:
    return change_modes(args, around, wider=False)
