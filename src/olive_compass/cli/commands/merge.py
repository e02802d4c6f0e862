"""``merge``: three versions of a file or a desk become one, decision by decision."""

import argparse

from olive_compass.cli.changing.saving import retry_on_conflict
from olive_compass.cli.options import despite_guard_option, typed, write_options
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.sharing.merging import ANSWERS

GROUP = "share"
ORDER = 30
SUMMARY = "Merge two people's versions of a file or a desk"
EXAMPLES = """olive-compass merge elsewhere/merge/before.toml elsewhere/merge/ours.toml elsewhere/merge/theirs.toml --out merged.toml
olive-compass merge --unsettled --if-taken replace"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    for name, does in (
        ("base", "the common ancestor"),
        ("ours", "our version"),
        ("theirs", "their version"),
    ):
        parser.add_argument(name, nargs="?", metavar=name.upper(), help=does)
    parser.add_argument(
        "--if-taken",
        choices=ANSWERS,
        help="what to do if both changed it: replace takes theirs, keep takes ours, house takes theirs in what belongs to the house",
    )
    parser.add_argument(
        "-o",
        "--out",
        metavar="FILE",
        help="write the merged file or desk there; must not exist yet",
    )
    parser.add_argument(
        "--unsettled", action="store_true", help="resolve what git left unmerged on this desk"
    )
    parser.add_argument(
        "--driver",
        nargs=4,
        default=[],
        metavar=("BASE", "OURS", "THEIRS", "PATH"),
        help="for git: the four files of a merge driver",
    )
    despite_guard_option(parser)
    write_options(parser)


def run(args: argparse.Namespace, context: Surroundings) -> int:
    from olive_compass.cli.sharing import merging

    if args.driver:
        return typed(merging.driver)(args, context)
    if args.unsettled:
        return typed(merging.unsettled)(args, context)
    return retry_on_conflict(lambda: typed(merging.merge)(args, context))
