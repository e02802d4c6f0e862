"""``app``: takes an application's own listing in as a catalogue, and shows catalogues."""

import argparse

from olive_compass.cli.options import app_argument, json_option
from olive_compass.cli.verbs import Verb

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


def _show_options(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    json_option(parser)


VERBS = (
    Verb(
        name="import",
        aliases=("add",),
        help="import an application's commands and keys from a list",
        options="options",
        work="intake.importing.add",
        retries=False,
    ),
    Verb(
        name="spelling",
        help="show or set how the application writes its keys",
        options="options",
        work="catalogues.spelling.spelling",
    ),
    Verb(
        name="list",
        help="list the applications on this desk",
        options=json_option,
        work="catalogues.showing.list_apps",
        retries=False,
    ),
    Verb(
        name="show",
        help="show an application's commands at a glance",
        options=_show_options,
        work="catalogues.showing.show_app",
        retries=False,
    ),
    Verb(
        name="rules",
        help="show or set what the application allows",
        options="options",
        work="catalogues.ruling.rules",
    ),
    Verb(
        name="mode",
        help="add, move, rename or remove a mode",
        options="options",
        work="catalogues.modes.change_modes",
    ),
    Verb(
        name="mark",
        help="mark commands: long-running, irreversible, used often, withdrawn and so on",
        options="mark_options",
        work="catalogues.commands.mark",
    ),
    Verb(
        name="command",
        help="add, edit or remove a command by hand; later listings keep that",
        options="options",
        work="catalogues.own.change_command",
    ),
    Verb(
        name="kind",
        help="set the kind of commands",
        options="kind_options",
        work="catalogues.commands.kind",
    ),
    Verb(
        name="inputs",
        help="set what a command asks for",
        options="inputs_options",
        work="catalogues.commands.inputs",
    ),
    Verb(
        name="slot",
        help="show or note what is in a slot",
        options="options",
        work="catalogues.slots.slot",
    ),
    Verb(
        name="trays",
        help="show or set the kinds of trays that the application has",
        options="options",
        work="catalogues.trays.tray_kinds",
    ),
    Verb(
        name="rename",
        help="rename an application, wherever it is named",
        options="rename_options",
        work="catalogues.whole.rename",
    ),
    Verb(
        name="remove",
        help="remove an application from the desk, with its schemes, macros and trays",
        options="drop_options",
        work="catalogues.whole.drop",
    ),
)
