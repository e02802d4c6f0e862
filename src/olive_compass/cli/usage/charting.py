"""``usage --as png``: what is used most, by way, as one chart."""

from typing import Any

from olive_compass.cli.new_file import put_new
from olive_compass.cli.pictures import asked_for
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.tallies import tally_for
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.usage import looking
from olive_compass.core.usage.tally import uses
from olive_compass.core.wording import counted
from olive_compass.desk.desk import Desk

#: How many bars a chart has where nobody says otherwise.
MOST = 20


def chart(args: Any, around: Surroundings, at: Desk, app: str) -> int:
    """Runs ``usage`` as a chart."""
    asked_for(args, around)
    tally = tally_for(at, app, args.since, args.seat)
    from olive_compass.drawing.charts import Bar, bars

    days = sorted({use.day for use, _ in uses(tally) if use.day})
    span = f"{days[0]} to {days[-1]}, {counted(len({use.seat for use in tally}), 'seat')}"
    if args.trend or not app:
        rows = [Bar(f"week of {w.day}", w.ways, _share(w.ways)) for w in looking.trend(tally)]
        title = at.app(app).title if app else "All applications"
        data = bars(f"{title}: week by week", span, rows, "times", args.form)
    else:
        keymap = Keymap(at.stack(app), at.keyboard)
        found = looking.used(tally)
        if args.by_menu:
            found = looking.by_menu_though_keyed(keymap, found)
        rows = [
            Bar(
                keymap.app.shown(e.command),
                e.ways,
                ", ".join(map(str, live_triggers(keymap, e.command)[:2])) or "no key",
            )
            for e in found[: args.limit or MOST]
        ]
        what = "reached by menu though a key is there" if args.by_menu else "used most"
        data = bars(f"{keymap.app.title}: {what}", span, rows, "times", args.form)
    put_new(args, around, data)
    return 0


def _share(ways: Any) -> str:
    return f"{ways.get('key', 0) / max(sum(ways.values()), 1):.0%} by key"
