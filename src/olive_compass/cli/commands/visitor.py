"""``visitor``: what a colleague who knows other keys meets here."""

import argparse
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.papers import paper_options, table_options, wanted
from olive_compass.cli.parsing import app_argument, json_option
from olive_compass.cli.sharing.sides import stack_down_from
from olive_compass.cli.surprises import guest_card, show_surprises
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.schemes.layers import FACTORY

GROUP = "look"
ORDER = 40
SUMMARY = "Show what one who knows only the factory keys, or a scheme, would press wrongly"
EXAMPLES = """olive-compass visitor quillmap
olive-compass visitor quillmap --knows house
olive-compass visitor quillmap --as pdf --out guest.pdf"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument(
        "--knows",
        metavar="SCHEME",
        default=FACTORY,
        help="what the visitor knows: a scheme, with all that lies below it (factory)",
    )
    table_options(parser)
    json_option(parser)
    paper_options(parser, "a6, lying")


def run(args: Any, around: Surroundings) -> int:
    asked = wanted(args, around)
    at = pick.desk(args, around)
    stack = at.stack(at.app_name(args.app))
    known = stack_down_from(at, stack.app.name, args.knows)
    knows = f"the {args.knows} keys"
    if asked.form != "text":
        return guest_card(asked, around, at, stack, known, knows)
    return show_surprises(around, at, stack, known, knows, args.json)
