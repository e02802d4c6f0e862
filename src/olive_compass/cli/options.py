"""The options that several commands have: the functions that declare them, and the records and protocols that type them.

Each command has a record of its options beside its function; ``typed`` makes it from the parsed line. A function
that several commands share names the options that it needs as a protocol.
"""

import argparse
from collections.abc import Callable
from typing import TYPE_CHECKING, Any

from msgspec import Struct

from olive_compass.cli.surroundings import Surroundings
from olive_compass.structs import convert

#: What a command or a verb of it does: with the parsed line and the surroundings, the exit status.
Handler = Callable[[argparse.Namespace, Surroundings], int]


def typed(function: Callable[[Any, Surroundings], int]) -> Handler:
    """A function that takes a record of options, to be called with the parsed line that has them."""
    kind = function.__annotations__["args"]
    if kind is argparse.Namespace:
        return function
    return lambda args, context: function(convert(vars(args), kind), context)


class Common(Struct, kw_only=True, forbid_unknown_fields=True):
    """The options of every command, and the verb that was typed where it has verbs."""

    verb: str = ""
    desk: str | None = None
    quiet: bool = False
    verbose: bool = False
    color: str | None = None


class WriteOptions(Common, kw_only=True):
    """The options of commands that write files of a desk."""

    dry_run: bool
    json: bool


class PaperOptions(Common, kw_only=True):
    """The options of commands that only look, and give what they see in any form, on paper as well."""

    form: str
    out: str | None
    paper: str | None
    landscape: bool
    size: float | None


class ChangeOptions(Common, kw_only=True):
    """The options of commands that change what keys do; some have not all of them."""

    scheme: str | None = None
    despite: list[str] = []
    if_taken: str | None = None
    yes: bool = False
    explain: bool = False
    dry_run: bool = False
    json: bool = False


if TYPE_CHECKING:
    from typing import Protocol

    class HasDesk(Protocol):
        """Which desk is meant."""

        desk: str | None

    class Writes(Protocol):
        """Whether a change is only shown, and whether JSON is printed."""

        dry_run: bool
        json: bool

    class GivesOut(Protocol):
        """The output form, and the file that is written."""

        form: str
        out: str | None

    class OnPaper(GivesOut, Protocol):
        """The same, with the paper, the direction and the size of the letters."""

        paper: str | None
        landscape: bool
        size: float | None


def json_option(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--json", action="store_true", help="print JSON (docs/json.md)")


def json_form_option(parser: argparse.ArgumentParser) -> None:
    """``--json`` of a command of which JSON is one of the forms of ``--as``."""
    parser.add_argument(
        "--json",
        action="store_const",
        const="json",
        dest="form",
        help="the same as --as json (docs/json.md)",
    )


def list_options(parser: argparse.ArgumentParser) -> None:
    """The options of a verb that lists what an application has, or all of them have."""
    app_argument(parser, optional=True)
    json_option(parser)


def keys_as_option(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "--keys-as",
        choices=("pc", "mac", "aria", "xdg", "code", "app"),
        help="show keys in this notation (docs/triggers.md); app: as the application writes them",
    )


def factory_option(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "--factory",
        dest="only",
        action="store_const",
        const="factory",
        help="show the application as it ships, without any scheme",
    )


def seconds(text: str) -> float:
    """A number of seconds, of an option's value. Raises ``argparse.ArgumentTypeError``."""
    try:
        found = float(text)
    except ValueError:
        found = 0
    if not 0 < found <= 86_400:
        raise argparse.ArgumentTypeError(f"“{text}” is no number of seconds (up to 86400)")
    return found


def yes_option(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("-y", "--yes", action="store_true", help="do not ask for confirmation")


def why_option(parser: argparse.ArgumentParser) -> None:
    """The option of commands that ask for a reason."""
    parser.add_argument("--why", required=True, metavar="TEXT", help="the reason")


def reason_option(parser: argparse.ArgumentParser, says: str = "the reason") -> None:
    """The option of commands that take a reason, and go on without one."""
    parser.add_argument("--why", default="", metavar="TEXT", help=says)


def modes_option(parser: argparse.ArgumentParser, says: str = "only in this mode") -> None:
    """The option of commands that take several modes; ``says`` what is done in them."""
    parser.add_argument("--mode", action="append", metavar="MODE", help=says)


def mode_option(parser: argparse.ArgumentParser, says: str) -> None:
    """The option of commands that take one mode."""
    parser.add_argument("--mode", metavar="MODE", help=says)


def limit_option(parser: argparse.ArgumentParser, says: str, usual: int | None = None) -> None:
    """The option of commands whose lists may be long; ``says`` of what at most N are shown."""
    parser.add_argument("--limit", type=int, default=usual, metavar="N", help=says)


def most_option(parser: argparse.ArgumentParser, usual: int) -> None:
    parser.add_argument(
        "--most", type=int, metavar="N", help=f"show at most N commands (default: {usual})"
    )


def layer_option(parser: argparse.ArgumentParser) -> None:
    from olive_compass.core.schemes.layers import SCHEME_LAYERS

    parser.add_argument(
        "--layer", choices=SCHEME_LAYERS, help="the scheme layer (default: personal)"
    )


def new_title_argument(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("title", metavar="TITLE", help="the new title")


def dry_run_option(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "-n", "--dry-run", action="store_true", help="say what would change; write nothing"
    )


def write_options(parser: argparse.ArgumentParser) -> None:
    """The options of ``WriteOptions``."""
    dry_run_option(parser)
    json_option(parser)


def despite_guard_option(parser: argparse.ArgumentParser) -> None:
    """The option of commands that take whole files in, and so may change guarded keys."""
    parser.add_argument(
        "--despite",
        action="append",
        default=[],
        choices=("guard",),
        metavar="OBJECTION",
        help="go on although guarded keys would change: guard",
    )


def forget_option(parser: argparse.ArgumentParser) -> None:
    """The option of commands that read a listing again."""
    from olive_compass.core.apps.carrying import KEPT

    parser.add_argument(
        "--forget",
        action="append",
        default=[],
        choices=KEPT,
        metavar="FIELD",
        help=f"also clear fields that the new list leaves empty: {', '.join(KEPT)}",
    )


def reading_options(parser: argparse.ArgumentParser, *, keeps: bool) -> None:
    """The options that say how a listing is read; ``keeps``: the command keeps them for later."""
    kept = "this once"
    if keeps:
        kept = "it is kept"
    group = parser.add_argument_group(
        f"how the listing is read ({kept}; guessed where nothing is said)"
    )
    group.add_argument(
        "--column",
        dest="columns",
        action="append",
        default=[],
        metavar="FIELD=HEADING",
        help="which column holds title, keys, keys-elsewhere, menu, mode, id, kind or does; by its heading or number",
    )
    group.add_argument(
        "--pattern",
        metavar="REGEX",
        default="",
        help="a regular expression for a record of plain text, with named groups; \\n in it lets a record span lines",
    )
    group.add_argument(
        "--file-format",
        metavar="FORMAT",
        default="",
        help="read it by this file format (olive-compass fileformat list)",
    )
    group.add_argument(
        "--groups",
        choices=("guess", "yes", "no"),
        help="whether rows with one cell are headings (default: guess)",
    )
    group.add_argument(
        "--headings",
        choices=("guess", "menu", "mode"),
        help="whether headings under which a key starts something else are menus or modes (default: guess)",
    )
    group.add_argument(
        "--spell",
        action="append",
        default=[],
        metavar="WORD=OURS",
        help="how the list writes a modifier or a key, such as 'C-=Ctrl+' or Sft=Shift",
    )


def app_argument(parser: argparse.ArgumentParser, optional: bool = False) -> None:
    parser.add_argument(
        "app",
        metavar="APP",
        nargs="?" if optional else None,
        help="the application" + (" (default: all)" if optional else ""),
    )


def command_argument(
    parser: argparse.ArgumentParser, name: str, least: int = 0, **options: Any
) -> None:
    """An argument that names commands; ``least``: how many words it takes at least, where it is a list
    that argparse lets be empty."""
    from olive_compass.cli.completion import command_ids, complete_with

    argument = parser.add_argument(name, **options)
    vars(argument)["least"] = least
    complete_with(argument, command_ids)


def scheme_option(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "--scheme",
        metavar="SCHEME",
        help="write to this scheme (default: the nearest personal one)",
    )


def session_options(parser: argparse.ArgumentParser) -> None:
    """The options of a session at the simulator."""
    parser.add_argument(
        "--script",
        metavar="FILE",
        help="run the lines of this file; - is standard input (docs/macros.md)",
    )
    parser.add_argument("--mode", metavar="MODE", help="start in this mode")
    parser.add_argument("--document", metavar="FILE", help="start with this document")
    parser.add_argument(
        "--log", metavar="FILE", help="write the log to this file (default: logs/APP-TIME.jsonl)"
    )
    parser.add_argument("--no-log", action="store_true", help="write no log")
    dry_run_option(parser)
