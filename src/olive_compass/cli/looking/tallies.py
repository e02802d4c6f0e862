"""What the commands of usage and savings share: the tallies of the desk, narrowed."""

import argparse
from collections.abc import Mapping

from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import App
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.view import View
from olive_compass.core.usage.looking import narrowed
from olive_compass.core.usage.summing import NOTHING, Usage, by_app, together
from olive_compass.core.usage.tally import Count, Use
from olive_compass.core.wording import clause
from olive_compass.desk.desk import Desk
from olive_compass.desk.tallies import usage_by_app, whole_tally
from olive_compass.errors import UserError


def tally_or_logs(desk: Desk, app: App, context: Surroundings) -> Mapping[Use, Count]:
    """What was counted of an application, as ``usage`` shows it; where nothing was taken yet, what the logs of
    the desk have."""
    if desk.tally_names():
        return narrowed(whole_tally(desk), app.name)
    from olive_compass.cli.looking.logs import events_of
    from olive_compass.core.usage.counting import tally_of

    return tally_of(events_of(desk, app, context), "the logs of the desk", "")


def usage_of_all(desk: Desk, since: str = "", seat: str = "") -> Mapping[str, Usage]:
    """What was counted of each application, from a day on and of a seat. Raises ``UserError`` where that is no day."""
    _check_day(since)
    if since or seat:
        return by_app(narrowed(whole_tally(desk), "", since, seat))
    return usage_by_app(desk)


def usage_for(desk: Desk, app: str, since: str = "", seat: str = "") -> Usage:
    """What was counted of an application, ``""``: of all. Raises ``UserError`` where there is nothing."""
    found = usage_of_all(desk, since, seat)
    if app:
        usage = found.get(app, NOTHING)
    else:
        usage = together(found.values())
    if not usage.tally:
        raise nothing_counted(desk, app, since, seat)
    return usage


def nothing_counted(desk: Desk, app: str, since: str, seat: str) -> UserError:
    """What is said where nothing was counted: on the desk, or of what was asked for."""
    if not desk.tally_names():
        return UserError(
            "Nothing has been counted on this desk yet.",
            hint="Count logs: olive-compass usage take logs/*.jsonl",
        )
    title = "any application"
    if app:
        title = desk.app(app).title
    where = clause(" since {}", since)
    who = clause(" at the seat {}", seat)
    return UserError(f"Nothing has been counted for {title}{where}{who}.", status=1)


def _check_day(since: str) -> None:
    from datetime import date

    try:
        date.fromisoformat(since or "2026-01-01")
    except ValueError as error:
        raise UserError(f"“{since}” is no day.", hint="For example: --since 2026-10-01") from error


def seat_name(desk: Desk, given: str | None) -> str:
    """Whose work is counted: what the seat is called, or what is said."""
    return given or desk.seat.name or "this computer"


def since_and_seat(parser: argparse.ArgumentParser) -> None:
    """The options that narrow what was counted."""
    parser.add_argument(
        "--since", default="", metavar="DAY", help="only from this day on: 2026-10-01"
    )
    parser.add_argument("--seat", default="", metavar="NAME", help="show this person's counts only")


def savings_text(desk: Desk, view: View, after: Keymap) -> str:
    """The same as a sentence; ``""`` where nothing was counted."""
    from olive_compass.desk.time_saved import seconds_saved

    seconds = seconds_saved(desk, view, after)
    if seconds is None:
        return ""
    return f"{view.app.title}: according to the logs, it {saying(seconds)}."


def saying(seconds: float) -> str:
    """What keys save or cost a week, after a subject."""
    if abs(seconds) < 0.5:
        return "neither saves nor costs time"
    return f"{'saves' if seconds > 0 else 'costs'} {abs(seconds):.0f} s a week"
