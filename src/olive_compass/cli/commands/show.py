"""``show``: what a colleague who knows only the factory or house keys meets here."""

import argparse
from typing import Any

from olive_compass.cli import pick, words
from olive_compass.cli.parsing import app_argument, json_option
from olive_compass.cli.surroundings import BOLD, OFF, Surroundings
from olive_compass.cli.tables import print_table
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.familiarity import LASTING, familiarity
from olive_compass.core.schemes.layers import FACTORY, HOUSE

GROUP = "look"
ORDER = 40
SUMMARY = "Show what a visitor who knows only the factory or house keys would press wrongly"
EXAMPLES = """olive-compass show quillmap --visitor
olive-compass show quillmap --visitor --knows house"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument("--visitor", action="store_true", help="for a visitor (the default)")
    parser.add_argument(
        "--knows",
        choices=(FACTORY, HOUSE),
        default=FACTORY,
        help="what the visitor knows (factory)",
    )
    json_option(parser)


def run(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    stack = at.stack(at.app_name(args.app))
    known = stack._replace(
        schemes=tuple(
            scheme for scheme in stack.schemes if args.knows == HOUSE and scheme.layer == HOUSE
        )
    )
    keymap = Keymap(stack, at.keyboard)
    found = familiarity(stack, known, keymap)
    rows: list[dict[str, Any]] = [
        {
            "key": str(each.trigger),
            "where": stack.app.modes.phrase(each.modes),
            "expects": words.title(keymap, each.expected),
            "gets": words.meaning(keymap, each.does) or None,
            "lasting": each.weight == LASTING,
        }
        for each in found.surprises
    ]
    if args.json:
        around.json(
            {
                "app": stack.app.name,
                "knows": args.knows,
                "familiarity": round(found.figure, 4),
                "surprises": rows,
            }
        )
        return 0
    around.say(
        f"{BOLD}{stack.app.title}{OFF} for a visitor who knows the {args.knows} keys: "
        f"{found.figure:.1%} as expected, {len(rows)} surprises."
    )
    if rows:
        print_table(
            around,
            ("key", "where", "the visitor expects", "and gets"),
            [
                (
                    row["key"],
                    row["where"],
                    row["expects"],
                    (row["gets"] or "nothing") + (" (it lasts)" if row["lasting"] else ""),
                )
                for row in rows
            ],
        )
    return 0
