"""``undo``: takes back the last change, or several."""

import argparse

from olive_compass.cli import pick
from olive_compass.cli.changing.stepping import (
    StepOptions,
    Stepping,
    add_step_arguments,
    skip_option,
    take_steps,
)
from olive_compass.cli.surroundings import Surroundings
from olive_compass.desk.storage.history import History
from olive_compass.desk.storage.records import Record
from olive_compass.errors import UserError

GROUP = "first steps"
ORDER = 100
SUMMARY = "Undo the last change"
EXAMPLES = """olive-compass undo
olive-compass undo 3
olive-compass undo --session --dry-run
olive-compass undo --dry-run
olive-compass undo --skip"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    add_step_arguments(parser)
    skip_option(parser)
    parser.add_argument(
        "--session",
        action="store_true",
        help="undo everything that the last assign --one-by-one decided",
    )


class UndoOptions(StepOptions, kw_only=True):
    """The options of ``undo``."""

    session: bool


def run(args: UndoOptions, context: Surroundings) -> int:
    if args.session:
        args.steps = _of_session(args, context)
    return take_steps(
        args,
        context,
        Stepping(find=History.to_undo, verb="undo", deed="undid change", told=_told, back="redo"),
    )


def _of_session(args: UndoOptions, context: Surroundings) -> int:
    """How many changes of the last sitting are the newest ones. Raises ``UserError`` where there is none."""
    from olive_compass.desk.storage import sitting

    desk = pick.desk(args, context)
    changes = set(sitting.read(desk).changes)
    count = 0
    for record in desk.history.undoable():
        if record.number not in changes:
            break
        count += 1
    if not count:
        raise UserError(
            "No change of the last session is the newest one.",
            hint="See them: olive-compass history",
            status=1,
        )
    return count


def _told(record: Record) -> str:
    return f"{record.number}: {record.what}"
