"""``usage``: tables of what was counted."""

from olive_compass.cli import exit_status, pick
from olive_compass.cli.looking.tallies import usage_for
from olive_compass.cli.options import Common
from olive_compass.cli.output.new_file import into_of
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.command_lines import line
from olive_compass.cli.terminal.layout import BOLD, DIM, OFF
from olive_compass.cli.terminal.tables import EVERY, most_rows, print_table
from olive_compass.core.apps.app import App
from olive_compass.core.apps.modes import joined
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.usage import looking
from olive_compass.core.usage.looking import Used, by_way
from olive_compass.core.usage.summing import NOTHING, Usage, by_app
from olive_compass.core.wording import counted
from olive_compass.desk.desk import Desk

#: The ways in the order in which they are named.
WAYS = ("key", "swipe", "menu", "toolbar", "tray")


class UsageShowOptions(Common, kw_only=True):
    """The options of ``usage show``."""

    app: str | None
    by_menu: bool
    no_key: bool
    never: bool
    slips: bool
    trend: bool
    since: str
    seat: str
    limit: int | None
    form: str
    out: str | None
    json: bool


def show(args: UsageShowOptions, context: Surroundings) -> int:
    """Runs ``usage`` on what was counted."""
    desk = pick.desk(args, context)
    app = ""
    if args.app:
        app = desk.app_name(args.app)
    into = into_of(args)
    if not into.is_plain:
        # Loaded here: a chart takes long to draw.
        from olive_compass.cli.usage.charting import chart

        return chart(args, context, desk, app)
    usage = usage_for(desk, app, args.since, args.seat)
    if args.trend:
        return _trend(args.json, context, usage, app)
    if not app:
        return _apps(args.json, context, desk, usage)
    keymap = Keymap(desk.stack(app), desk.keyboard)
    if args.never:
        return _never(args.limit, args.json, context, keymap, usage)
    if args.slips:
        return _slips(args.json, context, keymap, usage)
    counts = looking.used(usage.tally)
    rows, what, follow = counts, "used most", ""
    if args.by_menu:
        rows = looking.by_menu_though_keyed(keymap, counts)
        what, follow = "chosen from the menu though they have a key", "practise"
    elif args.no_key:
        rows = looking.without_key(keymap, counts, desk.macros(app))
        what, follow = "used and without a key", "suggest"
    return _commands(args.limit, args.json, context, keymap, usage, rows, what, follow)


def _head(context: Surroundings, usage: Usage, title: str, what: str) -> None:
    span = "without days"
    if usage.first:
        span = f"{usage.first} to {usage.last}"
    who = "1 person"
    if len(usage.seats) != 1:
        who = f"{len(usage.seats)} people"
    context.say(f"{BOLD}{title}{OFF}: {what} {DIM}({span}, {who}){OFF}")


def _limit(limit: int | None, as_json: bool, context: Surroundings) -> int:
    if as_json:
        return limit or EVERY
    return most_rows(context, limit)


def _more(context: Surroundings, most: int, total: int) -> None:
    if total > most:
        context.say(f"{most} of {total} shown; --limit {total} shows all.")


def _row(app: App, used: Used, weeks: float, keys: list[str]) -> tuple[str, ...]:
    """A command in the table: how often it was used, in which ways, and its keys."""
    return (
        app.shown(used.command),
        str(used.times),
        f"{used.times / weeks:.1f}",
        *(str(used.ways.get(way, "")) for way in WAYS),
        str(used.undone or ""),
        ", ".join(keys) or "-",
        used.last[:10],
        used.command,
    )


def _commands(
    limit: int | None,
    as_json: bool,
    context: Surroundings,
    keymap: Keymap,
    usage: Usage,
    rows: list[Used],
    what: str,
    follow: str,
) -> int:
    """The commands that were counted; ``follow`` is the command that goes on from there, ``""``: none."""
    app = keymap.app
    weeks = usage.weeks
    most = _limit(limit, as_json, context)
    keys = {e.command: list(map(str, live_triggers(keymap, e.command))) for e in rows}
    if as_json:
        from olive_compass.desk.reported.usage import used_report

        found = [used_report(app, weeks, e, keys[e.command]) for e in rows[:most]]
        context.json({"app": app.name, "what": what, "commands": found})
        return exit_status.found(rows)
    _head(context, usage, app.title, what)
    if not rows:
        context.say("Nothing.")
        return 1
    print_table(
        context,
        ("title", "times", "a week", *WAYS, "undone", "key", "last", "command"),
        [_row(app, each, weeks, keys[each.command]) for each in rows[:most]],
    )
    _more(context, most, len(rows))
    if follow == "practise":
        context.say(f"To learn them: olive-compass practise {app.name}")
    if follow == "suggest":
        ids = [e.command for e in rows[:5]]
        context.say(f"Keys for them: {line('suggest', app.name, *ids)}")
    return 0


def _apps(as_json: bool, context: Surroundings, desk: Desk, usage: Usage) -> int:
    """How much each application was used, by way."""
    rows = []
    counted_of = by_app(usage.tally)
    for name in desk.app_names():
        found = looking.used(counted_of.get(name, NOTHING).tally)
        ways = by_way(found)
        if found:
            rows.append((name, sum(ways.values()), ways, found[:3]))
    if as_json:
        context.json(
            {
                "apps": [
                    {
                        "app": name,
                        "times": times,
                        "ways": ways,
                        "most": [e.command for e in first],
                    }
                    for name, times, ways, first in rows
                ]
            }
        )
        return 0
    _head(context, usage, "All applications", "how much of what")
    print_table(
        context,
        ("app", "times", *WAYS, "used most"),
        [
            (
                desk.app(name).title,
                str(times),
                *(str(ways.get(way, "")) for way in WAYS),
                joined(desk.app(name).shown(e.command) for e in first),
            )
            for name, times, ways, first in rows
        ],
    )
    return 0


def _never(
    limit: int | None, as_json: bool, context: Surroundings, keymap: Keymap, usage: Usage
) -> int:
    app = keymap.app
    found = looking.never_pressed(keymap, usage.tally)
    days = usage.days
    most = _limit(limit, as_json, context)
    if as_json:
        rows = [
            {
                "key": str(claim.trigger),
                "command": claim.command,
                "title": app.shown(claim.command),
                "layer": claim.layer,
                "scheme": claim.origin or None,
            }
            for claim in found[:most]
        ]
        context.json({"app": app.name, "days": days, "never": rows})
        return exit_status.found(found)
    _head(context, usage, app.title, "only keys that nobody pressed")
    print_table(
        context,
        ("key", "title", "from", "command"),
        [
            (str(c.trigger), app.shown(c.command), c.origin or c.layer, c.command)
            for c in found[:most]
        ],
    )
    _more(context, most, len(found))
    context.say(f"They could be used for something else: not pressed in {counted(days, 'day')}.")
    return exit_status.found(found)


def _slips(as_json: bool, context: Surroundings, keymap: Keymap, usage: Usage) -> int:
    app = keymap.app
    pairs = looking.slips(usage.tally)
    undone = [e for e in looking.used(usage.tally) if e.undone]
    undone.sort(key=lambda each: (-each.undone, each.command))
    if as_json:
        context.json(
            {
                "app": app.name,
                "slips": [
                    {"key": e.pressed, "meant": e.meant, "command": e.command, "times": e.times}
                    for e in pairs
                ],
                "undone": [
                    {"command": e.command, "times": e.times, "undone": e.undone} for e in undone
                ],
            }
        )
        return exit_status.found(undone)
    _head(context, usage, app.title, "presses undone within two seconds")
    if not undone:
        context.say("None.")
        return 1
    print_table(
        context,
        ("title", "undone", "of", "command"),
        [(app.shown(e.command), str(e.undone), str(e.times), e.command) for e in undone],
    )
    if pairs:
        context.say(f"{BOLD}Pressed in the place of another{OFF}")
        print_table(
            context,
            ("pressed", "then", "times", "started"),
            [(e.pressed, e.meant, str(e.times), app.shown(e.command)) for e in pairs],
        )
        wrong = pairs[0]
        advice = line("mute", app.name, wrong.pressed, "--why", f"pressed for {wrong.meant}")
        context.say(f"To make it harmless: {advice}")
    return 0


def _trend(as_json: bool, context: Surroundings, usage: Usage, app: str) -> int:
    weeks = looking.trend(usage.tally)
    if as_json:
        rows = [{"day": week.day, "ways": dict(week.ways)} for week in weeks]
        context.json({"app": app or None, "weeks": rows})
        return 0
    _head(context, usage, app or "All applications", "week by week")
    print_table(
        context,
        ("week of", "times", *WAYS, "by key"),
        [
            (
                week.day,
                str(sum(week.ways.values())),
                *(str(week.ways.get(way, "")) for way in WAYS),
                f"{week.ways.get('key', 0) / max(sum(week.ways.values()), 1):.0%}",
            )
            for week in weeks
        ],
    )
    return 0
