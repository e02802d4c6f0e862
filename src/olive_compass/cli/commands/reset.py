"""``reset``: puts one command, one key, one mode or a whole scheme back."""

import argparse

from olive_compass.cli import pick
from olive_compass.cli.changing import saying
from olive_compass.cli.changing.running import Work, change_options, execute, options_of
from olive_compass.cli.options import ChangeOptions, app_argument, yes_option
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.changes.change import Answers, Change, Question
from olive_compass.core.changes.reset import Reset, reset
from olive_compass.core.changes.view import AppView
from olive_compass.core.schemes.layers import FACTORY
from olive_compass.core.schemes.resetting import Part
from olive_compass.desk.desk import Desk
from olive_compass.desk.views import app_view
from olive_compass.errors import UserError
from olive_compass.structs import replace

GROUP = "change"
ORDER = 30
SUMMARY = "Restore a command, a key, a mode or a whole scheme"
EXAMPLES = """olive-compass reset quillmap --command "Smooth contour"
olive-compass reset quillmap --key Ctrl+D --as-in house
olive-compass reset quillmap --mode label --dry-run
olive-compass reset quillmap --all --yes"""

MOST_SHOWN = 15


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    which = parser.add_mutually_exclusive_group(required=True)
    which.add_argument("--command", metavar="COMMAND", help="the decisions on this command")
    which.add_argument("--key", metavar="KEY", help="the decisions on this key")
    which.add_argument("--mode", metavar="MODE", help="the decisions that apply in this mode")
    which.add_argument("--all", action="store_true", help="every decision of the scheme")
    parser.add_argument(
        "--as-in",
        metavar="SCHEME",
        default=FACTORY,
        help="restore it as in this scheme (factory: remove the decisions)",
    )
    yes_option(parser)
    change_options(parser)


class ResetOptions(ChangeOptions, kw_only=True):
    """The options of ``reset``."""

    app: str
    command: str | None
    key: str | None
    mode: str | None
    all: bool
    as_in: str


def run(args: ResetOptions, context: Surroundings) -> int:
    return execute(options_of(args), context, lambda desk: _prepare(desk, context, args))


def _prepare(desk: Desk, context: Surroundings, args: ResetOptions) -> Work:
    view = app_view(desk, desk.app_name(args.app))
    scheme = pick.scheme_to_write(desk, view.stack, args.scheme)
    goal = None
    if args.as_in != FACTORY:
        goal = desk.scheme(view.app, args.as_in)
    part, subject = _part(view, context, scheme.assign.keys() | scheme.keyless.keys(), args)
    request = Reset(part=part, scheme=scheme, to=goal)
    return Work(
        view=view,
        decide=lambda answers: reset(view, replace(request, answers=answers)),
        what=lambda _change: f"{view.app.title}: reset {subject} of {scheme.name} to {args.as_in}",
        report=lambda change: _report(view, change),
        ask=lambda question, answers: _ask(context, view, request, question, answers),
        refused=lambda _change: UserError(f"The scheme cannot be reset to itself ({scheme.name})."),
    )


def _part(
    view: AppView, context: Surroundings, decided: set[str], args: ResetOptions
) -> tuple[Part, str]:
    """The thing to restore, and its name."""
    if args.command:
        known = args.command in decided
        if known:
            command = args.command
        else:
            command = pick.command(view.app, args.command, context).id
        return Part(command=command), command
    if args.key:
        trigger = pick.trigger(view.app, args.key)
        return Part(trigger=trigger), str(trigger)
    if args.mode:
        mode = pick.mode(view.app, args.mode)
        return Part(mode=mode), f"the mode {mode}"
    return Part(), "everything"


def _report(view: AppView, change: Change) -> list[str]:
    lines = saying.plain_effects(view, change)
    if len(lines) > MOST_SHOWN:
        lines[MOST_SHOWN:] = [f"and {len(lines) - MOST_SHOWN} more"]
    return lines


def _ask(
    context: Surroundings, view: AppView, request: Reset, question: Question, answers: Answers
) -> Answers:
    change = reset(view, replace(request, answers=replace(answers, sure=True)))
    context.say(f"{question.about} decisions of {request.scheme.name} would go:")
    for line in _report(view, change):
        context.say(line)
    if not (context.interactive and context.ask("Reset all of it? [y/N]").lower() in ("y", "yes")):
        raise UserError("Nothing was changed.", hint="Use --yes to reset all of it.")
    return replace(answers, sure=True)
