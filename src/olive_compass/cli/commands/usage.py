"""``usage``: what was done, counted: most, by menu though a key is there, never, slips, week by week."""

import argparse

from olive_compass.cli.changing.saving import retry_on_conflict
from olive_compass.cli.looking.tallies import since_and_seat
from olive_compass.cli.options import app_argument, dry_run_option, json_option, seconds
from olive_compass.cli.output.new_file import picture_options
from olive_compass.cli.pairs import column_option
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
    since_and_seat(parser)
    parser.add_argument("--limit", type=int, metavar="N", help="show at most N lines")
    picture_options(parser, "chart")
    json_option(parser)


def run(args: argparse.Namespace, context: Surroundings) -> int:
    if args.verb == "take":
        take = verb("usage.taking", "take")
        return retry_on_conflict(lambda: take(args, context), context)
    return verb("usage.showing", "show")(args, context)
