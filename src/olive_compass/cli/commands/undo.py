"""``undo``: takes back the last change, or several."""

import argparse
from typing import Any

from olive_compass.cli.stepping import Stepping, add_step_arguments, skip_option, take_steps
from olive_compass.cli.surroundings import Surroundings
from olive_compass.desk.history import History
from olive_compass.desk.records import Record

GROUP = "first steps"
ORDER = 100
SUMMARY = "Undo the last change"
EXAMPLES = """olive-compass undo
olive-compass undo 3
olive-compass undo --dry-run
olive-compass undo --skip"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    add_step_arguments(parser)
    skip_option(parser)


def run(args: Any, around: Surroundings) -> int:
    return take_steps(
        args, around, Stepping(History.to_undo, "undo", "undid change", _told, "redo")
    )


def _told(record: Record) -> str:
    return f"{record.number}: {record.what}"
