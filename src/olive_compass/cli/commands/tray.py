"""``tray``: menus, bars and tabs of one's own, with favourites in groups, or filling themselves."""

import argparse

from olive_compass.cli.changing.saving import retry_on_conflict
from olive_compass.cli.completion import complete_with, tray_names
from olive_compass.cli.options import (
    Verbs,
    app_argument,
    command_argument,
    dry_run_option,
    json_option,
)
from olive_compass.cli.registry import verb
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.schemes.layers import HOUSE, SCHEME_LAYERS

GROUP = "automate"
ORDER = 30
SUMMARY = "Put favourite commands on a menu, bar or tab of your own"
EXAMPLES = """olive-compass tray new quillmap/"Evening" --kind tab --place first --why "what the evenings need"
olive-compass tray new quillmap/"By menu" --kind tab --fill missing-key 8
olive-compass tray list
olive-compass tray show quillmap/harbour-day
olive-compass tray add quillmap/harbour-day Bearing Beacon --group Survey --dry-run
olive-compass tray remove harbour-day Wreck --dry-run
olive-compass tray move harbour-day Wreck --before Buoy --dry-run
olive-compass tray group harbour-day "On paper" --before Lights --dry-run
olive-compass tray rename harbour-day "Harbour days" --dry-run
olive-compass tray place harbour-day before Edit --dry-run
olive-compass tray off harbour-day --dry-run
olive-compass tray on harbour-day --dry-run
olive-compass tray letter harbour-day H --dry-run
olive-compass tray copy harbour-day foldpress --kind menu --dry-run
olive-compass tray reset harbour-day --as-in factory --dry-run"""

#: The verbs that edit one tray: each with what it does.
_VERBS = {
    "list": ("showing", "list_trays"),
    "show": ("showing", "show_tray"),
    "copy": ("copying", "copy"),
}


def add_arguments(parser: argparse.ArgumentParser) -> None:
    verbs = parser.add_subparsers(dest="verb", metavar="VERB", required=True)
    _new(_writes(verbs, "new", "create a tray"))
    listing = verbs.add_parser("list", help="list the trays on this desk")
    app_argument(listing, optional=True)
    json_option(listing)
    show = verbs.add_parser("show", help="show what is on a tray now, and why")
    _which(show)
    json_option(show)
    add = _writes(verbs, "add", "add commands, macros, trays or separators (-)")
    command_argument(
        add,
        "items",
        nargs="+",
        metavar="COMMAND",
        help="a command: its id, its title, its menu path, or a part that fits only one",
    )
    _where(add)
    drop = _writes(verbs, "remove", "remove items from a tray")
    drop.add_argument(
        "items", nargs="+", metavar="ITEM", help="an item: its id, its title or a part of it"
    )
    move = _writes(verbs, "move", "move an item on a tray")
    move.add_argument("item", metavar="ITEM")
    _where(move)
    _group(_writes(verbs, "group", "add, rename, move or remove a group"))
    rename = _writes(verbs, "rename", "rename a tray; its keys stay")
    rename.add_argument("title", metavar="TITLE", help="the new title")
    place = _writes(verbs, "place", "move a tray among the application's menus, bars or tabs")
    place.add_argument(
        "place", nargs="+", metavar="PLACE", help="first, last, before MENU or after MENU"
    )
    letter = _writes(verbs, "letter", "set the access letter of a tray, or none")
    letter.add_argument("letter", metavar="LETTER", help="one letter, or none")
    _writes(verbs, "off", "turn a tray off; nothing of it is lost")
    _writes(verbs, "on", "turn a tray on again")
    copy = _writes(
        verbs, "copy", "copy a tray to another application, by the purposes of its items"
    )
    copy.add_argument("other", metavar="APP", help="the other application, or APP/NAME")
    copy.add_argument("--kind", metavar="KIND", help="its kind there")
    reset = _writes(verbs, "reset", "restore a tray as the house or the application has it")
    reset.add_argument("--group", metavar="GROUP", help="only this group")
    reset.add_argument(
        "--as-in",
        default=HOUSE,
        metavar="NAME",
        help="as this layer has it (default: house; factory: removes it)",
    )


def _which(parser: argparse.ArgumentParser) -> None:
    which = parser.add_argument("which", metavar="APP/TRAY")
    complete_with(which, tray_names)


def _writes(verbs: Verbs, name: str, does: str) -> argparse.ArgumentParser:
    parser: argparse.ArgumentParser = verbs.add_parser(name, help=does)
    _which(parser)
    parser.add_argument(
        "--layer", choices=SCHEME_LAYERS, help="the scheme layer (default: personal)"
    )
    dry_run_option(parser)
    json_option(parser)
    return parser


def _new(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "--kind", metavar="KIND", help="tab, bar, menu or another kind that the application has"
    )
    parser.add_argument(
        "--place",
        default="last",
        metavar="PLACE",
        help="first, last, 'before Edit', 'after Help' (default: last)",
    )
    parser.add_argument(
        "--fill",
        nargs=2,
        metavar=("WHAT", "N"),
        help="let it fill itself with N commands: used last (recent), used most (most), or used from the menu without a key (missing-key)",
    )
    parser.add_argument(
        "--mode", action="append", metavar="MODE", help="with --fill: count only this mode"
    )
    parser.add_argument("--letter", metavar="LETTER", help="its access letter")
    parser.add_argument("--project", default="", metavar="NAME", help="for this project only")
    parser.add_argument("--why", default="", metavar="TEXT", help="the reason")


def _where(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "--group",
        metavar="GROUP",
        help="in this group; a new name creates a group (default: the last)",
    )
    parser.add_argument("--before", default="", metavar="ITEM", help="before this item")
    parser.add_argument("--after", default="", metavar="ITEM", help="after this item")


def _group(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("title", metavar="GROUP")
    what = parser.add_mutually_exclusive_group()
    what.add_argument("--title", dest="title_new", metavar="TEXT", help="the new title")
    what.add_argument("--before", default="", metavar="GROUP", help="before this group")
    what.add_argument("--after", default="", metavar="GROUP", help="after this group")
    what.add_argument("--off", dest="gone", action="store_true", help="remove it, with its items")


def run(args: argparse.Namespace, context: Surroundings) -> int:
    module, function = _VERBS.get(args.verb, ("editing", "edit"))
    work = verb(f"trays.{module}", function)
    if module == "copying":
        return retry_on_conflict(lambda: work(args, context), context)
    return int(work(args, context))
