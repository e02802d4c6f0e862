"""``redo``: does again what ``undo`` took back."""

import argparse

from olive_compass.cli.changing.stepping import (
    StepOptions,
    Stepping,
    add_step_arguments,
    take_steps,
)
from olive_compass.cli.surroundings import Surroundings
from olive_compass.desk.storage.history import History
from olive_compass.desk.storage.records import Record

GROUP = "change"
ORDER = 90
SUMMARY = "Redo what you have undone"
EXAMPLES = """olive-compass redo
olive-compass redo 2"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    add_step_arguments(parser)


def run(args: StepOptions, context: Surroundings) -> int:
    return take_steps(
        args,
        context,
        Stepping(find=History.to_redo, verb="redo", deed="redid change", told=_told, back="undo"),
    )


def _told(record: Record) -> str:
    return f"{record.undoes}: {record.what.partition(': ')[2]}"
