"""``savings``: seconds a week that commands take, that their keys save, and that new keys would save."""

import argparse

from olive_compass.cli import pick
from olive_compass.cli.looking.tallies import since_and_seat, usage_for
from olive_compass.cli.options import Common, app_argument, json_option, limit_option
from olive_compass.cli.output.new_file import into_of, picture_options
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.command_lines import line
from olive_compass.cli.terminal.layout import BOLD, DIM, OFF
from olive_compass.cli.terminal.tables import print_table
from olive_compass.cli.usage.modelling import by_app, model_option, times_of
from olive_compass.core.answers.savings import SavingsAnswer, savings_of
from olive_compass.core.savings.model import LETTERS, Times
from olive_compass.core.savings.savings_of_keys import Whole
from olive_compass.core.wording import by_number, counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.reported.savings import seconds_report
from olive_compass.desk.views import app_view

GROUP = "save time"
ORDER = 20
SUMMARY = "Show how many seconds a week keys save, or could save"
EXAMPLES = """olive-compass savings quillmap
olive-compass savings quillmap --explain
olive-compass savings quillmap --as png --out savings.png
olive-compass savings quillmap --model K=0.2 --model P=1.3
olive-compass savings"""

#: How many commands are shown whose key would save most.
MOST = 10


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser, optional=True)
    since_and_seat(parser)
    model_option(parser)
    parser.add_argument("--explain", action="store_true", help="show how each figure came about")
    picture_options(parser, "chart of what keys save and could save")
    limit_option(parser, "show at most N commands on a chart (default: 20)")
    json_option(parser)


class SavingsOptions(Common, kw_only=True):
    """The options of ``savings``."""

    app: str | None
    since: str
    seat: str
    model: list[str]
    explain: bool
    form: str
    out: str | None
    limit: int | None
    json: bool


def run(args: SavingsOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    times = times_of(args.model, desk)
    into = into_of(args)
    if not into.is_plain:
        from olive_compass.cli.usage.charting import savings_chart

        return savings_chart(args, context, desk, times)
    if not args.app:
        return _apps(args.since, args.seat, args.json, context, desk, times)
    app = desk.app_name(args.app)
    usage = usage_for(desk, app, args.since, args.seat)
    view = app_view(desk, app)
    answer = savings_of(view, usage, times)
    sums, listed = answer.whole, answer.from_lists
    if args.json:
        from olive_compass.desk.reported.savings import savings_report

        context.json(savings_report(answer, times))
        return 0
    context.say(
        f"{BOLD}{view.app.title}{OFF}: choosing commands takes {minutes(sums.now)} a week "
        f"{DIM}(counted over {counted(answer.days, 'day')}){OFF}"
    )
    if listed:
        context.say(
            f"Lists do not say how a command was started: {counted(len(listed), 'command')} of them "
            f"{by_number(len(listed), 'is', 'are')} taken to be chosen from the menu."
        )
    _print_sums(context, sums, " over ".join(view.stack.names))
    _print_savings(args.explain, context, answer)
    _print_best(args.explain, context, answer)
    step = times.point
    context.say(
        f"One step more in a menu takes {step:g} s each time "
        f"{DIM}(P; keystroke-level model, docs/savings.md){OFF}"
    )
    if args.explain:
        figures = ", ".join(f"{k} {getattr(times, name):g} s" for k, name in LETTERS.items())
        context.say(f"{DIM}Figures: {figures}.{OFF}")
    return 0


def minutes(seconds: float) -> str:
    """Seconds in the unit in which a person thinks of them.

    >>> minutes(42), minutes(420), minutes(-0.2)
    ('42 s', '7.0 min', '0 s')
    """
    # Nothing is never less than nothing.
    if abs(seconds) < 120:
        return f"{round(seconds)} s"
    return f"{seconds / 60:.1f} min"


def than_now(seconds: float) -> str:
    """What other ways take, against now: so much less, or more.

    >>> than_now(6), than_now(-6), than_now(0.3)
    ('6 s less', '6 s more', 'as now')
    """
    if not round(seconds):
        return "as now"
    return f"{minutes(abs(seconds))} {'less' if seconds > 0 else 'more'}"


def _saves(subject: str, seconds: float, saves: str = "saves", costs: str = "costs") -> str:
    """What something saves or costs against another way; where it is neither, nothing is said."""
    if not round(seconds):
        return ""
    return f"{subject} {saves if seconds > 0 else costs} {minutes(abs(seconds))}"


def _print_sums(context: Surroundings, sums: Whole, schemes: str) -> None:
    rows = [
        ("as it is done now", sums.now, ""),
        (
            "with the factory keys",
            sums.factory,
            _saves(schemes, sums.factory - sums.now),
        ),
        ("by the menus alone", sums.menus, _saves("keys", sums.saved, "save", "cost")),
        ("if every key were pressed", sums.pressed, than_now(sums.now - sums.pressed)),
    ]
    print_table(
        context, ("way", "a week", ""), [(name, minutes(value), note) for name, value, note in rows]
    )


def _print_savings(explain: bool, context: Surroundings, answer: SavingsAnswer) -> None:
    app = answer.view.app
    keyed = sorted((e for e in answer.commands if e.key), key=lambda e: -e.saves)[:MOST]
    if not keyed:
        return
    context.say(f"\n{BOLD}What the keys save{OFF}")
    print_table(
        context,
        ("title", "key", "a week", "by menu", "saves", "could save more", "press", "menu"),
        [
            (
                app.shown(e.command),
                e.key,
                f"{e.a_week:.1f}",
                f"{e.by_hand:.1f}",
                minutes(e.saves),
                minutes(e.would_save) if e.would_save > 0.5 else "",
                *((e.press.text, e.menu.text) if explain else ("", "")),
            )
            for e in keyed
        ],
    )


def _print_best(explain: bool, context: Surroundings, answer: SavingsAnswer) -> None:
    app, best = answer.view.app, answer.best
    context.say(f"\n{BOLD}Commands whose key would save most{OFF}")
    if not best:
        context.say("Every command that you use has a key, or is keyless on purpose.")
        return
    print_table(
        context,
        ("title", "a week", "would save", "has paid after", "press", "menu"),
        [
            (
                app.shown(e.savings.command),
                f"{e.savings.a_week:.1f}",
                minutes(e.seconds),
                days_text(e.pays_after),
                *((e.savings.press.text, e.savings.menu.text) if explain else ("", "")),
            )
            for e in best[:MOST]
        ],
    )
    ids = [each.savings.command for each in best[:5]]
    context.say(f"Keys for them: {line('suggest', app.name, *ids)}")


def days_text(days: float) -> str:
    """After how many days something has paid."""
    if days > 365:
        return "a year and more"
    return counted(max(round(days), 1), "day")


def _apps(
    since: str, seat: str, as_json: bool, context: Surroundings, desk: Desk, times: Times
) -> int:
    """All applications, a line each."""
    answers = by_app(since, seat, desk, times)
    if as_json:
        context.json(
            {
                "apps": [
                    {
                        "app": answer.view.app.name,
                        "seconds": seconds_report(answer.whole),
                        "best": [e.savings.command for e in answer.best[:3]],
                    }
                    for answer in answers
                ]
            }
        )
        return 0
    print_table(
        context,
        ("app", "a week", "keys save", "could save more", "whose key would save most"),
        [
            (
                answer.view.app.title,
                minutes(answer.whole.now),
                minutes(answer.whole.saved),
                minutes(answer.whole.now - answer.whole.pressed),
                ", ".join(answer.view.app.shown(e.savings.command) for e in answer.best[:3]),
            )
            for answer in answers
        ],
    )
    return 0
