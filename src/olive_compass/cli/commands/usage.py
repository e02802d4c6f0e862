"""``usage``: what was done, counted: most, by menu though a key is there, never, slips, week by week."""

import argparse

from olive_compass.cli.looking.tallies import since_and_seat
from olive_compass.cli.options import (
    app_argument,
    json_option,
    limit_option,
    seconds,
    write_options,
)
from olive_compass.cli.output.new_file import picture_options
from olive_compass.cli.pairs import column_option
from olive_compass.cli.verbs import Verb

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

DEFAULT_VERB = "show"


def _take(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "files", nargs="+", metavar="FILE", help="logs to count, or folders of them"
    )
    parser.add_argument("--app", metavar="APP", help="the application whose logs they are")
    parser.add_argument("--seat", default="", metavar="NAME", help="the person whose logs they are")
    parser.add_argument(
        "--cluster",
        metavar="ADDRESS",
        help="count folders of whole logs on a cluster (here: on this machine's cores)",
    )
    parser.add_argument(
        "--cluster-timeout",
        type=seconds,
        default=8.0,
        metavar="SECONDS",
        help="give up if the cluster does not answer for so long (default: 8)",
    )
    parser.add_argument(
        "--dates",
        choices=("day-first", "month-first"),
        help="how to read 03/04/2026 if no date of a log shows it",
    )
    column_option(
        parser, "command, time, app, mode, how, key or outcome, and times a week in a plain list"
    )
    write_options(parser)


def _show(parser: argparse.ArgumentParser) -> None:
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
    limit_option(parser, "show at most N lines")
    picture_options(parser, "chart")
    json_option(parser)


VERBS = (
    Verb(
        name="show",
        help="show what was counted",
        options=_show,
        work="usage.showing.show",
        retries=False,
    ),
    Verb(name="take", help="count logs, each only once", options=_take, work="usage.taking.take"),
)
