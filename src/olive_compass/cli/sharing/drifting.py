"""``keyset drift``: what has moved away from a set, where, and since when."""

from olive_compass.cli import exit_status, pick
from olive_compass.cli.options import Common
from olive_compass.cli.sharing.keysets import keyset_named, percent
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.tables import print_table
from olive_compass.core.answers.drift import drift as drift_of
from olive_compass.desk.reported.drift import DriftReport, drift_report
from olive_compass.desk.views import app_view


class KeysetDriftOptions(Common, kw_only=True):
    """The options of ``keyset drift``."""

    name: str | None
    json: bool


def drift(args: KeysetDriftOptions, context: Surroundings) -> int:
    """Runs ``keyset drift``."""
    desk = pick.desk(args, context)
    keyset = keyset_named(desk, args.name)
    answer = drift_of(keyset, desk.purposes, (app_view(desk, name) for name in desk.app_names()))
    share = answer.consistency
    rows = [drift_report(desk, each) for each in answer.drifted]
    if args.json:
        context.json({"name": keyset.name, "consistency": share, "drifted": rows})
    elif not rows:
        context.say(f"Every application uses {keyset.title}; consistency {percent(share)}.")
    else:
        head = ("app", "purpose", "set", "now", "who has it", "where", "since")
        print_table(context, head, [_row(row) for row in rows])
        context.say(
            f"Consistency {percent(share)}. To bring it back: olive-compass keyset apply {keyset.name}"
        )
    return exit_status.failed(rows)


def _row(row: DriftReport) -> tuple[str, ...]:
    return (
        row.app,
        row.title,
        ", ".join(row.set),
        ", ".join(row.keys) or "none",
        row.holder or "",
        row.where or "",
        row.since or "before the history",
    )
