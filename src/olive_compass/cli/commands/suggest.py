"""``suggest``: keys for many commands at once, the cheapest together, with a proven bound."""

import argparse

from olive_compass.cli import pick
from olive_compass.cli.changing import families
from olive_compass.cli.changing.running import Options, execute
from olive_compass.cli.intake.guesses import say_what_is_guessed
from olive_compass.cli.looking.tallies import since_and_seat, usage_of_all
from olive_compass.cli.options import (
    WriteOptions,
    app_argument,
    command_argument,
    most_option,
    reason_option,
    write_options,
)
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.command_lines import line
from olive_compass.cli.terminal.layout import BOLD, DIM, OFF
from olive_compass.cli.terminal.tables import print_table
from olive_compass.cli.usage.modelling import model_option, times_of
from olive_compass.core.apps.app import Command
from olive_compass.core.apps.modes import joined
from olive_compass.core.changes.change import Answers
from olive_compass.core.changes.view import AppView
from olive_compass.core.savings.savings_of_keys import CommandSavings, savings_of_keys
from olive_compass.core.savings.solving import Demand
from olive_compass.core.savings.suggesting import LeftOut, Plan, Suggestion, suggest
from olive_compass.core.usage.summing import NOTHING
from olive_compass.core.wording import by_number, counted
from olive_compass.desk.views import judging_view
from olive_compass.errors import UserError

GROUP = "save time"
ORDER = 30
SUMMARY = "Suggest the best keys for many commands at once, with reasons"
EXAMPLES = """olive-compass suggest quillmap
olive-compass suggest quillmap "Wreck" "Railway" "Steps" --hand left
olive-compass suggest quillmap "Save *" --move
olive-compass suggest reliefkiln --most 5 --dry-run"""

#: How many commands are given keys where nobody says which.
MOST = 10

#: Why a command gets none, after its title.
WHY = {
    "no-key-is-free": "has no key, and none is free",
    "menu-is-quicker": "starts as quickly as with any free key",
    "has-key": "already has {keys}; to look for a quicker key: --move",
    "no-better": "already has {keys}, and no free key saves more than learning it takes",
    "guarded": "already has {keys}, which is guarded",
    "some-stay": "already has {keys}, of which some would stay, in other modes or a nearer scheme",
    "too-many": "has as many keys as the application allows",
    "keyless": "is left without a key on purpose",
    "unavailable": "can have no key",
}


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    command_argument(
        parser,
        "commands",
        nargs="*",
        metavar="COMMAND",
        help="commands to suggest keys for; * stands for any letters (default: the most used without a key)",
    )
    most_option(parser, MOST)
    parser.add_argument(
        "--hand", choices=("left", "right"), help="only keys that this hand can press alone"
    )
    parser.add_argument(
        "--move",
        action="store_true",
        help="also suggest new keys for commands that have one (counts the cost of relearning)",
    )
    parser.add_argument(
        "--keep",
        dest="kept",
        action="append",
        default=[],
        metavar="COMMAND",
        help="with --move: keep the keys of this command",
    )
    since_and_seat(parser)
    model_option(parser)
    parser.add_argument("-y", "--yes", action="store_true", help="assign them as one change")
    reason_option(parser, "with --yes: the reason")
    parser.add_argument("--scheme", metavar="SCHEME", help="write to this scheme")
    write_options(parser)


class SuggestOptions(WriteOptions, kw_only=True):
    """The options of ``suggest``."""

    app: str
    commands: list[str]
    most: int | None
    hand: str | None
    move: bool
    kept: list[str]
    since: str
    seat: str
    model: list[str]
    yes: bool
    why: str
    scheme: str | None


def run(args: SuggestOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    view = judging_view(desk, desk.app_name(args.app))
    scheme = pick.scheme_to_write(desk, view.stack, args.scheme)
    usage = usage_of_all(desk, args.since, args.seat).get(view.app.name, NOTHING)
    times = times_of(args.model, desk)
    demands = _wishes(args, context, view, savings_of_keys(view, usage, times))
    if not demands:
        raise UserError(
            f"Every command that you use in {view.app.title} has a key, or is keyless on purpose.",
            hint="Name commands to get suggestions for them.",
            status=1,
        )
    hand = args.hand or ""
    plan = suggest(view, demands, times, hand, args.move, scheme)
    takes = args.yes or args.dry_run
    if not args.json:
        _print(context, view, plan, {use.command for use in usage.tally})
        say_what_is_guessed(context, view.app)
    elif not takes:
        from olive_compass.desk.reported.suggestions import plan_report

        context.json(plan_report(view.app, plan))
    if not plan.suggestions:
        return 1
    if not takes:
        if not args.json:
            context.say(f"To assign them, as one change: {_line(args, view.app.name)}")
        return 0
    options = Options(
        desk=args.desk, dry_run=args.dry_run, explain=False, json=args.json, answers=Answers()
    )
    return _give(options, args.app, args.why, args.move, context, plan, scheme.name)


def _line(args: SuggestOptions, app: str) -> str:
    """The line that gives the very keys that were shown: every option that chose them is in it."""
    words = ["suggest", app, *args.commands]
    for option, given in (
        ("--most", args.most),
        ("--hand", args.hand),
        ("--since", args.since),
        ("--seat", args.seat),
        ("--why", args.why),
        ("--scheme", args.scheme),
    ):
        if given:
            words += [option, str(given)]
    if args.move:
        words.append("--move")
    words += [word for name in args.kept for word in ("--keep", name)]
    words += [word for figure in args.model for word in ("--model", figure)]
    return line(*words, "--yes")


def _wishes(
    args: SuggestOptions, context: Surroundings, view: AppView, found: list[CommandSavings]
) -> list[Demand]:
    """The commands that are to have keys, how often a week each is used, and what one use takes now; as if
    each were used once a week where nobody knows."""
    app, known = view.app, {each.command: each for each in found}
    kept = {pick.command(app, name, context).id for name in args.kept}
    if args.commands:
        chosen = families.commands_named(app, context, args.commands)
        most = args.most or len(chosen)
    elif found:
        chosen = [app.catalogue.by_id[each.command] for each in _by_use(view, found, args.move)]
        most = args.most or MOST
    else:
        raise UserError(
            f"Nothing has been counted for {app.title} yet.",
            hint="Name the commands, or count logs: olive-compass usage take logs/*.jsonl",
        )
    chosen = [each for each in chosen if each.id not in kept]
    return [_demand(each, known.get(each.id)) for each in chosen[:most]]


def _by_use(view: AppView, found: list[CommandSavings], keyed: bool) -> list[CommandSavings]:
    """The commands that were counted, those used most first: all, or those without a key that are not keyless."""
    keyless = view.stack.keyless
    some = [each for each in found if keyed or not (each.key or each.command in keyless)]
    return sorted(some, key=lambda each: (-each.a_week, each.command))


def _demand(command: Command, savings: CommandSavings | None) -> Demand:
    if savings is None or not savings.a_week:
        return Demand(command, 1.0)
    return Demand(command, savings.a_week, savings.now / savings.a_week)


def _give(
    options: Options,
    app: str,
    why: str,
    instead: bool,
    context: Surroundings,
    plan: Plan,
    scheme: str,
) -> int:
    """Gives the keys as one change, by the action that gives a family its keys."""
    pairs = [
        families.Pair(
            command=each.command, trigger=each.trigger, modes=None, why=why or _reason(each)
        )
        for each in plan.suggestions
    ]
    typed = families.Typed(
        app=app, words=(), row=None, plan=None, modes=None, scheme=scheme, why=why, instead=instead
    )
    return execute(options, context, lambda at: families.prepare_pairs(at, typed, pairs))


def _reason(each: Suggestion) -> str:
    return "; ".join(each.offer.reasons[:2])


def _print(context: Surroundings, view: AppView, plan: Plan, counted_ones: set[str]) -> None:
    app = view.app
    if plan.suggestions:
        print_table(
            context,
            ("title", "key", "instead of", "a week", "saves a week", "home strokes", "why"),
            [
                (
                    app.shown(each.command.id),
                    context.key(each.trigger),
                    ", ".join(map(str, each.had)),
                    f"{each.a_week:.1f}" if each.command.id in counted_ones else "",
                    f"{each.saves:.0f} s" if each.command.id in counted_ones else "",
                    f"{each.offer.strokes:.1f}",
                    ", ".join(each.offer.reasons),
                )
                for each in plan.suggestions
            ],
        )
    for left in plan.left:
        context.say(f"{app.shown(left.command.id)} {_why(left)}.")
    if plan.suggestions:
        _print_sums(context, plan, counted_ones)


def _print_sums(context: Surroundings, plan: Plan, counted_ones: set[str]) -> None:
    """The seconds that the commands would take, the saving, and the bound that no choice of keys can beat."""
    many = counted(len(plan.suggestions), "command")
    if len(plan.suggestions) == 1:
        starting = f"this {many[2:]}"
    else:
        starting = f"these {many}"
    each = [e.command.id in counted_ones for e in plan.suggestions]
    if not any(each):
        context.say(
            f"Nothing has been counted for {by_number(len(each), 'it', 'them')}, so each counts as one use. "
            f"{BOLD}A press takes {plan.cost / max(len(each), 1):.2f} s{OFF} on the average."
        )
        return
    if not all(each):
        context.say("What was never counted is taken to be used once a week.")
    context.say(
        f"{BOLD}Starting {starting} would take {plan.cost:.1f} s a week{OFF}, "
        f"{plan.now - plan.cost:.0f} s less than now."
    )
    context.say(
        f"No choice of keys can do better than {plan.bound:.1f} s {DIM}(gap {plan.gap:.1%}){OFF}."
    )


def _why(left: LeftOut) -> str:
    keys = joined(map(str, left.has))
    reason = WHY.get(left.why, f"can have no key: because of {left.why}")
    return reason.format(keys=keys)
