"""Finds the commands: a module of ``cli/commands`` is a command.

What ``--help`` says of each is read from the heads of the files, so that none of them is imported.
"""

import argparse
from importlib import import_module
from typing import TYPE_CHECKING, Any, cast

from msgspec import Struct

from olive_compass.cli import commands
from olive_compass.cli.options import Handler, typed
from olive_compass.errors import UserError
from olive_compass.modules import module_names

#: The groups of commands, in the order in which the work goes.
GROUPS = (
    "first steps",
    "change",
    "look, check",
    "automate",
    "application",
    "share",
    "save time",
    "help",
)

#: What somebody needs on the first day, and what it does in a few words.
FIRST_STEPS = {
    "demo": "",
    "desk new": "Create your own desk, the folder that holds all your schemes",
    "app import": "Import an application's commands and keys from a list",
    "scheme new": "Create a scheme: your own keys for one application",
    "find": "",
    "press": "",
    "free": "",
    "assign": "",
    "check": "",
    "undo": "",
    "sheet": "",
}


if TYPE_CHECKING:
    from olive_compass.cli.verbs import CommandModule


class About(Struct, frozen=True, order=True, kw_only=True):
    """What is said of a command where all are listed."""

    group: str
    order: int
    name: str
    summary: str


def command_names() -> list[str]:
    """The names of all commands, sorted."""
    return module_names(commands.__path__)


def command_module(name: str) -> "CommandModule":
    """The module of a command. Raises ``UserError`` where there is none of that name."""
    if name.isidentifier() and not name.startswith("_"):
        whole = f"{commands.__name__}.{name}"
        try:
            return cast("CommandModule", import_module(whole))
        except ModuleNotFoundError as error:
            if error.name != whole:
                raise
    from olive_compass.cli.synonyms import SYNONYMS
    from olive_compass.near import did_you_mean

    meant = SYNONYMS.get(name.casefold(), "")
    if meant:
        hint = f"Try: olive-compass {meant}"
    else:
        hint = did_you_mean(name, command_names())
    raise UserError(f"There is no command “{name}”.", hint=hint or "See olive-compass --help.")


def handler(module: "CommandModule", args: argparse.Namespace) -> Handler:
    """What does the command that was typed, or the verb of it."""
    if "VERBS" not in vars(module):
        return typed(module.run)
    return next(verb.run for verb in module.VERBS if args.verb in verb.names)


def overview() -> str:
    """The help page: the first steps, and the other commands by what they are for."""
    found = sorted(about(name) for name in command_names())
    summaries = {each.name: each.summary for each in found}
    lines = [
        "usage: olive-compass COMMAND [OPTIONS]",
        "",
        "Choose, check and share keyboard shortcuts for all your applications.",
        "",
        "First steps",
    ]
    lines += [f"  {words:<12} {text or summaries[words]}" for words, text in FIRST_STEPS.items()]
    lines += ["More commands"]
    for group in GROUPS[1:-1]:
        names = " ".join(each.name for each in found if each.group == group)
        lines.append(f"  {group:<13} {names}")
    return "\n".join(
        [
            *lines,
            "All commands: olive-compass help --all    One: olive-compass help COMMAND",
            "Options for every command: olive-compass help options",
        ]
    )


def every_command() -> str:
    """All commands with their summaries, grouped as the work goes."""
    found = sorted(about(name) for name in command_names())
    lines = []
    for group in GROUPS:
        lines += ["", group.capitalize()]
        lines += [f"  {each.name:<11} {each.summary}" for each in found if each.group == group]
    return "\n".join(lines[1:])


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
    return About(
        group=fields["GROUP"], order=int(fields["ORDER"]), name=name, summary=fields["SUMMARY"]
    )


def _fill_for_completion(
    parser: argparse.ArgumentParser, module: "CommandModule", typed: list[str]
) -> None:
    """The options of a command for what is typed of it: its verbs, or those of the verb that is meant without one."""
    from olive_compass.cli.completion import complete_with
    from olive_compass.cli.parsing import fill, verbs_of

    verbs = {name: verb for verb in verbs_of(module) for name in verb.names}
    if not hasattr(module, "DEFAULT_VERB") or (typed and typed[0] in verbs):
        fill(parser, module)
        _complete_all(parser)
        return
    verbs[module.DEFAULT_VERB].add_options(parser)
    _complete_all(parser)
    first = next(action for action in parser._actions if not action.option_strings)
    named = getattr(first, "completer", None)

    def both(prefix: str, **options: Any) -> list[str]:
        return [*verbs, *(named(prefix, **options) if named else [])]

    complete_with(first, both)


def _complete_all(parser: argparse.ArgumentParser) -> None:
    """Gives the arguments of a command and of its verbs their completers."""
    from olive_compass.cli.completion import complete_values

    complete_values(parser)
    for action in parser._actions:
        if isinstance(action.choices, dict):
            for inner in action.choices.values():
                complete_values(inner)


def parser_for(words: list[str]) -> argparse.ArgumentParser:
    """A parser for completion in the shell: of the command that ``words`` name, the others by name.

    ``words`` are those typed after the program's name.
    """
    from olive_compass.cli.parsing import Parser

    parser = Parser(prog="olive-compass")
    parser.add_argument("--version", action="store_true")
    parser.add_argument("--desk", metavar="FOLDER")
    chosen = parser.add_subparsers(parser_class=Parser)
    typed = next((word for word in words if word in command_names()), "")
    for name in command_names():
        inner = chosen.add_parser(name, add_help=name == typed)
        if name == typed:
            _fill_for_completion(inner, command_module(name), words[words.index(name) + 1 :])
    return parser
