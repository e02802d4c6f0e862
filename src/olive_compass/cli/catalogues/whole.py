"""``app rename`` and ``app drop``: an application with all that goes by its name."""

import argparse

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import keep, writing_of
from olive_compass.cli.changing.saving import confirm
from olive_compass.cli.options import WriteOptions, app_argument, write_options, yes_option
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import App
from olive_compass.core.apps.command_ids import slug
from olive_compass.core.wording import counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import purposes_file
from olive_compass.desk.formats.desk_file import without_stack
from olive_compass.desk.paths import DESK_FILE
from olive_compass.desk.storage.file_names import checked_name
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.texts.toml_editor import with_top
from olive_compass.desk.writing.app_files import about_file
from olive_compass.desk.writing.whole_apps import owned, renamed_app
from olive_compass.errors import UserError


def rename_options(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument("title", metavar="TITLE", help="the new title; its folder is renamed, too")
    write_options(parser)


def drop_options(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    yes_option(parser)
    write_options(parser)


class AppRenameOptions(WriteOptions, kw_only=True):
    """The options of ``app rename``."""

    app: str
    title: str


def rename(args: AppRenameOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    old = desk.app_name(args.app)
    title = " ".join(args.title.split())
    new = slug(title)
    if not new:
        raise UserError(
            f"“{args.title}” gives no name for a folder.", hint="Use letters or digits."
        )
    others = [name for name in desk.app_names() if name != old]
    checked_name(new, "an application", others)
    if new in others:
        raise UserError(
            f"There is an application “{new}” on this desk already; nothing was changed."
        )
    files = []
    if new != old:
        files = renamed_app(desk, old, new, title)
    if new == old:
        path, data = about_file(desk, old)
        files = [FileChange(path, data, with_top(data, "title", title))]
    what = f"Renamed {desk.app(old).title} to {title}"
    lines = (f"Its name in commands: {new}. Logs keep the name that it had.",) if new != old else ()
    return keep(writing_of(args), context, desk, files, what, lines, app=new)


class AppRemoveOptions(WriteOptions, kw_only=True):
    """The options of ``app remove``."""

    app: str
    yes: bool


def _goes(desk: Desk, app: App) -> str:
    """How much goes with an application, in words."""
    schemes = [desk.scheme(app, each) for each in desk.scheme_names(app.name)]
    numbers = {
        "command": len(app.catalogue.commands),
        "decision": sum(each.decisions for each in schemes),
        "macro": len(desk.macros(app.name)),
    }
    return ", ".join(counted(number, word) for word, number in numbers.items() if number)


def drop(args: AppRemoveOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    name = desk.app_name(args.app)
    app = desk.app(name)
    paths = [path for path in owned(desk, name) if not path.startswith("documents/")]
    files = [desk.change_of(path, None) for path in paths]
    if name in desk.settings.stacks:
        data = desk.bytes(DESK_FILE)
        files.append(FileChange(DESK_FILE, data, without_stack(data, name)))
    if purposes_file.exists(desk.root):
        path = purposes_file.PURPOSES_FILE
        data = desk.bytes(path)
        files.append(FileChange(path, data, purposes_file.with_app(data, path, name, "")))
    goes = _goes(desk, app)
    what = f"Removed {app.title} from the desk"
    if not args.dry_run:
        if not args.json:
            context.report(f"{app.title} has {goes}.")
        confirm(
            args.yes,
            context,
            "Taking an application away",
            "Do it?",
            "It stays; nothing was changed.",
        )
    return keep(writing_of(args), context, desk, files, what, (f"With it went {goes}.",), app=name)
