"""The figures of the keystroke-level model: the published ones, the desk's, and those of a command."""

import argparse
from typing import Any

from olive_compass.core.worth.model import DEFAULT, LETTERS, Times, changed
from olive_compass.desk.desk import Desk
from olive_compass.errors import Refused


def model_option(parser: argparse.ArgumentParser) -> None:
    """The option that sets figures for this once."""
    parser.add_argument(
        "--model",
        action="append",
        default=[],
        metavar="LETTER=SECONDS",
        help="another figure of the keystroke-level model: K, P, B, H, M, or L (learning a key)",
    )


def times_of(args: Any, at: Desk) -> Times:
    """The model as this command is to use it. Raises ``Refused``."""
    given = dict(at.settings.model)
    for each in args.model:
        letter, sign, seconds = each.partition("=")
        letter = letter.strip().upper()
        try:
            if not sign or letter not in LETTERS:
                raise ValueError
            given[letter] = float(seconds)
        except ValueError as error:
            raise Refused(
                f"“{each}” is no figure of the model.",
                hint=f"Write LETTER=SECONDS, such as K=0.2; there are {', '.join(LETTERS)}.",
            ) from error
    try:
        return changed(DEFAULT, given)
    except (ValueError, KeyError) as error:
        raise Refused(f"The model cannot be so: {error}.") from error
