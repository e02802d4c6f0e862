"""``purpose``: what people want, whatever each application calls it, and which command serves it."""

import argparse

from olive_compass.cli.changing.saving import retry_on_conflict
from olive_compass.cli.completion import app_names, complete_with, purpose_ids
from olive_compass.cli.options import (
    Verbs,
    app_argument,
    command_argument,
    dry_run_option,
    json_option,
)
from olive_compass.cli.registry import verb
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.sharing.purposes import RISKS

GROUP = "share"
ORDER = 10
SUMMARY = "Link commands that do the same job in different applications"
EXAMPLES = """olive-compass purpose guess
olive-compass purpose guess --yes --dry-run
olive-compass purpose guess tagwright
olive-compass purpose guess tagwright --above 0.9 --yes
olive-compass purpose list
olive-compass purpose list --app quillmap --unlinked
olive-compass purpose link stop quillmap "Drop the line"
olive-compass purpose link stop quillmap --remove
olive-compass purpose new "Measure a slope" --group measuring --name "Gradient"
olive-compass purpose rename stop "Stop what runs now"
olive-compass purpose merge soft-proof preview --dry-run
olive-compass purpose split stop "Stop a shading" --app reliefkiln
olive-compass purpose remove stop --dry-run"""

_VERBS = {
    "list": ("purposes", "list_purposes"),
    "guess": ("guessing", "guess"),
    "link": ("purposes", "link"),
    "new": ("purposes", "new"),
    "rename": ("purposes", "rename"),
    "merge": ("purposes", "merge"),
    "split": ("purposes", "split"),
    "remove": ("purposes", "remove"),
}


def add_arguments(parser: argparse.ArgumentParser) -> None:
    verbs = parser.add_subparsers(dest="verb", metavar="|".join(_VERBS), required=True)
    listing = verbs.add_parser("list", help="list the purposes with their commands")
    listing.add_argument(
        "words", nargs="*", metavar="WORDS", help="words of the purpose's title or other names"
    )
    listing.add_argument(
        "--app", metavar="APP", help="only purposes that this application has a command for"
    )
    listing.add_argument(
        "--unlinked",
        action="store_true",
        help="with --app: only purposes that it has no command for",
    )
    json_option(listing)
    guess = verbs.add_parser("guess", help="find commands that do the same job, and propose links")
    app_argument(guess, optional=True)
    guess.add_argument(
        "--above",
        type=float,
        metavar="SCORE",
        help="only proposals with this score or more (0 to 1; with --yes 0.8 by default)",
    )
    guess.add_argument(
        "--refused", action="store_true", help="propose again what you answered with no"
    )
    guess.add_argument("--limit", type=int, metavar="N", help="show at most N proposals")
    guess.add_argument("-y", "--yes", action="store_true", help="link all of them without asking")
    dry_run_option(guess)
    json_option(guess)
    link = verbs.add_parser("link", help="link a command of an application to a purpose")
    _purpose(link)
    app_argument(link)
    command_argument(link, "command", nargs="?", metavar="COMMAND")
    how = link.add_mutually_exclusive_group()
    how.add_argument("--beside", action="store_true", help="keep the commands that are linked now")
    how.add_argument(
        "--remove", action="store_true", help="link no command of the application to it any more"
    )
    dry_run_option(link)
    json_option(link)
    _own_arguments(verbs)


def _own_arguments(verbs: Verbs) -> None:
    """The verbs that make purposes, name them, put them together and apart, and get rid of them."""
    new = verbs.add_parser("new", help="create a purpose")
    new.add_argument("title", metavar="TITLE", help="what a person wants to do, in words")
    new.add_argument("--group", default="", metavar="GROUP", help="its group in the list")
    new.add_argument(
        "--risk",
        choices=RISKS,
        default=RISKS[0],
        help=f"what a mistake costs (default: {RISKS[0]})",
    )
    rename = verbs.add_parser(
        "rename", help="rename a purpose; the old title stays as another name"
    )
    _purpose(rename)
    rename.add_argument("title", metavar="TITLE", help="the new title")
    merge = verbs.add_parser("merge", help="merge purposes into one")
    _purpose(merge)
    others = merge.add_argument(
        "others", nargs="+", metavar="OTHER", help="the purposes to merge into it"
    )
    complete_with(others, purpose_ids)
    split = verbs.add_parser("split", help="split off a purpose for some applications")
    _purpose(split)
    split.add_argument("title", metavar="TITLE", help="the title of the new purpose")
    apps = split.add_argument(
        "--app",
        dest="apps",
        nargs="+",
        required=True,
        metavar="APP",
        help="the applications that move to the new one",
    )
    complete_with(apps, app_names)
    remove = verbs.add_parser("remove", help="remove a purpose with its links")
    _purpose(remove)
    for each in (new, rename):
        each.add_argument(
            "--name",
            dest="names",
            action="append",
            default=[],
            metavar="NAME",
            help="another name for it",
        )
    for each in (new, rename, merge, split, remove):
        dry_run_option(each)
        json_option(each)


def _purpose(parser: argparse.ArgumentParser) -> None:
    argument = parser.add_argument("purpose", metavar="PURPOSE", help="a purpose, by id or name")
    complete_with(argument, purpose_ids)


def run(args: argparse.Namespace, context: Surroundings) -> int:
    module, function = _VERBS[args.verb]
    work = verb(f"sharing.{module}", function)
    return retry_on_conflict(lambda: work(args, context), context)
