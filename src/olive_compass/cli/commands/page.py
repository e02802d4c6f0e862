"""``page``: the keys of applications as one page for a browser."""

import argparse

from olive_compass.cli import pick
from olive_compass.cli.options import Common, json_option, keys_as_option
from olive_compass.cli.output.new_file import claimed, write_new
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.wording import counted

GROUP = "look, check"
ORDER = 60
SUMMARY = "Create a web page with the keyboard, a search and all keys"
EXAMPLES = """olive-compass page -o keys.html
olive-compass page quillmap tagwright --out keys.html"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("apps", nargs="*", metavar="APP", help="the applications (default: all)")
    parser.add_argument(
        "-o", "--out", metavar="FILE", required=True, help="output file; must not exist yet"
    )
    keys_as_option(parser)
    json_option(parser)


class PageOptions(Common, kw_only=True):
    """The options of ``page``."""

    apps: list[str]
    out: str
    keys_as: str | None
    json: bool


def run(args: PageOptions, context: Surroundings) -> int:
    claimed(context, args.out)
    desk = pick.desk(args, context)
    pick.show_keys(args.keys_as, context, desk, args.apps)
    names = list(dict.fromkeys(desk.app_name(name) for name in args.apps)) or desk.app_names()
    if not names:
        desk.app_name("")
    from olive_compass.cli.output.key_pages import shown
    from olive_compass.drawing.key_page import as_page

    subtitle = " · ".join(
        (
            f"{desk.keyboard.form.title if desk.keyboard.form else ''}, {desk.settings.layout}",
            context.now().date().isoformat(),
        )
    )
    text = as_page(desk.settings.name, subtitle, [shown(desk, context, name) for name in names])
    write_new(context, args.out, text.encode())
    if args.json:
        context.json({"file": args.out, "apps": names, "bytes": len(text.encode())})
    else:
        context.report(f"Written: {args.out} ({counted(len(names), 'application')}).")
    return 0
