"""``export``: the keys of an application for other programs, in any text form."""

import argparse

from olive_compass.cli.options import app_argument, keys_as_option, typed
from olive_compass.cli.surroundings import Surroundings

GROUP = "application"
ORDER = 50
SUMMARY = "Export keys as CSV, JSON, TOML, HTML or with a template"
EXAMPLES = """olive-compass export quillmap --as csv > quillmap.csv
olive-compass export quillmap --scheme mine --as json > mine.json
olive-compass export quillmap --as html --keys-as mac > quillmap.html
olive-compass export quillmap --template lines
olive-compass export quillmap --template xml --show-template > my-form.txt
olive-compass export quillmap --template lines --keys-as aria"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument(
        "--scheme", metavar="SCHEME", help="the decisions of one scheme (default: all active keys)"
    )
    form = parser.add_mutually_exclusive_group()
    form.add_argument(
        "--as",
        dest="form",
        choices=("csv", "json", "toml", "html"),
        default="csv",
        help="the output form (default: csv)",
    )
    form.add_argument(
        "--template", metavar="FILE", help="a Jinja2 template, or lines, xml or json to start from"
    )
    form.add_argument(
        "--json", action="store_const", const="json", dest="form", help="the same as --as json"
    )
    parser.add_argument(
        "--show-template", action="store_true", help="print the template, so that you can change it"
    )
    keys_as_option(parser)


def run(args: argparse.Namespace, context: Surroundings) -> int:
    from olive_compass.cli.sharing.exporting import export

    return typed(export)(args, context)
