"""``desk``: makes a desk, and shows what is on it."""

import argparse
import os

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import keep, writing_of
from olive_compass.cli.changing.saving import retry_on_conflict
from olive_compass.cli.options import Common, WriteOptions, dry_run_option, json_option
from olive_compass.cli.registry import typed
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.cli.terminal.tables import print_fields, print_table
from olive_compass.core.keys.keyboards import PLATFORMS
from olive_compass.core.keys.system import SYSTEM_KEYS
from olive_compass.core.schemes.layers import PROJECT
from olive_compass.desk.desk import DESK_FILE, SYSTEM_FILE
from olive_compass.desk.formats import system_file
from olive_compass.desk.formats.desk_file import HANDS, DeskFile, new_text, with_project
from olive_compass.desk.formats.seat_file import SEAT_FILE, with_values
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.storage.saving import write_atomically
from olive_compass.errors import UserError

GROUP = "first steps"
ORDER = 20
SUMMARY = "Create or show a desk, the folder that holds all your schemes"
EXAMPLES = """olive-compass desk new my-desk --name "My desk"
olive-compass desk show
olive-compass desk keyboard --form iso-laptop --layout german
olive-compass desk keyboard --add iso-laptop/german
olive-compass desk seat --name Klara --licence foldpress:varnish=yes
olive-compass desk device new footswitch --controls left,right --hand foot
olive-compass desk device new pad --grid 3x4 --dials D1,D2 --hand left
olive-compass desk device list
olive-compass desk project harbour-charts
olive-compass desk system off Ctrl+Escape
olive-compass desk update --dry-run
olive-compass desk git
olive-compass desk git --off"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    from olive_compass.cli.desks.devices import arguments as device_arguments

    verbs = parser.add_subparsers(
        dest="verb",
        metavar="new|show|keyboard|seat|device|system|project|update|git",
        required=True,
    )
    new = verbs.add_parser("new", help="create a desk in a folder")
    new.add_argument("folder", metavar="FOLDER")
    new.add_argument("--name", help="the desk's name (default: the folder's)")
    new.add_argument("--platform", choices=PLATFORMS, default="pc")
    new.add_argument(
        "--hand",
        choices=HANDS,
        default="left",
        help="the hand that is free while the other holds the mouse",
    )
    json_option(verbs.add_parser("show", help="show what is on the desk"))
    board = verbs.add_parser("keyboard", help="show or set the keyboard, platform and free hand")
    board.add_argument("--form", help="ansi-104, iso-105, iso-laptop …; list shows all")
    board.add_argument("--layout", help="us, german, french …; list shows all")
    board.add_argument("--platform", choices=PLATFORMS)
    board.add_argument("--hand", choices=HANDS)
    board.add_argument(
        "--add",
        action="append",
        default=[],
        metavar="FORM/LAYOUT",
        help="add another keyboard of this computer; keys must work on it, too",
    )
    board.add_argument(
        "--remove",
        action="append",
        default=[],
        metavar="FORM/LAYOUT",
        help="remove a keyboard that this computer no longer has",
    )
    dry_run_option(board)
    seat = verbs.add_parser("seat", help="show or set what applies to this computer only")
    seat.add_argument("--name", metavar="NAME", help="your name, as the history shows it")
    seat.add_argument(
        "--licence",
        action="append",
        default=[],
        metavar="APP:NAME=yes|no",
        help="whether this computer has a licence",
    )
    dry_run_option(seat)
    json_option(seat)
    device = verbs.add_parser(
        "device", help="list or describe devices beside the keyboard: a pad, a pedal, a pen"
    )
    device_arguments(device)
    system = verbs.add_parser(
        "system", help="list or change the keys that the operating system takes"
    )
    system.add_argument(
        "action",
        nargs="?",
        choices=("on", "off", "add", "remove", "defaults"),
        help="turn a key on or off, add or remove one, or add those of the platform (default: list them)",
    )
    system.add_argument("key", nargs="?", metavar="KEY", help="the key")
    system.add_argument("--does", default="", metavar="TEXT", help="with add: what the key does")
    dry_run_option(system)
    json_option(system)
    json_option(board)
    project = verbs.add_parser("project", help="show or set the project whose schemes are active")
    project.add_argument("project", nargs="?", metavar="NAME", help="the project, or none")
    dry_run_option(project)
    json_option(project)
    update = verbs.add_parser("update", help="rewrite files of an older version")
    dry_run_option(update)
    json_option(update)
    versions = verbs.add_parser("git", help="set up git to merge this desk decision by decision")
    versions.add_argument("--off", action="store_true", help="remove that setup")
    dry_run_option(versions)
    json_option(versions)


def run(args: argparse.Namespace, context: Surroundings) -> int:
    if args.verb == "project":
        return retry_on_conflict(lambda: typed(_project)(args, context), context)
    if args.verb == "update":
        from olive_compass.cli.desks.updating import update

        return retry_on_conflict(lambda: typed(update)(args, context), context)
    if args.verb == "git":
        from olive_compass.cli.sharing.versioning import desk_git

        return retry_on_conflict(lambda: typed(desk_git)(args, context))
    if args.verb == "device":
        from olive_compass.cli.desks.devices import devices

        return retry_on_conflict(lambda: typed(devices)(args, context), context)
    if args.verb in ("keyboard", "seat"):
        from olive_compass.cli.desks import seat

        work = seat.keyboard if args.verb == "keyboard" else seat.seat
        return retry_on_conflict(lambda: typed(work)(args, context), context)
    if args.verb == "system":
        from olive_compass.cli.desks.system_keys import system_keys

        return retry_on_conflict(lambda: typed(system_keys)(args, context), context)
    if args.verb == "new":
        return typed(_new)(args, context)
    return typed(_show)(args, context)


class DeskNewOptions(Common, kw_only=True):
    """The options of ``desk new``."""

    folder: str
    name: str | None
    platform: str
    hand: str


def _new(args: DeskNewOptions, context: Surroundings) -> int:
    folder = os.path.join(context.folder, args.folder)
    file = os.path.join(folder, DESK_FILE)
    if os.path.exists(file):
        raise UserError(
            "There is a desk in this folder already; nothing was changed.", file=args.folder
        )
    name = args.name or os.path.basename(os.path.abspath(folder))
    settings = DeskFile(name=name)
    own = {"platform": args.platform, "keyboards": ["ansi-104/us"], "hand": args.hand}
    try:
        system = os.path.join(folder, SYSTEM_FILE)
        if not os.path.exists(system):
            write_atomically(
                system, system_file.new_text(SYSTEM_KEYS[args.platform], args.platform)
            )
        write_atomically(file, new_text(settings))
        write_atomically(os.path.join(folder, SEAT_FILE), with_values(None, own))
    except OSError as error:
        raise UserError(f"The desk cannot be made: {error.strerror}.", file=args.folder) from error
    context.report(f"Created the desk “{name}” in {args.folder}.")
    context.report("Next: go to that folder, then olive-compass app import NAME --from FILE")
    return 0


class DeskShowOptions(Common, kw_only=True):
    """The options of ``desk show``."""

    json: bool


def _show(args: DeskShowOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    settings = desk.settings
    apps = [desk.stack(name) for name in desk.app_names()]
    rows = []
    for stack in apps:
        others = [
            n
            for n in desk.scheme_names(stack.app.name)
            if n not in [scheme.name for scheme in stack.schemes]
        ]
        rows.append((stack, others))
    if args.json:
        context.json(
            {
                "name": settings.name,
                "folder": desk.root,
                "platform": settings.platform,
                "keyboard": {"form": settings.form, "layout": settings.layout},
                "hand": settings.hand,
                "apps": [
                    {
                        "name": stack.app.name,
                        "title": stack.app.title,
                        "version": stack.app.version,
                        "commands": len(stack.app.catalogue.commands),
                        "schemes": [scheme.name for scheme in stack.schemes],
                        "other-schemes": others,
                    }
                    for stack, others in rows
                ],
            }
        )
        return 0
    context.say(f"{BOLD}{settings.name}{OFF}")
    print_fields(
        context,
        [
            ("folder", desk.root),
            ("platform", settings.platform),
            ("keyboard", f"{settings.form}, layout {settings.layout}"),
            ("and", ", ".join(desk.seat.keyboards[1:])),
            ("seat", desk.seat.name),
            ("free hand", settings.hand),
        ],
    )
    if not rows:
        context.say("No application yet. Add one: olive-compass app import NAME --from FILE")
        return 0
    print_table(
        context,
        ("app", "version", "commands", "active schemes", "other schemes"),
        [
            (
                stack.app.name,
                stack.app.version,
                str(len(stack.app.catalogue.commands)),
                " over ".join(stack.names),
                ", ".join(others),
            )
            for stack, others in rows
        ],
    )
    return 0


class DeskProjectOptions(WriteOptions, kw_only=True):
    """The options of ``desk project``."""

    project: str | None


def _project(args: DeskProjectOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    if args.project is None:
        if args.json:
            context.json({"project": desk.settings.project or None})
        context.say(f"The desk's project is {desk.settings.project or 'none'}.")
        return 0
    name = "" if args.project == "none" else args.project
    data = desk.bytes(DESK_FILE)
    after = with_project(data, name) if name != desk.settings.project else data
    change = FileChange(DESK_FILE, data, after)
    counting = [
        f"{app}/{scheme.name}"
        for app in desk.app_names()
        for scheme in (desk.scheme(desk.app(app), each) for each in desk.stack_names(app))
        # A project's scheme without a project's name counts in all of them.
        if scheme.layer == PROJECT and scheme.project in ("", name)
    ]
    what = f"Desk: set the project to {name or 'none'}"
    lines = (f"Its active schemes: {', '.join(counting) or 'none'}.",)
    return keep(
        writing_of(args),
        context,
        desk,
        [change],
        what,
        lines,
        project=name or None,
        schemes=counting,
    )
