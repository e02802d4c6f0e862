"""``tray``: menus, bars and tabs of one's own, with favourites in groups, or filling themselves."""

import argparse
from collections.abc import Callable

from olive_compass.cli.options import (
    command_argument,
    json_option,
    layer_option,
    list_options,
    modes_option,
    new_title_argument,
    reason_option,
    write_options,
)
from olive_compass.cli.verbs import Verb
from olive_compass.core.schemes.layers import HOUSE

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


def _which(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("which", metavar="APP/TRAY")


def _tray(parser: argparse.ArgumentParser) -> None:
    """The tray that is changed, and how."""
    _which(parser)
    layer_option(parser)
    write_options(parser)


def _new(parser: argparse.ArgumentParser) -> None:
    _tray(parser)
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
    modes_option(parser, "with --fill: count only this mode")
    parser.add_argument("--letter", metavar="LETTER", help="its access letter")
    parser.add_argument("--project", default="", metavar="NAME", help="for this project only")
    reason_option(parser, "the reason")


def _show(parser: argparse.ArgumentParser) -> None:
    _which(parser)
    json_option(parser)


def _add(parser: argparse.ArgumentParser) -> None:
    _tray(parser)
    command_argument(
        parser,
        "items",
        nargs="+",
        metavar="COMMAND",
        help="a command: its id, its title, its menu path, or a part that fits only one",
    )
    _where(parser)


def _remove(parser: argparse.ArgumentParser) -> None:
    _tray(parser)
    parser.add_argument(
        "items", nargs="+", metavar="ITEM", help="an item: its id, its title or a part of it"
    )


def _move(parser: argparse.ArgumentParser) -> None:
    _tray(parser)
    parser.add_argument("item", metavar="ITEM")
    _where(parser)


def _where(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "--group",
        metavar="GROUP",
        help="in this group; a new name creates a group (default: the last)",
    )
    parser.add_argument("--before", default="", metavar="ITEM", help="before this item")
    parser.add_argument("--after", default="", metavar="ITEM", help="after this item")


def _group(parser: argparse.ArgumentParser) -> None:
    _tray(parser)
    parser.add_argument("title", metavar="GROUP")
    what = parser.add_mutually_exclusive_group()
    what.add_argument("--title", dest="title_new", metavar="TEXT", help="the new title")
    what.add_argument("--before", default="", metavar="GROUP", help="before this group")
    what.add_argument("--after", default="", metavar="GROUP", help="after this group")
    what.add_argument("--off", dest="gone", action="store_true", help="remove it, with its items")


def _rename(parser: argparse.ArgumentParser) -> None:
    _tray(parser)
    new_title_argument(parser)


def _place(parser: argparse.ArgumentParser) -> None:
    _tray(parser)
    parser.add_argument(
        "place", nargs="+", metavar="PLACE", help="first, last, before MENU or after MENU"
    )


def _letter(parser: argparse.ArgumentParser) -> None:
    _tray(parser)
    parser.add_argument("letter", metavar="LETTER", help="one letter, or none")


def _copy(parser: argparse.ArgumentParser) -> None:
    _tray(parser)
    parser.add_argument("other", metavar="APP", help="the other application, or APP/NAME")
    parser.add_argument("--kind", metavar="KIND", help="its kind there")


def _reset(parser: argparse.ArgumentParser) -> None:
    _tray(parser)
    parser.add_argument("--group", metavar="GROUP", help="only this group")
    parser.add_argument(
        "--as-in",
        default=HOUSE,
        metavar="LAYER",
        help="as this layer has it (default: house; factory: removes it)",
    )


def _edits(
    name: str, help: str, options: Callable[[argparse.ArgumentParser], None] = _tray
) -> Verb:
    """A verb that changes one tray."""
    return Verb(name=name, help=help, options=options, work="trays.editing.edit", retries=False)


VERBS = (
    _edits("new", "create a tray", _new),
    Verb(
        name="list",
        help="list the trays on this desk",
        options=list_options,
        work="trays.showing.list_trays",
        retries=False,
    ),
    Verb(
        name="show",
        help="show what is on a tray now, and why",
        options=_show,
        work="trays.showing.show_tray",
        retries=False,
    ),
    _edits("add", "add commands, macros, trays or separators (-)", _add),
    _edits("remove", "remove items from a tray", _remove),
    _edits("move", "move an item on a tray", _move),
    _edits("group", "add, rename, move or remove a group", _group),
    _edits("rename", "rename a tray; its keys stay", _rename),
    _edits("place", "move a tray among the application's menus, bars or tabs", _place),
    _edits("letter", "set the access letter of a tray, or none", _letter),
    _edits("off", "turn a tray off; nothing of it is lost"),
    _edits("on", "turn a tray on again"),
    Verb(
        name="copy",
        help="copy a tray to another application, by the purposes of its items",
        options=_copy,
        work="trays.copying.copy",
    ),
    _edits("reset", "restore a tray as the house or the application has it", _reset),
)
