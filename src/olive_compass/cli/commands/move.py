"""``move``: gives the key of one command to another, in the modes in which it counted."""

import argparse

from olive_compass.cli import pick
from olive_compass.cli.changing.assignments import report
from olive_compass.cli.changing.running import Work, change_options, effects, execute, options_of
from olive_compass.cli.options import (
    ChangeOptions,
    app_argument,
    command_argument,
    modes_option,
    reason_option,
)
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.changes.change import Change
from olive_compass.core.changes.move import HAS_IT, NOBODY, Move, move
from olive_compass.core.changes.view import AppView
from olive_compass.core.schemes.objections import holders
from olive_compass.core.schemes.verdicts import Verdict
from olive_compass.desk.desk import Desk
from olive_compass.desk.views import judging_view
from olive_compass.errors import UserError
from olive_compass.structs import replace

GROUP = "change"
ORDER = 10
SUMMARY = "Move a key or a swipe from one command to another"
EXAMPLES = """olive-compass move quillmap F9 Sounding --mode draw --why "plates are looked at by menu"
olive-compass move quillmap swipe:120 Sounding --mode draw --dry-run"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument("key", metavar="KEY", help="the key, the sequence or the swipe")
    command_argument(parser, "command", metavar="COMMAND", help="the command that gets it")
    modes_option(parser, "in this mode only (default: in those in which the other command has it)")
    reason_option(parser, "the reason, saved in the scheme")
    change_options(parser)


class MoveOptions(ChangeOptions, kw_only=True):
    """The options of ``move``."""

    app: str
    key: str
    command: str
    mode: list[str] | None
    why: str


def run(args: MoveOptions, context: Surroundings) -> int:
    return execute(options_of(args), context, lambda desk: _prepare(desk, context, args))


def _prepare(desk: Desk, context: Surroundings, args: MoveOptions) -> Work:
    view = judging_view(desk, desk.app_name(args.app))
    scheme = pick.scheme_to_write(desk, view.stack, args.scheme)
    modes = tuple(pick.mode(view.app, name) for name in args.mode or ())
    command = pick.command(view.app, args.command, context)
    request = Move(
        trigger=pick.trigger(view.app, args.key),
        command=command,
        scheme=scheme,
        modes=modes,
        why=args.why,
    )
    return Work(
        view=view,
        decide=lambda answers: move(view, replace(request, answers=answers)),
        what=lambda change: _what(view, request, change),
        report=lambda change: report(desk, view, change),
        why=args.why,
        refused=lambda change: _refused(view, request, change),
    )


def _what(view: AppView, request: Move, change: Change) -> str:
    (found,) = effects(change, Verdict)
    had = dict.fromkeys(
        view.meaning(h.claim.does) for h in found.evidence(holders.KIND) if h.claim.command
    )
    where = view.app.modes.phrase(view.app.modes.inside(found.modes))
    return (
        f"{view.app.title}: moved {request.trigger} from {' and '.join(had) or 'nothing'} to "
        f"{request.command.title} {where}"
    )


def _refused(view: AppView, request: Move, change: Change) -> UserError | None:
    refusal = change.refusals[0]
    name = request.command.title
    if refusal.what == HAS_IT:
        return UserError(f"{name} has {request.trigger} already; nothing was changed.")
    if refusal.what == NOBODY:
        return UserError(
            f"No command has {request.trigger} there; nothing was changed.",
            hint=f"To give it: olive-compass assign {view.app.name} {request.command.id} "
            f"'{request.trigger}'",
        )
    return None
