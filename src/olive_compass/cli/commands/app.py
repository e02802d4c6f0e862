"""``app``: takes an application's own listing in as a catalogue, and shows catalogues."""

import argparse
from collections.abc import Callable
from typing import Any

from msgspec import Struct

from olive_compass.cli import pick
from olive_compass.cli.catalogues.showing import list_apps, show_app
from olive_compass.cli.changing.saving import retry_on_conflict
from olive_compass.cli.options import (
    app_argument,
    dry_run_option,
    forget_option,
    json_option,
    reading_options,
    yes_option,
)
from olive_compass.cli.registry import typed
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import DUPLICATES

GROUP = "first steps"
ORDER = 30
SUMMARY = "Import an application's commands, and set its rules and modes"
EXAMPLES = """olive-compass app import Tagwright --from listings/tagwright-keys.csv
olive-compass app import Notes --from listings/tagwright-keys.csv --pattern '^(?P<title>[^;]+);[^;]*;(?P<keys>[^;]+)'
olive-compass app import Quillmap --from listings/quillmap-5.csv --dry-run
olive-compass app rules quillmap --set most-keys=2 --unlisted "F12=repeats the last command"
olive-compass app spelling quillmap --spell 'C-=Ctrl+' --spell Sft=Shift --dry-run
olive-compass app mode add quillmap trace --inside draw
olive-compass app mode move quillmap vertex --inside canvas --dry-run
olive-compass app mode rename quillmap label lettering --dry-run
olive-compass app mode remove quillmap vertex --into draw --dry-run
olive-compass app mark quillmap "Spot height" --add often
olive-compass app mark reliefkiln "Shade the whole sheet" --remove long-running --dry-run
olive-compass app kind tagwright "Bold" style
olive-compass app command add quillmap "Tide table" --menu "View > Tides" --key Ctrl+Alt+T --dry-run
olive-compass app command edit quillmap "Spot height" --title "Spot level" --dry-run
olive-compass app command remove quillmap "Spot height" --dry-run
olive-compass app import Notes --empty --dry-run
olive-compass app inputs quillmap "Spot height" "at:point height:number"
olive-compass app rules foldpress --reserved "F11=fills the screen"
olive-compass app rules foldpress --unlisted "Ctrl+F9=proofs the last sheet" --dry-run
olive-compass app rules foldpress --unlisted F9= --dry-run
olive-compass app slot reliefkiln "Saved view 3" "Harbour mouth" --dry-run
olive-compass app slot quillmap "Saved view 3" "Quay" --project harbour-charts
olive-compass app trays quillmap
olive-compass app rename foldpress Foldmaster --dry-run
olive-compass app remove foldpress --dry-run
olive-compass app list
olive-compass app show quillmap"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    verbs = parser.add_subparsers(
        dest="verb",
        metavar="import|list|show|rules|spelling|mode|command|mark|kind|inputs|slot|rename|remove",
        required=True,
    )
    add = verbs.add_parser(
        "import",
        aliases=["add"],
        help="import an application's commands and keys from a list",
    )
    add.add_argument("name", metavar="NAME", help="the application's name")
    add.add_argument(
        "--from",
        dest="listing",
        metavar="FILE",
        default="",
        help="its listing: a table (CSV, XLSX, ODS), a page, a PDF, a document (DOCX, ODT), JSON, YAML, TOML, INI, XML "
        "or text; - reads a pipe (default: you are asked, at a terminal)",
    )
    add.add_argument(
        "--empty",
        action="store_true",
        help="start without commands; add them with app command add",
    )
    add.add_argument("--version", default=None, help="the application's version")
    reading_options(add, keeps=True)
    add.add_argument(
        "--duplicates",
        choices=DUPLICATES,
        help="what the application does with a key that is in use",
    )
    add.add_argument(
        "--longest-sequence",
        dest="runs",
        type=int,
        metavar="N",
        help="the longest sequence that the application accepts, in keys (1: no sequences)",
    )
    forget_option(add)
    yes_option(add)
    dry_run_option(add)
    json_option(add)
    spelling = verbs.add_parser("spelling", help="show or set how the application writes its keys")
    app_argument(spelling)
    spelling.add_argument(
        "--spell",
        action="append",
        default=[],
        metavar="WORD=OURS",
        help="a word of the application and what it means, such as 'C-=Ctrl+' or Sft=Shift",
    )
    spelling.add_argument(
        "--remove",
        action="append",
        default=[],
        metavar="WORD",
        help="a word to remove",
    )
    dry_run_option(spelling)
    json_option(spelling)
    json_option(verbs.add_parser("list", help="list the applications on this desk"))
    show = verbs.add_parser("show", help="show an application's commands at a glance")
    app_argument(show)
    json_option(show)
    rules = verbs.add_parser("rules", help="show or set what the application allows")
    app_argument(rules)
    rules.add_argument(
        "--set",
        action="append",
        default=[],
        metavar="RULE=VALUE",
        help="set a rule, such as duplicates=refuse, most-keys=1 or modifiers=Ctrl,Shift",
    )
    rules.add_argument(
        "--swipes",
        action="append",
        default=[],
        metavar="MODE=N",
        help="the number of swipe directions in a mode",
    )
    rules.add_argument(
        "--forget-reading",
        action="store_true",
        help="forget how its lists were read: columns, pattern, form",
    )
    rules.add_argument(
        "--licence",
        action="append",
        default=[],
        metavar="NAME=yes|no",
        help="whether this computer has the licence",
    )
    rules.add_argument(
        "--reserved",
        action="append",
        default=[],
        metavar="KEY=TEXT",
        help="a key that cannot be changed, and what it does (KEY= removes it)",
    )
    rules.add_argument(
        "--unlisted",
        action="append",
        default=[],
        metavar="KEY=TEXT",
        help="a key that works and that no list shows, and what it does (KEY= removes it)",
    )
    dry_run_option(rules)
    json_option(rules)
    for verb, part in _parts().items():
        part.arguments(verbs.add_parser(verb, help=part.help))


class Part(Struct, frozen=True):
    """A verb that has a module of its own: its options, its work, and what it does in a few words."""

    arguments: Callable[[argparse.ArgumentParser], None]
    run: Callable[[Any, Surroundings], int]
    help: str


def _parts() -> dict[str, Part]:
    """What is known of an application, verb by verb."""
    # Loaded here: the list of commands needs none of it.
    from olive_compass.cli.catalogues import commands, modes, own, slots, trays, whole

    return {
        "mode": Part(modes.arguments, modes.run, "add, move, rename or remove a mode"),
        "mark": Part(
            commands.mark_arguments,
            commands.mark,
            "mark commands: long-running, irreversible, used often, withdrawn and so on",
        ),
        "command": Part(
            own.arguments,
            own.run,
            "add, edit or remove a command by hand; later listings keep that",
        ),
        "kind": Part(commands.kind_arguments, commands.kind, "set the kind of commands"),
        "inputs": Part(commands.inputs_arguments, commands.inputs, "set what a command asks for"),
        "slot": Part(slots.slot_arguments, slots.slot, "show or note what is in a slot"),
        "trays": Part(
            trays.arguments, trays.run, "show or set the kinds of trays that the application has"
        ),
        "rename": Part(
            whole.rename_arguments, whole.rename, "rename an application, wherever it is named"
        ),
        "remove": Part(
            whole.drop_arguments,
            whole.drop,
            "remove an application from the desk, with its schemes, macros and trays",
        ),
    }


def run(args: argparse.Namespace, context: Surroundings) -> int:
    if args.verb in ("import", "add"):
        from olive_compass.cli.intake.importing import add

        return typed(add)(args, context)
    if args.verb == "spelling":
        from olive_compass.cli.catalogues.spelling import spelling

        return typed(spelling)(args, context)
    if args.verb == "rules":
        from olive_compass.cli.catalogues.ruling import rules

        return typed(rules)(args, context)
    if part := _parts().get(args.verb):
        return retry_on_conflict(lambda: typed(part.run)(args, context), context)
    desk = pick.open_desk(args.desk, context)
    if args.verb == "list":
        return list_apps(desk, args.json, context)
    return show_app(desk, args.app, args.json, context)
