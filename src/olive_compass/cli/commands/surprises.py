"""``surprises``: the keys that would surprise somebody who is used to others."""

import argparse

from olive_compass.cli import pick
from olive_compass.cli.looking.surprises import guest_card, show_surprises
from olive_compass.cli.options import PaperOptions, app_argument, json_option
from olive_compass.cli.output.papers import paper_options, table_options, wanted
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.schemes.layers import FACTORY
from olive_compass.desk.comparing import stack_down_from

GROUP = "look, check"
ORDER = 20
SUMMARY = "List keys that would surprise someone used to other keys"
EXAMPLES = """olive-compass surprises quillmap
olive-compass surprises quillmap --knows house
olive-compass surprises quillmap --at factory
olive-compass surprises quillmap --as pdf --out guest.pdf"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    sides = parser.add_mutually_exclusive_group()
    sides.add_argument(
        "--knows",
        metavar="SCHEME",
        default=FACTORY,
        help="somebody at your keys who knows this scheme (default: factory)",
    )
    sides.add_argument(
        "--at", dest="there", metavar="SCHEME", help="you at a computer that has only this scheme"
    )
    table_options(parser)
    json_option(parser)
    paper_options(parser, "a6, landscape")


class SurprisesOptions(PaperOptions, kw_only=True):
    """The options of ``surprises``."""

    app: str
    knows: str
    there: str | None
    json: bool


def run(args: SurprisesOptions, context: Surroundings) -> int:
    asked = wanted(args, context, json=args.json)
    desk = pick.desk(args, context)
    stack = desk.stack(desk.app_name(args.app))
    if args.there:
        known, stack = stack, stack_down_from(desk, stack.app.name, args.there)
        knows = f"your keys ({' over '.join(known.names)})"
    else:
        known = stack_down_from(desk, stack.app.name, args.knows)
        knows = f"the {args.knows} keys"
    if asked.form != "text":
        return guest_card(asked, context, desk, stack, known, knows)
    return show_surprises(context, desk, stack, known, knows, args.json)
