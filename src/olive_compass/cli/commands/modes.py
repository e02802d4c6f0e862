"""``modes``: lets the keys of a command count in fewer modes or in more."""

import argparse

from olive_compass.cli import pick
from olive_compass.cli.changing import saying
from olive_compass.cli.changing.running import Work, change_options, effects, execute, options_of
from olive_compass.cli.options import ChangeOptions, app_argument, command_argument
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.modes import joined
from olive_compass.core.changes.change import Change
from olive_compass.core.changes.modes import NO_MODES, NO_SUCH_KEY, OTHER_WAY, Counts, Modes, modes
from olive_compass.core.changes.view import AppView
from olive_compass.desk.desk import Desk
from olive_compass.desk.views import app_view
from olive_compass.errors import UserError
from olive_compass.structs import replace

GROUP = "change"
ORDER = 70
SUMMARY = "Set the modes in which a command's keys apply"
EXAMPLES = """olive-compass modes quillmap "Check closure" --scheme house
olive-compass modes quillmap "Check closure" --only canvas --scheme house
olive-compass modes quillmap "Check closure" --also label --scheme house"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    command_argument(
        parser,
        "command",
        metavar="COMMAND",
        help="a command: its id, its title, its menu path, or a part that fits only one",
    )
    parser.add_argument("key", metavar="KEY", nargs="?", help="only this key of the command")
    which = parser.add_mutually_exclusive_group()
    which.add_argument(
        "--only",
        action="append",
        metavar="MODE",
        help="only in this mode (default: where the command can be used)",
    )
    which.add_argument("--also", action="append", metavar="MODE", help="also in this mode")
    which.add_argument("--everywhere", action="store_true", help="in every mode")
    change_options(parser)


class ModesOptions(ChangeOptions, kw_only=True):
    """The options of ``modes``."""

    app: str
    command: str
    key: str | None
    only: list[str] | None
    also: list[str] | None
    everywhere: bool


def run(args: ModesOptions, context: Surroundings) -> int:
    return execute(options_of(args), context, lambda desk: _prepare(desk, context, args))


def _prepare(desk: Desk, context: Surroundings, args: ModesOptions) -> Work:
    view = app_view(desk, desk.app_name(args.app))
    scheme = pick.scheme_to_write(desk, view.stack, args.scheme)
    command = pick.command(view.app, args.command, context)
    trigger = None
    if args.key:
        trigger = pick.trigger(view.app, args.key)
    named = tuple(pick.mode(view.app, name) for name in args.also or args.only or ())
    wider = bool(args.also) or args.everywhere
    request = Modes(command=command, scheme=scheme, wider=wider, modes=named, trigger=trigger)
    return Work(
        view=view,
        decide=lambda answers: modes(view, replace(request, answers=answers)),
        what=lambda change: _what(view, request, change),
        report=lambda change: saying.plain_effects(view, change),
        refused=lambda change: _refused(view, request, change),
    )


def _what(view: AppView, request: Modes, change: Change) -> str:
    (counts,) = effects(change, Counts)
    keys = joined(map(str, counts.triggers))
    where = view.app.modes.phrase(view.app.modes.inside(counts.modes))
    verb = "applies"
    if len(counts.triggers) > 1:
        verb = "apply"
    return f"{view.app.title}: {keys} of {request.command.title} {verb} {where}"


def _refused(view: AppView, request: Modes, change: Change) -> UserError | None:
    refusal = change.refusals[0]
    title = request.command.title
    about = refusal.about if isinstance(refusal.about, (list, tuple)) else ()
    if refusal.what == NO_SUCH_KEY:
        others = list(about)
        asked = "a key"
        if request.trigger:
            asked = f"the key {request.trigger}"
        return UserError(
            f"The scheme {view.app.name}/{request.scheme.name} does not give {title} {asked}.",
            hint=f"{others[0]} does: add --scheme {others[0]}."
            if others
            else "A factory key applies in fewer modes once a scheme gives it in those: olive-compass "
            f"assign {view.app.name} {request.command.id} KEY --mode MODE --instead",
        )
    if refusal.what == NO_MODES:
        return UserError(f"{title} can be used everywhere.", hint="Use --only MODE.")
    if refusal.what == OTHER_WAY:
        way = "narrower"
        if request.wider:
            way = "wider"
        return UserError(
            f"{title} has its keys {view.app.modes.phrase(map(str, about))}; that is not {way}.",
            hint=f"Use {'--only' if request.wider else '--also'} MODE.",
        )
    return None
