"""Finds the commands: a module of ``cli/commands`` is a command."""

from importlib import import_module
from typing import Any

from olive_compass.cli import commands
from olive_compass.errors import Refused
from olive_compass.siblings import module_names


def command_names() -> list[str]:
    """The names of all commands, sorted."""
    return module_names(commands.__path__)


def command_module(name: str) -> Any:
    """The module of a command. Raises ``Refused`` where there is none of that name."""
    if name.isidentifier() and not name.startswith("_"):
        whole = f"{commands.__name__}.{name}"
        try:
            return import_module(whole)
        except ModuleNotFoundError as error:
            if error.name != whole:
                raise
    from difflib import get_close_matches

    near = get_close_matches(name, command_names(), 1)
    hint = f"Did you mean {near[0]}?" if near else "See olive-compass --help."
    raise Refused(f"There is no command “{name}”.", hint=hint)


def overview() -> str:
    """The list of commands, grouped as the work goes."""
    from olive_compass.cli.main import GROUPS

    modules = {name: command_module(name) for name in command_names()}
    lines = [
        "usage: olive-compass COMMAND ...",
        "",
        "Shortcut schemes for every application on your desk.",
    ]
    for group in GROUPS:
        names = [name for name, module in modules.items() if group == module.GROUP]
        names.sort(key=lambda name: (getattr(modules[name], "ORDER", 50), name))
        lines += ["", group]
        lines += [f"  {name:<11}{modules[name].SUMMARY}" for name in names]
    lines += [
        "",
        "Help on one: olive-compass COMMAND --help. To see it all at work: olive-compass demo",
        "Options: --desk FOLDER (the desk, if not this folder's), --quiet, --version",
    ]
    return "\n".join(lines)


def full_parser() -> Any:
    """A parser of every command, for completion in the shell."""
    from olive_compass.cli.parsing import Parser, fill

    parser = Parser(prog="olive-compass")
    parser.add_argument("--version", action="store_true")
    parser.add_argument("--desk", metavar="FOLDER")
    chosen = parser.add_subparsers(parser_class=Parser)
    for name in command_names():
        module = command_module(name)
        fill(chosen.add_parser(name, help=module.SUMMARY), module)
    return parser
