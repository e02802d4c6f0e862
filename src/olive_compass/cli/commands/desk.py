"""``desk``: makes a desk, and shows what is on it."""

import argparse
import os

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import keep, writing_of
from olive_compass.cli.options import Common, WriteOptions, json_option, write_options
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.cli.terminal.tables import print_fields, print_table
from olive_compass.cli.verbs import Verb
from olive_compass.core.keys.keyboards import PLATFORMS
from olive_compass.core.keys.system import SYSTEM_KEYS
from olive_compass.desk.formats import system_file
from olive_compass.desk.formats.desk_file import HANDS, DeskFile, new_text, with_project
from olive_compass.desk.formats.seat_file import SEAT_FILE, with_values
from olive_compass.desk.paths import DESK_FILE, SYSTEM_FILE
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.storage.saving import write_atomically
from olive_compass.desk.views import schemes_active_in
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


def _new_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("folder", metavar="FOLDER")
    parser.add_argument("--name", help="the desk's name (default: the folder's)")
    parser.add_argument("--platform", choices=PLATFORMS, default="pc")
    parser.add_argument(
        "--hand",
        choices=HANDS,
        default="left",
        help="the hand that is free while the other holds the mouse",
    )


def _project_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("project", nargs="?", metavar="NAME", help="the project, or none")
    write_options(parser)


VERBS = (
    Verb(
        name="new",
        help="create a desk in a folder",
        options=_new_options,
        work="commands.desk.new_desk",
        retries=False,
    ),
    Verb(
        name="show",
        help="show what is on the desk",
        options=json_option,
        work="commands.desk.show_desk",
        retries=False,
    ),
    Verb(
        name="keyboard",
        help="show or set the keyboard, platform and free hand",
        options="keyboard_options",
        work="desks.seat.keyboard",
    ),
    Verb(
        name="seat",
        help="show or set what applies to this computer only",
        options="seat_options",
        work="desks.seat.seat",
    ),
    Verb(
        name="device",
        help="list or describe devices beside the keyboard: a pad, a pedal, a pen",
        options="options",
        work="desks.devices.devices",
    ),
    Verb(
        name="system",
        help="list or change the keys that the operating system takes",
        options="options",
        work="desks.system_keys.system_keys",
    ),
    Verb(
        name="project",
        help="show or set the project whose schemes are active",
        options=_project_options,
        work="commands.desk.set_project",
    ),
    Verb(
        name="update",
        help="rewrite files of an older version",
        options=write_options,
        work="desks.updating.update",
    ),
    Verb(
        name="git",
        help="set up git to merge this desk decision by decision",
        options="options",
        work="sharing.versioning.desk_git",
    ),
)


class DeskNewOptions(Common, kw_only=True):
    """The options of ``desk new``."""

    folder: str
    name: str | None
    platform: str
    hand: str


def new_desk(args: DeskNewOptions, context: Surroundings) -> int:
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


def show_desk(args: DeskShowOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    settings = desk.settings
    apps = [desk.stack(name) for name in desk.app_names()]
    rows = []
    for stack in apps:
        others = [n for n in desk.scheme_names(stack.app.name) if n not in stack.scheme_names]
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
                        "schemes": stack.scheme_names,
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


def set_project(args: DeskProjectOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    if args.project is None:
        if args.json:
            context.json({"project": desk.settings.project or None})
        context.say(f"The desk's project is {desk.settings.project or 'none'}.")
        return 0
    name = ""
    if args.project != "none":
        name = args.project
    data = desk.bytes(DESK_FILE)
    after = data
    if name != desk.settings.project:
        after = with_project(data, name)
    change = FileChange(DESK_FILE, data, after)
    counting = schemes_active_in(desk, name)
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
