"""``app mode``: adds, moves, renames and drops a mode of an application."""

import argparse

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import keep, writing_of
from olive_compass.cli.options import WriteOptions, despite_guard_option, write_options
from olive_compass.cli.sharing.guarding import refuse_guard
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import App
from olive_compass.core.apps.command_ids import slug
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.changes.change import Answers, Refusal
from olive_compass.core.changes.edit_modes import (
    IN_USE,
    INSIDE_ITSELF,
    IS_ROOT,
    THERE,
    EditModes,
    Uses,
    edit_modes,
)
from olive_compass.core.wording import clause, counted
from olive_compass.desk.paths import app_path
from olive_compass.desk.views import app_view
from olive_compass.desk.writing.app_files import mode_files
from olive_compass.errors import UserError


def options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("action", choices=("add", "move", "rename", "remove"))
    parser.add_argument("app", metavar="APP")
    parser.add_argument("mode", metavar="MODE")
    parser.add_argument("new", nargs="?", metavar="NEW", help="with rename: the new name")
    parser.add_argument(
        "--inside",
        metavar="MODE",
        help="with add and move: the mode around it (default: everywhere)",
    )
    parser.add_argument(
        "--into", metavar="MODE", help="with remove: the mode that takes over its commands and keys"
    )
    despite_guard_option(parser)
    write_options(parser)


class AppModeOptions(WriteOptions, kw_only=True):
    """The options of ``app mode``."""

    action: str
    app: str
    mode: str
    new: str | None
    inside: str | None
    into: str | None
    despite: list[str]


def change_modes(args: AppModeOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    name = desk.app_name(args.app)
    view = app_view(desk, name)
    schemes = tuple(desk.scheme(view.app, each) for each in desk.scheme_names(name))
    if args.action == "add":
        mode = slug(args.mode)
        if not mode:
            raise UserError(
                f"“{args.mode}” cannot be the name of a mode.", hint="Use letters or digits."
            )
    else:
        mode = pick.mode(view.app, args.mode)
    request = EditModes(
        verb=args.action,
        mode=mode,
        schemes=schemes,
        parent=pick.mode(view.app, args.inside) if args.inside else ROOT,
        to=_called_then(view.app, args.mode, args.new)
        if args.action == "rename"
        else (pick.mode(view.app, args.into) if args.into else ""),
        answers=Answers(despite=frozenset(args.despite)),
    )
    change = edit_modes(view, request)
    for refusal in change.refusals:
        raise _refused(view.app, mode, refusal)
    for question in change.questions:
        refuse_guard(desk, name, question)
    return keep(
        writing_of(args),
        context,
        desk,
        mode_files(desk, change, request),
        _what(view.app, request),
        app=name,
    )


def _called_then(app: App, mode: str, new: str | None) -> str:
    """The new name of a mode."""
    if not new or not slug(new):
        raise UserError(
            "New name missing.",
            hint=f"Set it: olive-compass app mode rename {app.name} {mode} NEW",
        )
    return slug(new)


def _refused(app: App, mode: str, refusal: Refusal) -> UserError:
    file = app_path(app.name)
    if refusal.what == IS_ROOT:
        return UserError("“everywhere” is the root of all modes; nothing was changed.")
    if refusal.what == THERE:
        return UserError(
            f"{app.title} has a mode “{refusal.about}” already; nothing was changed.", file=file
        )
    if refusal.what == INSIDE_ITSELF:
        return UserError(
            f"“{mode}” cannot lie inside {refusal.about}, which is or lies in itself.", file=file
        )
    assert refusal.what == IN_USE
    uses = refusal.about
    assert isinstance(uses, Uses)
    named = [
        counted(number, word)
        for number, word in (
            (uses.commands, "command"),
            (uses.decisions, "decision"),
            (uses.rules, "rule"),
        )
        if number
    ]
    return UserError(
        f"{' and '.join(named)} of {app.title} name the mode “{mode}”; nothing was changed.",
        file=file,
        hint=f"Name the mode that takes them over: olive-compass app mode remove {app.name} {mode} --into MODE",
    )


def _what(app: App, request: EditModes) -> str:
    texts = {
        "add": f"added mode {request.mode} inside {request.parent}",
        "move": f"moved mode {request.mode} into {request.parent}",
        "rename": f"renamed mode {request.mode} to {request.to}",
        "remove": f"removed mode {request.mode}"
        + clause("; what was in it goes to {}", request.to),
    }
    return f"{app.title}: {texts[request.verb]}"
