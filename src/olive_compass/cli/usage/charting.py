"""``usage --as png`` and ``savings --as png``: the most used commands, and the seconds that keys save, as one chart."""

from typing import TYPE_CHECKING, Any

from olive_compass.cli.looking.tallies import usage_for
from olive_compass.cli.output.new_file import Into, into_of, put_new
from olive_compass.cli.output.pictures import asked_for, speller
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.usage.modelling import by_app
from olive_compass.core.savings.model import Times
from olive_compass.core.savings.savings_of_keys import CommandSavings, savings_of_keys
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.usage import looking
from olive_compass.core.usage.summing import Usage
from olive_compass.core.wording import counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.views import app_view
from olive_compass.structs import replace

if TYPE_CHECKING:
    from typing import Protocol

    from olive_compass.drawing.charts import Bar

    class ShowsSavings(Protocol):
        """What of the options of ``savings`` is for its chart."""

        app: str | None
        since: str
        seat: str
        limit: int | None
        form: str
        out: str | None
        json: bool

    class ShowsUsage(ShowsSavings, Protocol):
        """What of the options of ``usage`` is for its chart."""

        by_menu: bool
        trend: bool


#: What a key saves: it does so now, it could if it were always pressed, one could that is not there yet.
SAVED, MORE, GIVEN = "saved by keys", "more, if they were pressed", "with a key"

#: How many bars a chart has where nobody says otherwise.
MOST = 20


def chart(args: "ShowsUsage", context: Surroundings, desk: Desk, app: str) -> int:
    """Runs ``usage`` as a chart."""
    into = into_of(args)
    asked_for(into, args.json, context)
    usage = usage_for(desk, app, args.since, args.seat)
    from olive_compass.drawing.charts import Bar

    span = _span(usage)
    if args.trend or not app:
        rows = [Bar(f"week of {w.day}", w.ways, _share(w.ways)) for w in looking.trend(usage.tally)]
        title = "All applications"
        if app:
            title = desk.app(app).title
        head = f"{title}: week by week"
    else:
        keymap = Keymap(desk.stack(app), desk.keyboard)
        found = looking.used(usage.tally)
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
        what = "used most"
        if args.by_menu:
            what = "chosen from the menu though they have a key"
        head = f"{keymap.app.title}: {what}"
    return _put(into, context, (head, span, "times"), rows)


def _put(into: Into, context: Surroundings, head: tuple[str, str, str], rows: "list[Bar]") -> int:
    """Draws a chart with its title, the line under it and the unit, and writes it."""
    from olive_compass.drawing.charts import bars

    texts = [*head, *(row.title for row in rows), *(row.note for row in rows)]
    spell = speller(into.out, context, texts)
    rows = [replace(row, title=spell(row.title), note=spell(row.note)) for row in rows]
    title, subtitle, unit = map(spell, head)
    put_new(into, context, bars(title, subtitle, rows, unit, into.form))
    return 0


def savings_chart(args: "ShowsSavings", context: Surroundings, desk: Desk, times: Times) -> int:
    """Runs ``savings`` as a chart: the commands of an application, or all applications."""
    into = into_of(args)
    asked_for(into, args.json, context)
    from olive_compass.drawing.charts import Bar

    if args.app:
        app = desk.app_name(args.app)
        view = app_view(desk, app)
        usage = usage_for(desk, app, args.since, args.seat)
        found = savings_of_keys(view, usage, times)
        best = sorted(found, key=lambda e: (-sum(_saved(e).values()), e.command))
        rows = [Bar(view.app.shown(e.command), _saved(e), e.key or "no key") for e in best]
        rows = [row for row in rows if any(row.ways.values())][: args.limit or MOST]
        title = f"{view.app.title}: what keys save and could save"
    else:
        usage = usage_for(desk, "", args.since, args.seat)
        rows = [
            Bar(
                answer.view.app.title,
                {
                    SAVED: max(answer.whole.menus - answer.whole.now, 0),
                    MORE: max(answer.whole.now - answer.whole.pressed, 0),
                    GIVEN: sum(each.seconds for each in answer.best),
                },
            )
            for answer in by_app(args.since, args.seat, desk, times)
        ]
        title = "What keys save and could save"
    return _put(into, context, (title, _span(usage), "seconds a week"), rows)


def _saved(savings: CommandSavings) -> dict[str, float]:
    more = max(savings.would_save, 0)
    if not savings.key:
        return {GIVEN: more}
    return {SAVED: max(savings.saves, 0), MORE: more}


def _span(usage: Usage) -> str:
    """Of which days, and of how many seats, something was counted."""
    if not usage.first:
        return ""
    return f"{usage.first} to {usage.last}, {counted(len(usage.seats), 'seat')}"


def _share(ways: Any) -> str:
    return f"{ways.get('key', 0) / max(sum(ways.values()), 1):.0%} by key"
