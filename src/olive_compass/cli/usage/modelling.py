"""The figures of the keystroke-level model: the published ones, the desk's, and those of a command."""

import argparse

from olive_compass.cli.looking.tallies import nothing_counted, usage_of_all
from olive_compass.core.answers.savings import SavingsAnswer, savings_of
from olive_compass.core.savings.model import DEFAULT, LETTERS, Times, changed
from olive_compass.desk.desk import Desk
from olive_compass.desk.views import app_view
from olive_compass.errors import UserError


def model_option(parser: argparse.ArgumentParser) -> None:
    """The option that sets figures for this once."""
    parser.add_argument(
        "--model",
        action="append",
        default=[],
        metavar="LETTER=SECONDS",
        help="another value for the keystroke-level model: K, P, B, H, M, or L (learning a key)",
    )


def times_of(figures: list[str], desk: Desk) -> Times:
    """The model as this command is to use it. Raises ``UserError``."""
    given = dict(desk.settings.model)
    for each in figures:
        letter, sign, seconds = each.partition("=")
        letter = letter.strip().upper()
        try:
            if not sign or letter not in LETTERS:
                raise ValueError
            given[letter] = float(seconds)
        except ValueError as error:
            raise UserError(
                f"“{each}” is no figure of the model.",
                hint=f"Write LETTER=SECONDS, such as K=0.2; there are {', '.join(LETTERS)}.",
            ) from error
    try:
        return changed(DEFAULT, given)
    except (ValueError, KeyError) as error:
        raise UserError(f"The model cannot be so: {error}.") from error


def by_app(since: str, seat: str, desk: Desk, times: Times) -> list[SavingsAnswer]:
    """What each application that was counted takes a week, and whose key would save most in it.

    Raises ``UserError`` where nothing was counted.
    """
    counted = usage_of_all(desk, since, seat)
    if not counted:
        raise nothing_counted(desk, "", since, seat)
    names = [name for name in desk.app_names() if name in counted]
    return [savings_of(app_view(desk, name), counted[name], times) for name in names]
