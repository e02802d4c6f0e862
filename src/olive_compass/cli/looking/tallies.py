"""What the commands of usage and worth share: the tallies of the desk, narrowed."""

from collections.abc import Mapping
from typing import Any

from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import App
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.view import View
from olive_compass.core.usage.looking import narrowed
from olive_compass.core.usage.tally import Count, Use, joined
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import tally_file
from olive_compass.errors import UserError


def whole_tally(desk: Desk, follows: bool = False) -> dict[Use, Count]:
    """All that was counted on this desk, of all seats; what followed what only with ``follows``."""
    tallies = []
    for path in desk.tally_names():
        tally, wrong = tally_file.read_what_can_be(desk.bytes(path), path, follows)
        tallies.append(tally)
        desk.left_out += [each for each in map(str, wrong) if each not in desk.left_out]
    return joined(tallies)


def tally_or_logs(desk: Desk, app: App, context: Surroundings) -> Mapping[Use, Count]:
    """What was counted of an application, as ``usage`` shows it; where nothing was taken yet, what the logs of
    the desk have."""
    if desk.tally_names():
        return narrowed(whole_tally(desk), app.name)
    from olive_compass.cli.looking.logs import events_of
    from olive_compass.core.usage.counting import tally_of

    return tally_of(events_of(desk, app, context), "the logs of the desk", "")


def tally_for(desk: Desk, app: str, since: str = "", seat: str = "") -> dict[Use, Count]:
    """What was counted of an application. Raises ``UserError`` where there is nothing."""
    _check_day(since)
    found = narrowed(whole_tally(desk), app, since, seat)
    if found:
        return found
    if not desk.tally_names():
        raise UserError(
            "Nothing has been counted on this desk yet.",
            hint="Count logs: olive-compass usage take logs/*.jsonl",
        )
    title = desk.app(app).title if app else "any application"
    where = f" since {since}" if since else ""
    who = f" at the seat {seat}" if seat else ""
    raise UserError(f"Nothing has been counted for {title}{where}{who}.", status=1)


def _check_day(since: str) -> None:
    from datetime import date

    try:
        date.fromisoformat(since or "2026-01-01")
    except ValueError as error:
        raise UserError(f"“{since}” is no day.", hint="For example: --since 2026-10-01") from error


def seat_name(desk: Desk, given: str | None) -> str:
    """Whose work is counted: what the seat is called, or what is said."""
    return given or desk.seat.name or "this computer"


def since_and_seat(parser: Any) -> None:
    """The options that narrow what was counted."""
    parser.add_argument(
        "--since", default="", metavar="DAY", help="only from this day on: 2026-10-01"
    )
    parser.add_argument("--seat", default="", metavar="NAME", help="show this person's counts only")


def worth_seconds(desk: Desk, view: View, after: Keymap, by_key: bool = False) -> float | None:
    """The seconds a week that other keys save (below 0: cost) by what was counted; None where nothing was;
    ``by_key``: if hands went for the keys always."""
    from olive_compass.core.worth.model import DEFAULT, changed
    from olive_compass.core.worth.savings_of_keys import change_worth

    tally = narrowed(whole_tally(desk), view.app.name) if desk.tally_names() else {}
    if not tally:
        return None
    return change_worth(view, after, tally, changed(DEFAULT, desk.settings.model), by_key)


def worth_text(desk: Desk, view: View, after: Keymap) -> str:
    """The same as a sentence; ``""`` where nothing was counted."""
    seconds = worth_seconds(desk, view, after)
    if seconds is None:
        return ""
    return f"{view.app.title}: according to the logs, it {saying(seconds)}."


def saying(seconds: float) -> str:
    """What keys save or cost a week, after a subject."""
    if abs(seconds) < 0.5:
        return "neither saves nor costs time"
    return f"{'saves' if seconds > 0 else 'costs'} {abs(seconds):.0f} s a week"
