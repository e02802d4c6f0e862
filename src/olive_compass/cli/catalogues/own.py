"""``app command``: a command that no listing has, or that it has wrongly, as a person says it."""

import argparse
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import keep, writing_of
from olive_compass.cli.options import WriteOptions, app_argument, command_argument, write_options
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import KINDS, App, Catalogue, Command, CommandKind
from olive_compass.core.apps.command_ids import slug
from olive_compass.core.apps.marking import joined_fields, with_fields
from olive_compass.core.apps.marks import WHOLE
from olive_compass.core.apps.naming import menu_path
from olive_compass.desk.desk import Desk
from olive_compass.desk.writing.app_files import catalogue_change
from olive_compass.errors import UserError
from olive_compass.structs import in_place, replace


def options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "action", choices=("add", "edit", "remove"), help="what to do with the command"
    )
    app_argument(parser)
    command_argument(
        parser,
        "command",
        metavar="COMMAND",
        help="the command; with add: the title of the new command",
    )
    parser.add_argument("--title", metavar="TITLE", help="with edit: the new title")
    parser.add_argument(
        "--menu", metavar="MENU", help="its menu: 'Edit > Lines' (an empty text: no menu)"
    )
    parser.add_argument(
        "--key",
        dest="keys",
        action="append",
        metavar="KEY",
        help="a factory key of the command (an empty text: none)",
    )
    parser.add_argument(
        "--mode",
        dest="modes",
        action="append",
        metavar="MODE",
        help="a mode in which the command can be used",
    )
    parser.add_argument("--does", metavar="TEXT", help="what the command does")
    parser.add_argument("--kind", choices=[each for each in KINDS if each not in ("macro", "tray")])
    write_options(parser)


class AppCommandOptions(WriteOptions, kw_only=True):
    """The options of ``app command``."""

    action: str
    app: str
    command: str
    title: str | None
    menu: str | None
    keys: list[str] | None
    modes: list[str] | None
    does: str | None
    kind: CommandKind | None


def change_command(args: AppCommandOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    app = desk.app(desk.app_name(args.app))
    said = _said(args, app)
    if args.action == "add":
        command = _new(app, args.command, said)
        return _keep(
            args,
            context,
            desk,
            app,
            [*app.catalogue.commands, command],
            f"added the command {command.title}",
            command.id,
        )
    before = pick.command(app, args.command, context)
    if before.is_own:
        raise UserError(
            f"{before.title} is a {before.kind} of this desk, and no command of {app.title}."
        )
    if args.action == "edit":
        if not said:
            raise UserError(
                "Nothing to change was given.",
                hint="Give --title, --menu, --key, --mode, --does or --kind.",
            )
        after = with_fields(before, said)
        what = f"changed {', '.join(said)} of {before.title}"
        commands = in_place(app.catalogue.commands, after)
        return _keep(args, context, desk, app, commands, what, before.id)
    if before.marks.said == WHOLE:
        commands = [each for each in app.catalogue.commands if each.id != before.id]
        return _keep(args, context, desk, app, commands, f"removed {before.title}", before.id)
    # A listing has it, and would bring it back: it is noted that the application has it no longer.
    gone = replace(
        before,
        marks=replace(before.marks, withdrawn=True, said=joined_fields(before.marks.said, "marks")),
    )
    commands = in_place(app.catalogue.commands, gone)
    what = f"marked {before.title} as withdrawn, because a listing has it; no key starts it now"
    return _keep(args, context, desk, app, commands, what, before.id)


def _said(args: AppCommandOptions, app: App) -> dict[str, Any]:
    """The fields that were said, as a command has them."""
    said: dict[str, Any] = {}
    if args.title is not None:
        said["title"] = " ".join(args.title.split())
        if not said["title"]:
            raise UserError("A command needs a title; nothing was changed.")
    if args.menu is not None:
        said["menu"] = menu_path(args.menu, (" > ",))
    if args.keys is not None:
        said["keys"] = tuple(
            dict.fromkeys(pick.trigger(app, key) for key in args.keys if key.strip())
        )
    if args.modes is not None:
        said["modes"] = tuple(dict.fromkeys(pick.mode(app, mode) for mode in args.modes))
    if args.does is not None:
        said["does"] = " ".join(args.does.split())
    if args.kind is not None:
        said["kind"] = args.kind
    return said


def _new(app: App, given: str, said: dict[str, Any]) -> Command:
    title = said.pop("title", " ".join(given.split()))
    menu = said.get("menu", ())
    id_ = ".".join(filter(None, (slug(menu[-1]) if menu else "", slug(title))))
    if not id_:
        raise UserError(f"“{given}” is no title of a command.")
    known = app.catalogue.by_id
    if id_ in known or any(
        each.title.casefold() == title.casefold() and each.menu == menu for each in known.values()
    ):
        raise UserError(
            f"{app.title} has {title} already; nothing was changed.",
            hint=f"To change it: olive-compass app command edit {app.name} {id_} --title TITLE",
        )
    command = Command(id=id_, title=title, **said)
    return replace(command, marks=replace(command.marks, said=WHOLE))


def _keep(
    args: AppCommandOptions,
    context: Surroundings,
    desk: Desk,
    app: App,
    commands: list[Command],
    what: str,
    id_: str,
) -> int:
    after = replace(app, catalogue=Catalogue(tuple(commands), app.catalogue.unreadable))
    files = catalogue_change(desk, after)
    return keep(
        writing_of(args),
        context,
        desk,
        files,
        f"{app.title}: {what}",
        (),
        app=app.name,
        command=id_,
    )
