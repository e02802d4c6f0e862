"""``worklist``: the changes to make by hand, in an order that the application's rules allow."""

import argparse
from typing import TYPE_CHECKING

from olive_compass.cli.options import app_argument, json_option, keys_as_option, reading_options
from olive_compass.cli.output.papers import paper_options, table_options
from olive_compass.cli.verbs import Verb

if TYPE_CHECKING:
    pass

GROUP = "application"
ORDER = 20
SUMMARY = "List the changes to make by hand, in an order that works"
EXAMPLES = """olive-compass worklist foldpress
olive-compass worklist foldpress --as markdown > foldpress.md
olive-compass worklist quillmap --as pdf --out quillmap-changes.pdf
olive-compass worklist foldpress --from listings/foldpress-now.csv
olive-compass worklist verify foldpress --from listings/foldpress-now.csv"""


DEFAULT_VERB = "show"


def _show_options(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument(
        "--from",
        dest="listing",
        metavar="FILE",
        help="the application's list now (default: the factory keys)",
    )
    table_options(parser)
    _both_options(parser)
    paper_options(parser, "a4")


def _verify_options(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument(
        "--from", dest="listing", required=True, metavar="FILE", help="the application's list now"
    )
    _both_options(parser)


def _both_options(parser: argparse.ArgumentParser) -> None:
    keys_as_option(parser)
    reading_options(parser, keeps=False)
    json_option(parser)


VERBS = (
    Verb(
        name="show",
        help="list the changes to make",
        options=_show_options,
        work="looking.worklists.show",
        retries=False,
    ),
    Verb(
        name="verify",
        help="show what is not yet changed, by the application's own list",
        options=_verify_options,
        work="looking.worklists.verify",
        retries=False,
    ),
)
