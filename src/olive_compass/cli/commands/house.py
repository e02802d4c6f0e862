"""``house``: the studio's own keys, from a folder or a git repository."""

import argparse

from olive_compass.cli.options import json_option, write_options, yes_option
from olive_compass.cli.verbs import Verb

GROUP = "share"
ORDER = 40
SUMMARY = "Get the studio's shared scheme from a folder or git repository"
EXAMPLES = """olive-compass house from elsewhere/studio
olive-compass house pull --dry-run
olive-compass house pull --yes
olive-compass house show
olive-compass house off"""


def _from(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "source", metavar="FOLDER-OR-REPOSITORY", help="a desk's folder, or what git clones"
    )
    write_options(parser)


def _pull(parser: argparse.ArgumentParser) -> None:
    yes_option(parser)
    parser.add_argument(
        "--rename",
        action="append",
        default=[],
        metavar="APP/NAME=NEW",
        help="save a scheme of the house under another name",
    )
    write_options(parser)


VERBS = (
    Verb(
        name="from",
        help="set where the house's keys come from",
        options=_from,
        work="sharing.housekeeping.house_from",
    ),
    Verb(
        name="pull",
        help="show what changed there, and take it over",
        options=_pull,
        work="sharing.pulling.pull",
    ),
    Verb(
        name="show",
        help="show where they come from, and since when",
        options=json_option,
        work="sharing.housekeeping.show_house",
    ),
    Verb(
        name="off",
        help="remove the source",
        options=write_options,
        work="sharing.housekeeping.house_off",
    ),
)
