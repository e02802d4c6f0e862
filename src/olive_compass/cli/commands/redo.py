"""``redo``: does again what ``undo`` took back."""

import argparse
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.parsing import dry_run_option
from olive_compass.cli.saving import save, until_saved
from olive_compass.cli.surroundings import Surroundings

GROUP = "assign"
ORDER = 62
SUMMARY = "Do again what undo took back last, or the last N"
EXAMPLES = """olive-compass redo
olive-compass redo 2"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "steps", type=int, nargs="?", default=1, metavar="N", help="how many changes"
    )
    dry_run_option(parser)


def run(args: Any, around: Surroundings) -> int:
    status = 0
    for _ in range(max(args.steps, 0)):
        status = until_saved(lambda: _redo(args, around))
        if status or args.dry_run:
            break
    return status


def _redo(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    record = at.history.to_redo()
    if record is None:
        around.say("There is nothing to redo.")
        return 1
    changes = at.history.undo_changes(record)
    what = record.what.partition(": ")[2]
    if args.dry_run:
        around.say(f"Would do again {record.undoes}: {what}. Nothing was written.")
        return 0
    save(at, around, changes, f"did again {record.undoes}: {what}", undoes=record.number)
    around.report(f"Did again {record.undoes}: {what}.")
    return 0
