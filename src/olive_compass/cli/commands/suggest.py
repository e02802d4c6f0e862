"""``suggest``: keys for many commands at once, the cheapest together, with a proven bound."""

import argparse
from typing import Any

from olive_compass.cli import families, pick
from olive_compass.cli.parsing import app_argument, command_argument, dry_run_option, json_option
from olive_compass.cli.running import Options, carry_out
from olive_compass.cli.surroundings import BOLD, DIM, OFF, Surroundings
from olive_compass.cli.tables import print_table
from olive_compass.cli.tallies import since_and_seat, whole_tally
from olive_compass.cli.usage.modelling import model_option, times_of
from olive_compass.core.apps.app import App
from olive_compass.core.apps.modes import joined
from olive_compass.core.changes.change import Answers
from olive_compass.core.changes.view import AppView
from olive_compass.core.command_line import line
from olive_compass.core.usage.looking import a_week, narrowed, used, without_key
from olive_compass.core.usage.tally import weeks_of
from olive_compass.core.worth.solving import Wish
from olive_compass.core.worth.suggesting import LeftOut, Plan, Suggestion, suggest
from olive_compass.desk.desk import Desk
from olive_compass.errors import Refused

GROUP = "worth"
ORDER = 30
SUMMARY = "Propose keys for many commands at once: the cheapest together, with their reasons"
EXAMPLES = """olive-compass suggest quillmap
olive-compass suggest quillmap "Wreck" "Railway" "Steps" --only left-hand
olive-compass suggest reliefkiln --most 5 --dry-run"""

#: How many commands are given keys where nobody says which.
MOST = 10

#: Why a command gets none, in words.
WHY = {
    "no-key-is-free": "no key is free for it",
    "menu-is-quicker": "by the menu, or the key that it has, it is quicker",
    "too-many": "it has as many keys as it may",
    "unassignable": "no key can be given to it",
}


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    command_argument(
        parser,
        "commands",
        nargs="*",
        metavar="COMMAND",
        help="those that are to have keys (those used most without one)",
    )
    parser.add_argument("--most", type=int, metavar="N", help=f"at most N commands ({MOST})")
    parser.add_argument(
        "--only", choices=("left-hand", "right-hand"), help="keys that this hand can press alone"
    )
    parser.add_argument(
        "--move",
        action="store_true",
        help="other keys also for commands that have some, at the price of the habit",
    )
    parser.add_argument(
        "--keep",
        dest="kept",
        action="append",
        default=[],
        metavar="COMMAND",
        help="with --move: a command whose keys stay",
    )
    since_and_seat(parser)
    model_option(parser)
    parser.add_argument("-y", "--yes", action="store_true", help="give them, as one change")
    parser.add_argument("--why", default="", metavar="TEXT", help="with --yes: the reason")
    parser.add_argument("--scheme", metavar="NAME", help="write into this scheme")
    dry_run_option(parser)
    json_option(parser)


def run(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    view = pick.judging_view(at, at.app_name(args.app))
    scheme = pick.scheme_to_write(at, view.stack, args.scheme)
    wishes = _wishes(args, around, at, view)
    if not wishes:
        raise Refused(
            f"Everything that was used in {view.app.title} has a key, or is left bare on purpose.",
            hint="Name commands to have keys for them.",
            status=1,
        )
    times = times_of(args.model, at)
    hand = (args.only or "").removesuffix("-hand")
    plan = suggest(view, wishes, times, hand, args.move, scheme)
    takes = args.yes or args.dry_run
    if args.json and not takes:
        around.json(_as_json(view.app, plan))
    elif not args.json:
        _print(around, view, plan, bool(at.tally_names()))
    if not plan.suggestions:
        return 1
    if not takes:
        words = ("suggest", view.app.name, *args.commands)
        around.say(f"To give them, as one change: {line(*words, '--yes')}")
        return 0
    options = Options(args.desk, args.dry_run, False, args.json, Answers())
    return _give(options, args.app, args.why, args.move, around, plan, scheme.name)


def _wishes(args: Any, around: Surroundings, at: Desk, view: AppView) -> list[Wish]:
    """The commands that are to have keys, and how often a week each is used; once where nobody knows."""
    app = view.app
    tally = narrowed(whole_tally(at), app.name, args.since, args.seat)
    counted_uses = used(tally)
    often = a_week(counted_uses, weeks_of(tally))
    if args.commands:
        chosen = [pick.command(app, name, around) for name in args.commands]
        most = args.most or len(chosen)
    else:
        known = app.catalogue.by_id
        found = counted_uses if args.move else without_key(view.keymap, counted_uses)
        chosen = [known[each.command] for each in found if each.command in known]
        most = args.most or MOST
        if not tally:
            raise Refused(
                f"Nothing was counted of {app.title} yet, so it must be said which commands.",
                hint="Name them, or count logs: olive-compass usage take logs/*.jsonl",
            )
    kept = {pick.command(app, name, around).id for name in args.kept}
    chosen = [each for each in chosen if each.id not in kept]
    return [Wish(each, often.get(each.id, 1.0)) for each in chosen[:most]]


def _give(
    options: Options,
    app: str,
    why: str,
    instead: bool,
    around: Surroundings,
    plan: Plan,
    scheme: str,
) -> int:
    """Gives the keys as one change, by the action that gives a family its keys."""
    pairs = [
        families.Pair(each.command, each.trigger, None, why or _reason(each))
        for each in plan.suggestions
    ]
    wish = families.Wish(app, (), None, None, None, scheme, why, instead)
    return carry_out(options, around, lambda at: families.prepare_pairs(at, wish, pairs))


def _reason(each: Suggestion) -> str:
    return "; ".join(each.offer.reasons[:2])


def _print(around: Surroundings, view: AppView, plan: Plan, counted: bool) -> None:
    app = view.app
    if plan.suggestions:
        print_table(
            around,
            ("title", "key", "instead of", "a week", "saves a week", "home strokes", "why"),
            [
                (
                    app.shown(each.command.id),
                    around.key(each.trigger),
                    ", ".join(map(str, each.had)),
                    f"{each.a_week:.1f}" if counted else "",
                    f"{each.saves:.0f} s" if counted else "",
                    f"{each.offer.strokes:.1f}",
                    ", ".join(each.offer.reasons),
                )
                for each in plan.suggestions
            ],
        )
    for left in plan.left:
        around.say(f"{app.shown(left.command.id)}: {_why(left)}.")
    around.say(
        f"{BOLD}Together {plan.cost:.1f} s a week{OFF}; no plan takes less than {plan.bound:.1f} s "
        f"{DIM}(gap {plan.gap:.1%}){OFF}"
    )
    if plan.suggestions and counted:
        saved = sum(each.saves for each in plan.suggestions)
        many = joined(str(each.trigger) for each in plan.suggestions)
        verb = "saves" if len(plan.suggestions) == 1 else "save"
        around.say(f"{many} {verb} {saved:.0f} s a week.")


def _why(left: LeftOut) -> str:
    return WHY.get(left.why, f"its verdict stands against every key ({left.why})")


def _as_json(app: App, plan: Plan) -> dict[str, Any]:
    return {
        "app": app.name,
        "suggestions": [
            {
                "command": each.command.id,
                "title": app.shown(each.command.id),
                "key": str(each.trigger),
                "a-week": round(each.a_week, 2),
                "saves": round(each.saves, 2),
                "effort": each.offer.strokes,
                "reasons": list(each.offer.reasons),
            }
            for each in plan.suggestions
        ],
        "left-out": [{"command": e.command.id, "why": e.why} for e in plan.left],
        "cost": round(plan.cost, 2),
        "bound": round(plan.bound, 2),
        "gap": round(plan.gap, 4),
    }
