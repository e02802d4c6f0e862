"""``purpose``: what people want, whatever each application calls it, and which command serves it."""

import argparse

from olive_compass.cli.options import (
    app_argument,
    command_argument,
    json_option,
    limit_option,
    new_title_argument,
    write_options,
)
from olive_compass.cli.verbs import Verb
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


def _list(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "words", nargs="*", metavar="WORDS", help="words of the purpose's title or other names"
    )
    parser.add_argument(
        "--app", metavar="APP", help="only purposes that this application has a command for"
    )
    parser.add_argument(
        "--unlinked",
        action="store_true",
        help="with --app: only purposes that it has no command for",
    )
    json_option(parser)


def _guess(parser: argparse.ArgumentParser) -> None:
    app_argument(parser, optional=True)
    parser.add_argument(
        "--above",
        type=float,
        metavar="SCORE",
        help="only proposals with this score or more (0 to 1; with --yes 0.8 by default)",
    )
    parser.add_argument(
        "--refused", action="store_true", help="propose again what you answered with no"
    )
    limit_option(parser, "show at most N proposals")
    parser.add_argument("-y", "--yes", action="store_true", help="link all of them without asking")
    write_options(parser)


def _link(parser: argparse.ArgumentParser) -> None:
    _purpose(parser)
    app_argument(parser)
    command_argument(parser, "command", nargs="?", metavar="COMMAND")
    how = parser.add_mutually_exclusive_group()
    how.add_argument("--beside", action="store_true", help="keep the commands that are linked now")
    how.add_argument(
        "--remove", action="store_true", help="link no command of the application to it any more"
    )
    write_options(parser)


def _new(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("title", metavar="TITLE", help="what a person wants to do, in words")
    parser.add_argument("--group", default="", metavar="GROUP", help="its group in the list")
    parser.add_argument(
        "--risk",
        choices=RISKS,
        default=RISKS[0],
        help=f"what a mistake costs (default: {RISKS[0]})",
    )
    _other_names(parser)
    write_options(parser)


def _rename(parser: argparse.ArgumentParser) -> None:
    _purpose(parser)
    new_title_argument(parser)
    _other_names(parser)
    write_options(parser)


def _merge(parser: argparse.ArgumentParser) -> None:
    _purpose(parser)
    parser.add_argument(
        "others", nargs="+", metavar="PURPOSE", help="the purposes to merge into it"
    )
    write_options(parser)


def _split(parser: argparse.ArgumentParser) -> None:
    _purpose(parser)
    parser.add_argument("title", metavar="TITLE", help="the title of the new purpose")
    parser.add_argument(
        "--app",
        dest="apps",
        nargs="+",
        required=True,
        metavar="APP",
        help="the applications that move to the new one",
    )
    write_options(parser)


def _remove(parser: argparse.ArgumentParser) -> None:
    _purpose(parser)
    write_options(parser)


def _purpose(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("purpose", metavar="PURPOSE", help="a purpose, by id or name")


def _other_names(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "--name",
        dest="names",
        action="append",
        default=[],
        metavar="NAME",
        help="another name for it",
    )


VERBS = (
    Verb(
        name="list",
        help="list the purposes with their commands",
        options=_list,
        work="sharing.purposes.list_purposes",
    ),
    Verb(
        name="guess",
        help="find commands that do the same job, and propose links",
        options=_guess,
        work="sharing.guessing.guess",
    ),
    Verb(
        name="link",
        help="link a command of an application to a purpose",
        options=_link,
        work="sharing.purposes.link",
    ),
    Verb(name="new", help="create a purpose", options=_new, work="sharing.purpose_edits.new"),
    Verb(
        name="rename",
        help="rename a purpose; the old title stays as another name",
        options=_rename,
        work="sharing.purpose_edits.rename",
    ),
    Verb(
        name="merge",
        help="merge purposes into one",
        options=_merge,
        work="sharing.purpose_edits.merge",
    ),
    Verb(
        name="split",
        help="split off a purpose for some applications",
        options=_split,
        work="sharing.purpose_edits.split",
    ),
    Verb(
        name="remove",
        help="remove a purpose with its links",
        options=_remove,
        work="sharing.purpose_edits.remove",
    ),
)
