"""``history``: what was changed on the desk, when, by whom and why."""

import argparse
import os
from collections.abc import Container
from itertools import islice

from olive_compass.cli import exit_status, pick
from olive_compass.cli.options import WriteOptions, limit_option, write_options
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.tables import print_table
from olive_compass.core.wording import counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.storage.records import Record
from olive_compass.errors import UserError

GROUP = "change"
ORDER = 100
SUMMARY = "List all changes, newest first, with their reasons"
EXAMPLES = """olive-compass history
olive-compass history --limit 100 --json
olive-compass history --prune 500 --dry-run"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    limit_option(parser, "show at most N changes (default: 20)", 20)
    parser.add_argument(
        "--prune",
        type=int,
        metavar="KEEP",
        help="keep the last KEEP changes and remove older ones, which can then no longer be undone",
    )
    parser.add_argument("--yes", action="store_true", help="remove them without asking")
    write_options(parser)


class HistoryOptions(WriteOptions, kw_only=True):
    """The options of ``history``."""

    limit: int
    prune: int | None
    yes: bool


def run(args: HistoryOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    if args.prune is not None:
        return _prune(args.prune, args.yes, args.dry_run, args.json, context, desk)
    records = list(islice(desk.history.records(), args.limit))
    undone = {record.undoes for record in records if record.undoes}
    if args.json:
        from olive_compass.desk.reported.history import record_report

        context.json({"changes": [record_report(record, undone) for record in records]})
        return exit_status.found(records)
    if not records:
        context.say("Nothing has been changed on this desk yet.")
        return 1
    _print(context, records, undone)
    older = len(desk.history.numbers()) - len(records)
    if older > 0:
        context.say(
            f"{len(records)} of {len(records) + older} changes; more: --limit {len(records) + older}"
        )
    return 0


def _print(context: Surroundings, records: list[Record], undone: set[int]) -> None:
    """The changes as a table. A name that would stand on each line is said once, below."""
    who = {record.who for record in records}
    rows = [_row(record, undone) for record in records]
    if len(who) == 1:
        rows = [(number, when, "", what, why) for number, when, _, what, why in rows]
    print_table(context, ("no.", "when", "who", "what", "why"), rows)
    if len(who) == 1:
        context.say(f"All of them by {who.pop()}.")


def _stretch(desk: Desk, numbers: list[int]) -> tuple[str, str]:
    """Which changes these are, from the first to the last, and when they were made."""
    first, last = numbers[0], numbers[-1]
    when = _when(desk.history.record(first).when)
    if first == last:
        return f"change {first}", when
    return f"changes {first} to {last}", f"{when} to {_when(desk.history.record(last).when)}"


def _prune(
    keep: int, sure: bool, dry_run: bool, as_json: bool, context: Surroundings, desk: Desk
) -> int:
    """Removes all changes but the last ``keep``, after a look at what goes."""
    if keep < 0:
        raise UserError(f"Give the number of changes to keep, not {keep}; nothing was changed.")
    numbers = desk.history.numbers()
    gone = []
    if keep < len(numbers):
        gone = numbers[: len(numbers) - keep]
    if not gone:
        if as_json:
            context.json({"changed": False, "dry-run": dry_run, "removed": [], "bytes": 0})
        context.report(f"Nothing to remove: the history has {counted(len(numbers), 'change')}.")
        return 0
    size = sum(os.path.getsize(desk.history.path_of(number)) for number in gone)
    which, when = _stretch(desk, gone)
    newer = len(numbers) - len(gone)
    stay = "none is left to undo"
    if newer:
        stay = f"{counted(newer, 'newer change')} can still be undone"
    if dry_run:
        context.say(f"Would remove {which} ({when}; {_size(size)}); {stay}.")
        context.say("Dry run: nothing was written.")
    else:
        _ask(f"This removes {which} ({when}; {_size(size)}); {stay}.", sure, context)
        desk.history.prune(gone)
        context.report(f"Removed {which} ({_size(size)}); {stay}.")
    if as_json:
        context.json({"changed": not dry_run, "dry-run": dry_run, "removed": gone, "bytes": size})
    return 0


def _ask(what: str, sure: bool, context: Surroundings) -> None:
    """Asks whether changes are to be removed, which nothing brings back."""
    if sure:
        return
    if not context.interactive:
        raise UserError(
            "This asks first; nothing was changed.",
            hint=f"{what} Use --yes to do it, or --dry-run to look.",
        )
    context.say(what)
    if context.ask("Remove them? They cannot be brought back. [y/N]").lower() not in ("y", "yes"):
        raise UserError("Nothing was changed.", status=1)


def _size(count: int) -> str:
    """A number of bytes as people say it."""
    if count >= 1_000_000:
        return f"{count / 1_000_000:.1f} MB"
    return f"{count / 1000:.0f} KB"


def _when(text: str) -> str:
    """A time of the history in the reader's own zone."""
    from datetime import datetime

    try:
        return datetime.fromisoformat(text).astimezone().strftime("%Y-%m-%d %H:%M")
    except ValueError:
        return text[:16].replace("T", " ")


def _row(record: Record, undone: Container[int]) -> tuple[str, str, str, str, str]:
    what = record.what
    if record.number in undone:
        what += " (undone)"
    return str(record.number), _when(record.when), record.who, what, record.why
