"""``undo``: takes back the last change, or several."""

import argparse
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.parsing import dry_run_option
from olive_compass.cli.saving import save, until_saved
from olive_compass.cli.surroundings import Surroundings

GROUP = "assign"
ORDER = 60
SUMMARY = "Take back the last change of the desk, or the last N"
EXAMPLES = """olive-compass undo
olive-compass undo 3
olive-compass undo --dry-run"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "steps", type=int, nargs="?", default=1, metavar="N", help="how many changes"
    )
    dry_run_option(parser)


def run(args: Any, around: Surroundings) -> int:
    status = 0
    for _ in range(max(args.steps, 0)):
        status = until_saved(lambda: _undo(args, around))
        if status or args.dry_run:
            break
    return status


def _undo(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    record = at.history.to_undo()
    if record is None:
        around.say("There is nothing to undo.")
        return 1
    changes = at.history.undo_changes(record)
    files = ", ".join(change.path for change in changes)
    if args.dry_run:
        around.say(
            f"Would take back {record.number}: {record.what} ({files}). Nothing was written."
        )
        return 0
    save(at, around, changes, f"took back {record.number}: {record.what}", undoes=record.number)
    around.report(f"Took back {record.number}: {record.what} ({files}).")
    return 0
