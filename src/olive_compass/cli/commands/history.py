"""``history``: what was changed on the desk, when, by whom and why."""

import argparse
from itertools import islice
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.parsing import json_option
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.tables import print_table

GROUP = "change"
ORDER = 100
SUMMARY = "List all changes, newest first, with their reasons"
EXAMPLES = """olive-compass history
olive-compass history --limit 100 --json"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "--limit", type=int, default=20, metavar="N", help="show at most N changes (default: 20)"
    )
    json_option(parser)


def run(args: Any, context: Surroundings) -> int:
    at = pick.desk(args, context)
    records = list(islice(at.history.records(), args.limit))
    undone = {record.undoes for record in records if record.undoes}
    if args.json:
        context.json(
            {
                "changes": [
                    {
                        "number": r.number,
                        "when": r.when,
                        "who": r.who,
                        "what": r.what,
                        "why": r.why,
                        "command": r.command,
                        "files": [file.path for file in r.files],
                        "undoes": r.undoes or None,
                        "undone": r.number in undone,
                    }
                    for r in records
                ]
            }
        )
        return 0 if records else 1
    if not records:
        context.say("Nothing has been changed on this desk yet.")
        return 1
    who = {record.who for record in records}
    rows = [
        (
            str(record.number),
            _when(record.when),
            # A column that says the same name on each line is said once, below.
            record.who if len(who) > 1 else "",
            record.what + (" (taken back)" if record.number in undone else ""),
            record.why,
        )
        for record in records
    ]
    print_table(context, ("no.", "when", "who", "what", "why"), rows)
    if len(who) == 1:
        context.say(f"All of them by {who.pop()}.")
    older = len(at.history.numbers()) - len(records)
    if older > 0:
        context.say(
            f"{len(records)} of {len(records) + older} changes; more: --limit {len(records) + older}"
        )
    return 0


def _when(text: str) -> str:
    """A time of the history in the reader's own zone."""
    from datetime import datetime

    try:
        return datetime.fromisoformat(text).astimezone().strftime("%Y-%m-%d %H:%M")
    except ValueError:
        return text[:16].replace("T", " ")
