"""Finds the commands: a module of ``cli/commands`` is a command.

What ``--help`` says of each is read from the heads of the files, so that none of them is imported.
"""

import argparse
from collections.abc import Callable
from importlib import import_module
from typing import TYPE_CHECKING, Any, cast

from msgspec import Struct

from olive_compass.cli import commands
from olive_compass.cli.surroundings import Surroundings
from olive_compass.errors import Refused
from olive_compass.siblings import module_names

#: The groups of commands, in the order in which the work goes.
GROUPS = ("start", "look", "assign", "check", "macros", "trays", "paper", "share", "worth")

#: What a verb of a command does: with the parsed line and the surroundings, the exit status.
Verb = Callable[[Any, Surroundings], int]


if TYPE_CHECKING:
    from typing import Protocol

    class CommandModule(Protocol):
        """What a module of ``cli/commands`` holds."""

        GROUP: str
        ORDER: int
        SUMMARY: str
        EXAMPLES: str

        def add_arguments(self, parser: argparse.ArgumentParser) -> None: ...

        def run(self, args: Any, around: Surroundings) -> int: ...


class About(Struct, frozen=True, order=True):
    """What is told of a command where all are listed."""

    group: str
    order: int
    name: str
    summary: str


def command_names() -> list[str]:
    """The names of all commands, sorted."""
    return module_names(commands.__path__)


def command_module(name: str) -> "CommandModule":
    """The module of a command. Raises ``Refused`` where there is none of that name."""
    if name.isidentifier() and not name.startswith("_"):
        whole = f"{commands.__name__}.{name}"
        try:
            return cast("CommandModule", import_module(whole))
        except ModuleNotFoundError as error:
            if error.name != whole:
                raise
    from olive_compass.near import did_you_mean

    hint = did_you_mean(name, command_names()) or "See olive-compass --help."
    raise Refused(f"There is no command “{name}”.", hint=hint)


def verb(module: str, function: str) -> Verb:
    """A function of a module that is loaded only now: ``verb("sharing.keysets", "list_sets")``."""
    found = vars(import_module(f"olive_compass.cli.{module}"))[function]
    return cast(Verb, found)


def overview() -> str:
    """The list of commands, grouped as the work goes."""
    found = sorted(about(name) for name in command_names())
    lines = [
        "usage: olive-compass COMMAND ...",
        "",
        "Shortcut schemes for every application on your desk.",
    ]
    for group in GROUPS:
        lines += ["", group]
        lines += [f"  {each.name:<11}{each.summary}" for each in found if each.group == group]
    lines += [
        "",
        "Help on one: olive-compass help COMMAND. To see it all at work: olive-compass demo",
        "Options: --desk FOLDER (the desk, if not this folder's), --quiet, --version",
    ]
    return "\n".join(lines)


def about(name: str) -> About:
    """What the head of a command's file says: its ``GROUP``, ``ORDER`` and ``SUMMARY``."""
    (folder,) = commands.__path__
    fields = {}
    with open(f"{folder}/{name}.py", encoding="utf-8") as file:
        for line in file:
            key, sign, value = line.partition(" = ")
            if sign and key in ("GROUP", "ORDER", "SUMMARY"):
                fields[key] = value.strip().strip('"')
            if len(fields) == 3:
                break
    return About(fields["GROUP"], int(fields["ORDER"]), name, fields["SUMMARY"])


def parser_for(words: list[str]) -> argparse.ArgumentParser:
    """A parser for completion in the shell: of the command that ``words`` name, the others by name.

    ``words`` are those typed after the program's name.
    """
    from olive_compass.cli.parsing import Parser, fill

    parser = Parser(prog="olive-compass")
    parser.add_argument("--version", action="store_true")
    parser.add_argument("--desk", metavar="FOLDER")
    chosen = parser.add_subparsers(parser_class=Parser)
    typed = next((word for word in words if word in command_names()), "")
    for name in command_names():
        inner = chosen.add_parser(name, add_help=name == typed)
        if name == typed:
            fill(inner, command_module(name))
    return parser
