"""``usage``: what was done, counted: most, by menu though a key is there, never, slips, week by week."""

import argparse
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.changing.saving import retry_on_conflict
from olive_compass.cli.output.new_file import into_of, picture_options
from olive_compass.cli.pairs import column_option
from olive_compass.cli.parsing import app_argument, dry_run_option, json_option, seconds
from olive_compass.cli.registry import verb
from olive_compass.cli.surroundings import Surroundings

GROUP = "save time"
ORDER = 10
SUMMARY = "Count what you use: most, by menu, never, or by mistake"
EXAMPLES = """olive-compass usage take logs/*.jsonl
olive-compass usage quillmap
olive-compass usage quillmap --by-menu
olive-compass usage quillmap --without-key
olive-compass usage quillmap --never
olive-compass usage quillmap --slips
olive-compass usage --trend"""

#: What can be asked for, beside what is used most.
VIEWS = ("by_menu", "no_key", "never", "slips", "trend")


DEFAULT_VERB = "show"


def add_arguments(parser: argparse.ArgumentParser) -> None:
    verbs = parser.add_subparsers(dest="verb", metavar="show|take", required=True)
    show_arguments(verbs.add_parser("show", help="show what was counted"))
    take = verbs.add_parser("take", help="count logs, each only once")
    take.add_argument("files", nargs="+", metavar="FILE", help="logs to count, or folders of them")
    take.add_argument("--app", metavar="APP", help="the application whose logs they are")
    take.add_argument("--seat", default="", metavar="NAME", help="the person whose logs they are")
    take.add_argument(
        "--cluster",
        metavar="ADDRESS",
        help="count folders of whole logs on a cluster (here: on this machine's cores)",
    )
    take.add_argument(
        "--cluster-timeout",
        type=seconds,
        default=8.0,
        metavar="SECONDS",
        help="give up if the cluster does not answer for so long (default: 8)",
    )
    take.add_argument(
        "--dates",
        choices=("day-first", "month-first"),
        help="how to read 03/04/2026 if no date of a log shows it",
    )
    column_option(
        take, "command, time, app, mode, how, key or outcome, and times a week in a plain list"
    )
    dry_run_option(take)
    json_option(take)


def show_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser, optional=True)
    what = parser.add_mutually_exclusive_group()
    what.add_argument(
        "--by-menu",
        action="store_true",
        help="only commands started by menu although they have a key",
    )
    what.add_argument(
        "--without-key",
        dest="no_key",
        action="store_true",
        help="only commands that are used and have no key",
    )
    what.add_argument("--never", action="store_true", help="only keys that nobody pressed")
    what.add_argument("--slips", action="store_true", help="only presses that were undone at once")
    what.add_argument(
        "--trend", action="store_true", help="show week by week how commands were started"
    )
    parser.add_argument(
        "--since", default="", metavar="DAY", help="only from this day on: 2026-10-01"
    )
    parser.add_argument("--seat", default="", metavar="NAME", help="show this person's counts only")
    parser.add_argument("--limit", type=int, metavar="N", help="show at most N lines")
    picture_options(parser, "chart")
    json_option(parser)


def run(args: Any, context: Surroundings) -> int:
    if args.verb == "take":
        take = vars_of("taking", "take")
        return retry_on_conflict(lambda: int(take(args, context, args.files)), context)
    desk = pick.desk(args, context)
    app = desk.app_name(args.app) if args.app else ""
    into = into_of(args)
    if into.form != "text" or into.out:
        return int(vars_of("charting", "chart")(args, context, desk, app))
    return int(vars_of("showing", "show")(args, context, desk, app))


def vars_of(module: str, function: str) -> Any:
    """A function that is loaded only now."""
    return verb(f"usage.{module}", function)
