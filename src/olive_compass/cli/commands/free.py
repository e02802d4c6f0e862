"""``free``: which keys nobody has taken, as a compact map."""

import argparse
from collections.abc import Sequence

from olive_compass.cli import exit_status, pick
from olive_compass.cli.changing import objections
from olive_compass.cli.intake.guesses import say_what_is_guessed
from olive_compass.cli.looking.free_map import print_map
from olive_compass.cli.options import (
    Common,
    app_argument,
    command_argument,
    factory_option,
    json_option,
    limit_option,
    mode_option,
)
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, DIM, OFF
from olive_compass.cli.terminal.tables import print_table
from olive_compass.core.answers.free import FreeAnswer, free_keys
from olive_compass.core.apps.app import App, Command
from olive_compass.core.apps.modes import ROOT, joined
from olive_compass.core.changes.view import AppView
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.free import left_after
from olive_compass.core.schemes.offers import Offer
from olive_compass.core.schemes.view import View
from olive_compass.core.wording import counted, sequences_of
from olive_compass.desk.desk import Desk
from olive_compass.desk.views import app_view, judging_view
from olive_compass.errors import UserError

GROUP = "first steps"
ORDER = 70
SUMMARY = "Show the free keys, or the best ones for a command"
EXAMPLES = """olive-compass free quillmap
olive-compass free quillmap --mode draw
olive-compass free quillmap --after S --mode draw
olive-compass free quillmap --for "Spot height\""""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    mode_option(parser, "free in this mode (default: in every mode)")
    parser.add_argument(
        "--after",
        metavar="KEYS",
        help="show the keys that are free after the beginning of a sequence: --after S",
    )
    factory_option(parser)
    command_argument(
        parser,
        "--for",
        dest="command",
        metavar="COMMAND",
        help="rank the free keys for this command",
    )
    limit_option(parser, "rank at most N keys (default: 12)", 12)
    json_option(parser)


class FreeOptions(Common, kw_only=True):
    """The options of ``free``."""

    app: str
    mode: str | None
    after: str | None
    only: str | None
    command: str | None
    limit: int
    json: bool


def run(args: FreeOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    name = desk.app_name(args.app)
    view = (judging_view if args.command else app_view)(desk, name, args.only)
    if args.after:
        return _after(args.after, args.mode, args.json, context, view)
    command = None
    if args.command:
        command = pick.command(view.app, args.command, context)
    named = (pick.mode(view.app, args.mode),) if args.mode else ()
    found = free_keys(view, command, named, args.limit)
    why = _why(desk, view, found)
    if args.json:
        from olive_compass.desk.reported.free import free_report

        context.json(free_report(view.app.name, command, found, why))
    else:
        _say_free(context, view, found, everywhere=not named and not command)
        _print(view, command, found, why, context)
    if command:
        return exit_status.found(found.ranked)
    return exit_status.found(found.count)


def _say_free(context: Surroundings, view: AppView, found: FreeAnswer, everywhere: bool) -> None:
    where = "in every mode"
    if not everywhere:
        where = view.app.modes.phrase(found.modes)
    title = f"{BOLD}{view.app.title}{OFF}"
    context.say(f"{title}: {found.count} of {len(found.slots)} keys are free {where}.")


def _print(
    view: View,
    command: Command | None,
    found: FreeAnswer,
    why: list[str],
    context: Surroundings,
) -> None:
    """The keys that suit a command, or all that are free."""
    if command:
        _print_offers(command, found, why, context)
    else:
        print_map(view, found.map, found.modes, context)
        _print_easiest(found.ranked, view.hand, context)
    say_what_is_guessed(context, view.app)


def _why(desk: Desk, view: AppView, found: FreeAnswer) -> list[str]:
    """Why the command itself can have no further key, in sentences."""
    against = found.against
    if against is None:
        return []
    return [objections.objection_text(desk, view, against, each) for each in against.own]


def _after(
    after: str, asked_mode: str | None, as_json: bool, context: Surroundings, view: AppView
) -> int:
    """The keys that are left after the beginning of a run, and those that go on from it."""
    app, keymap = view.app, view.keymap
    first = _beginning(app, after)
    modes = app.modes.inside((pick.mode(app, asked_mode),) if asked_mode else (ROOT,))
    press = keymap.keyboard.press_of(first)
    longer = {c for mode in modes for c in keymap.decide_press(press, mode).longer}
    left = left_after(keymap, first, modes)
    taken = sorted({(str(c.trigger), view.meaning(c.does)) for c in longer})
    if as_json:
        context.json(
            {
                "app": app.name,
                "modes": list(modes),
                "after": str(first),
                "free": left,
                "taken": [{"key": key, "title": title} for key, title in taken],
            }
        )
    else:
        _say_after(context, view, first, modes, left, taken)
        _say_alone(context, view, first, modes, begins_any=bool(longer))
    return exit_status.found(left)


def _say_alone(
    context: Surroundings, view: AppView, first: Run, modes: tuple[str, ...], begins_any: bool
) -> None:
    """What the beginning of a run does by itself, and that it has to wait."""
    press = view.keymap.keyboard.press_of(first)
    alone = {c for mode in modes for c in view.keymap.winners(press, mode)}
    meanings = joined(dict.fromkeys(view.meaning(c.does) or "a mute" for c in alone))
    if meanings:
        context.say(f"{first} alone is {meanings}: each sequence after it makes that one wait.")
    elif not begins_any:
        context.say(f"Nothing begins with {first} yet.")


def _beginning(app: App, text: str) -> Run:
    """A trigger that a longer one can begin with. Raises ``UserError`` where the application takes no
    longer one."""
    first = pick.trigger(app, text)
    most = app.rules.longest_sequence
    if len(first.strokes) < most:
        return first
    raise UserError(
        f"{app.title} takes {sequences_of(most)}, so nothing goes on after {first}.",
        hint=f"See olive-compass app rules {app.name}",
    )


def _say_after(
    context: Surroundings,
    view: AppView,
    first: Run,
    modes: tuple[str, ...],
    left: Sequence[str],
    taken: Sequence[tuple[str, str]],
) -> None:
    app, where = view.app, view.app.modes.phrase(modes)
    context.say(f"{BOLD}{app.title}{OFF}: after {first}, {counted(len(left), 'key')} left {where}.")
    context.say(" ".join(left))
    if taken:
        print_table(context, ("goes on", "to"), taken)


def _print_offers(
    command: Command, found: FreeAnswer, why: list[str], context: Surroundings
) -> None:
    """The keys for one command, by the figure that orders them: less is better."""
    for says in why:
        context.say(f"{says}.")
    if not found.ranked:
        if not why:
            context.say(f"For {BOLD}{command.title}{OFF} no key is free with nothing against it.")
        return
    place = ""
    if why:
        place = ", in the place of what it has (assign --instead)"
    context.say(f"For {BOLD}{command.title}{OFF}{place}, the best first (a low score is good):")
    print_table(
        context,
        ("key", "score", "home strokes", "why"),
        [
            (
                str(each.trigger),
                f"{each.score:.1f}",
                f"{each.strokes:.1f}",
                ", ".join(each.reasons),
            )
            for each in found.ranked
        ],
    )
    context.say(f"{DIM}A home stroke is what the strongest finger spends on its home key.{OFF}")


def _print_easiest(ranked: list[Offer], hand: str, context: Surroundings) -> None:
    easiest = "   ".join(
        f"{each.trigger}{'*' if 'alone' in ' '.join(each.reasons) else ''}" for each in ranked
    )
    context.say(f"easiest: {easiest}" if easiest else "easiest: none is free with one modifier")
    if hand != "both" and easiest:
        context.say(f"{DIM}* the {hand} hand alone; for one command: --for COMMAND{OFF}")
