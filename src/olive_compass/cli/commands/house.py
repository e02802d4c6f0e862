"""``house``: the studio's own keys, from a folder or a git repository."""

import argparse
from collections.abc import Callable
from typing import Any

from olive_compass.cli.changing.saving import retry_on_conflict
from olive_compass.cli.options import dry_run_option, json_option, yes_option
from olive_compass.cli.registry import typed
from olive_compass.cli.surroundings import Surroundings

GROUP = "share"
ORDER = 40
SUMMARY = "Get the studio's shared scheme from a folder or git repository"
EXAMPLES = """olive-compass house from elsewhere/studio
olive-compass house pull --dry-run
olive-compass house pull --yes
olive-compass house show
olive-compass house off"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    verbs = parser.add_subparsers(dest="verb", metavar="from|pull|show|off", required=True)
    source = verbs.add_parser("from", help="set where the house's keys come from")
    source.add_argument(
        "source", metavar="FOLDER-OR-REPOSITORY", help="a desk's folder, or what git clones"
    )
    dry_run_option(source)
    json_option(source)
    pull = verbs.add_parser("pull", help="show what changed there, and take it over")
    yes_option(pull)
    pull.add_argument(
        "--rename",
        action="append",
        default=[],
        metavar="APP/NAME=NEW",
        help="save a scheme of the house under another name",
    )
    dry_run_option(pull)
    json_option(pull)
    json_option(verbs.add_parser("show", help="show where they come from, and since when"))
    off = verbs.add_parser("off", help="remove the source")
    dry_run_option(off)
    json_option(off)


def run(args: argparse.Namespace, context: Surroundings) -> int:
    from olive_compass.cli.sharing import housekeeping, pulling

    verbs: dict[str, Callable[[Any, Surroundings], int]] = {
        "from": housekeeping.house_from,
        "pull": pulling.pull,
        "show": housekeeping.show_house,
        "off": housekeeping.house_off,
    }
    work = typed(verbs[args.verb])
    return retry_on_conflict(lambda: work(args, context))
