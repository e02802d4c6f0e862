"""``explain``: what a finding of ``check`` means and what to do about it."""

import argparse
from typing import Any

from olive_compass.cli.options import Common, json_option
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.action_lines import general_advice
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.cli.terminal.tables import print_table
from olive_compass.core.findings import kinds
from olive_compass.errors import UserError

GROUP = "look, check"
ORDER = 70
SUMMARY = "Explain what a finding means, or list all kinds of finding"
EXAMPLES = """olive-compass explain same-press
olive-compass explain"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "id",
        nargs="?",
        metavar="FINDING",
        help="a kind of finding, such as lost-last-key (default: list them)",
    )
    json_option(parser)


class ExplainOptions(Common, kw_only=True):
    """The options of ``explain``."""

    id: str | None
    json: bool


def run(args: ExplainOptions, context: Surroundings) -> int:
    modules: dict[str, Any] = dict(kinds())
    if args.id and args.id not in modules:
        raise UserError(
            f"There is no finding “{args.id}”.", hint=f"There are {', '.join(modules)}."
        )
    if args.id:
        wanted = [args.id]
    else:
        wanted = sorted(modules)
    if args.json:
        context.json(
            {
                "findings": [
                    {
                        "id": id_,
                        "severity": modules[id_].SEVERITY,
                        "says": modules[id_].SAYS,
                        "advice": general_advice(modules[id_]),
                    }
                    for id_ in wanted
                ]
            }
        )
    elif args.id:
        module = modules[args.id]
        context.say(
            f"{BOLD}{module.ID}{OFF} ({module.SEVERITY})\n{module.SAYS}\n{general_advice(module)}"
        )
    else:
        rows = [(id_, modules[id_].SEVERITY, modules[id_].SAYS) for id_ in wanted]
        print_table(context, ("id", "severity", "what it means"), rows)
    return 0
