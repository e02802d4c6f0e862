"""``NAME=VALUE``: words of a command line that give names their values."""

import argparse

from olive_compass.errors import UserError


def pairs(given: list[str], what: str) -> dict[str, str]:
    """``NAME=VALUE`` words as a table; raises ``UserError``."""
    found = {}
    for each in given:
        name, sign, value = each.partition("=")
        if not sign or not name:
            raise UserError(f"“{each}” is not {what}=VALUE.")
        found[name.strip()] = value.strip()
    return found


def column_option(parser: argparse.ArgumentParser, fields: str) -> None:
    """``--column``: which column of a table holds which of these fields."""
    parser.add_argument(
        "--column",
        dest="columns",
        action="append",
        default=[],
        metavar="FIELD=HEADING",
        help=f"which column holds {fields}",
    )
