"""``desk``: makes a desk, and shows what is on it."""

import argparse
import os
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.parsing import json_option
from olive_compass.cli.surroundings import BOLD, OFF, Surroundings
from olive_compass.cli.tables import print_fields, print_table
from olive_compass.core.keys.keyboards import PLATFORMS
from olive_compass.desk.desk import DESK_FILE
from olive_compass.desk.desk_file import HANDS, DeskFile, new_text
from olive_compass.desk.saving import write_atomically
from olive_compass.errors import Refused

GROUP = "start"
ORDER = 20
SUMMARY = "Make a desk, the folder that holds all schemes, or show what is on it"
EXAMPLES = """olive-compass desk new my-desk --name "My desk"
olive-compass desk show"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    verbs = parser.add_subparsers(dest="verb", metavar="new|show", required=True)
    new = verbs.add_parser("new", help="make a desk in a folder")
    new.add_argument("folder", metavar="FOLDER")
    new.add_argument("--name", help="what the desk is called (the folder's name)")
    new.add_argument("--platform", choices=PLATFORMS, default="pc")
    new.add_argument(
        "--hand",
        choices=HANDS,
        default="left",
        help="the hand that is free while the other has the mouse",
    )
    json_option(verbs.add_parser("show", help="what is on the desk"))


def run(args: Any, around: Surroundings) -> int:
    return _new(args, around) if args.verb == "new" else _show(args, around)


def _new(args: Any, around: Surroundings) -> int:
    folder = os.path.join(around.folder, args.folder)
    file = os.path.join(folder, DESK_FILE)
    if os.path.exists(file):
        raise Refused(
            "There is a desk in this folder already; nothing was changed.", file=args.folder
        )
    name = args.name or os.path.basename(os.path.abspath(folder))
    settings = DeskFile(name, args.platform, hand=args.hand)
    try:
        write_atomically(file, new_text(settings))
    except OSError as error:
        raise Refused(f"The desk cannot be made: {error.strerror}.", file=args.folder) from error
    around.report(f"Made the desk “{name}” in {args.folder}.")
    around.report("Next: olive-compass app add NAME --from LISTING, in that folder or with --desk")
    return 0


def _show(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    settings = at.settings
    apps = [at.stack(name) for name in at.app_names()]
    rows = []
    for stack in apps:
        others = [
            n
            for n in at.scheme_names(stack.app.name)
            if n not in [scheme.name for scheme in stack.schemes]
        ]
        rows.append((stack, others))
    if args.json:
        around.json(
            {
                "name": settings.name,
                "folder": at.root,
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
    around.say(f"{BOLD}{settings.name}{OFF}")
    print_fields(
        around,
        [
            ("folder", at.root),
            ("platform", settings.platform),
            ("keyboard", f"{settings.form}, layout {settings.layout}"),
            ("free hand", settings.hand),
        ],
    )
    if not rows:
        around.say("No application yet. Add one: olive-compass app add NAME --from LISTING")
        return 0
    print_table(
        around,
        ("app", "version", "commands", "schemes that count", "other schemes"),
        [
            (
                stack.app.name,
                stack.app.version,
                str(len(stack.app.catalogue.commands)),
                " over ".join([*(scheme.name for scheme in stack.schemes), "factory"]),
                ", ".join(others),
            )
            for stack, others in rows
        ],
    )
    return 0
