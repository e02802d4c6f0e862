"""``board``: the keyboard as a picture of text, or a drawn one, with what is used and what is free."""

import argparse

from olive_compass.cli import pick
from olive_compass.cli.looking.boards import BoardOptions, asked
from olive_compass.cli.options import app_argument, factory_option, json_option, mode_option
from olive_compass.cli.output.new_file import into_of, picture_options
from olive_compass.cli.surroundings import Surroundings
from olive_compass.errors import UserError

GROUP = "look, check"
ORDER = 40
SUMMARY = "Draw the keyboard, with used and free keys"
EXAMPLES = """olive-compass board quillmap --mode draw
olive-compass board quillmap --with Ctrl+Shift
olive-compass board quillmap --mode draw --against factory
olive-compass board tagwright --with Ctrl --ascii
olive-compass board quillmap --mode draw --as png --out board.png
olive-compass board quillmap --with Ctrl --with Alt --heat --as pdf --out heat.pdf"""


def add_arguments(parser: argparse.ArgumentParser) -> None:

    app_argument(parser)
    parser.add_argument(
        "--with",
        dest="held",
        action="append",
        default=[],
        metavar="MODIFIERS",
        help="the modifiers held, such as Ctrl+Shift; repeat for another board",
    )
    mode_option(parser, "show this mode (default: keys used in any mode)")
    parser.add_argument(
        "--all-held",
        action="store_true",
        help="draw a board for each combination of modifiers that does anything",
    )
    parser.add_argument(
        "--against",
        metavar="SCHEME",
        help="mark keys that differ from this scheme, such as factory",
    )
    parser.add_argument(
        "--heat",
        action="store_true",
        help="show how often each key's command was used, and the effort of the key",
    )
    picture_options(parser, "picture")
    parser.add_argument(
        "--by",
        choices=("menu", "purpose"),
        default="menu",
        help="the colours of a picture: by menu, or by groups of purposes (default: menu)",
    )
    parser.add_argument("--ascii", action="store_true", help="draw with ASCII characters only")
    factory_option(parser)
    json_option(parser)


def run(args: BoardOptions, context: Surroundings) -> int:
    into = into_of(args)
    desk = pick.desk(args, context)
    what = asked(args, desk)
    if into.form != "text" or args.all_held or into.out:
        from olive_compass.cli.output.board_pictures import picture
        from olive_compass.cli.output.pictures import asked_for

        asked_for(into, args.json, context)
        return picture(into, args.by == "purpose", args.all_held, context, desk, what)
    if args.by != "menu":
        raise UserError(
            "--by is for the colours of a picture.", hint="Name its file: --out board.png"
        )
    from olive_compass.cli.looking.board_texts import print_boards

    return print_boards(args.json, args.ascii, args.mode, context, desk, what)
