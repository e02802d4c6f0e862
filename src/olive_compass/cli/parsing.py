"""The argument parser of a command: its errors are ours, and it starts quickly."""

import argparse
import os
import sys
from collections.abc import Container, Sequence
from itertools import chain, takewhile
from typing import TYPE_CHECKING, Any, NoReturn

from olive_compass import PROGRAM
from olive_compass.core.wording import capital
from olive_compass.errors import UserError

if TYPE_CHECKING:
    from olive_compass.cli.verbs import CommandModule, Verb

#: What parts the first key of a range from the last.
RANGE = ".."

#: Words that people say for a verb, and the verbs that do it.
_OTHER_WORDS = {
    **dict.fromkeys(("drop", "delete", "rm"), ("remove", "cut")),
    "unlink": ("link",),
    **dict.fromkeys(("create", "make", "init"), ("new",)),
    **dict.fromkeys(("ls", "all"), ("list",)),
}


class Formatter(argparse.RawDescriptionHelpFormatter):
    """Help texts as they were written. The width is given: finding it loads much."""

    def __init__(self, prog: str, **_: Any) -> None:
        try:
            width = os.get_terminal_size().columns
        except OSError:
            width = 90
        super().__init__(prog, max_help_position=30, width=min(max(width, 60), 100) - 2)


class Parser(argparse.ArgumentParser):
    """A parser that raises ``UserError``."""

    def __init__(self, **options: Any) -> None:
        options.setdefault("formatter_class", Formatter)
        options.setdefault("allow_abbrev", False)
        super().__init__(**options)

    def _print_message(self, message: str, file: Any = None) -> None:
        # The original lets an error pass in silence, and the help is gone.
        if message:
            (file or sys.stdout).write(message)

    def _check_value(self, action: argparse.Action, value: Any) -> None:
        """Refuses a word that is none of the choices, with the nearest one."""
        if action.choices is None or value in action.choices:
            return
        from olive_compass.near import did_you_mean

        names = list(map(str, action.choices))
        if isinstance(action, argparse._SubParsersAction):
            what = f"{self.prog} has no “{value}”"
        else:
            name = "/".join(action.option_strings) or str(action.metavar or action.dest)
            what = f"{name} cannot be “{value}”"
        meant = next((name for name in _OTHER_WORDS.get(str(value), ()) if name in names), "")
        if meant:
            hint = f"Did you mean {meant}?"
        else:
            hint = did_you_mean(str(value), names)
        hint = hint or f"There are {', '.join(names)}."
        raise UserError(f"{what}.", hint=hint)

    def error(self, message: str) -> NoReturn:
        needed = "the following arguments are required: "
        if message.startswith(needed):
            raise UserError(self._lacking(message.removeprefix(needed).split(", ")))
        raise UserError(f"{message[0].upper()}{message[1:]}.", hint=f"See {self.prog} --help.")

    def _lacking(self, names: list[str]) -> str:
        """What is missing, with what it is."""
        parts = []
        for name in names:
            action = next(
                a
                for a in self._actions
                if name in ("/".join(a.option_strings), str(a.metavar), a.dest)
            )
            parts.append(f"{name} ({action.help})" if action.help else name)
        return f"Missing: {'; '.join(parts)}. See {self.prog} --help."


def command_parser(name: str, module: "CommandModule", words: Sequence[str] = ()) -> Parser:
    """The parser of one command, with the options that every command has.

    ``words`` are those after the command: where they begin with a verb, no other verb gets its options.
    """
    parser = Parser(
        prog=f"{PROGRAM} {name}",
        description=module.SUMMARY + ".",
        epilog=_epilog(module.EXAMPLES.split("\n")),
    )
    fill(parser, module, words)
    return parser


def fill(
    parser: argparse.ArgumentParser, module: "CommandModule", words: Sequence[str] = ()
) -> None:
    """Gives ``parser`` the options of the command and those that all commands have."""
    _add_common(parser, None)
    if verbs := verbs_of(module):
        _add_verbs(parser, module, verbs, words)
    else:
        module.add_arguments(parser)
    _explain(parser)


def verbs_of(module: "CommandModule") -> "tuple[Verb, ...]":
    """The verbs of a command, none where it has none."""
    verbs: tuple[Verb, ...] = vars(module).get("VERBS", ())
    return verbs


def _add_verbs(
    parser: argparse.ArgumentParser,
    module: "CommandModule",
    verbs: "tuple[Verb, ...]",
    words: Sequence[str],
) -> None:
    """Adds the verb that ``words`` begin with, or all where they begin with none."""
    added = parser.add_subparsers(dest="verb", metavar="VERB", required=True)
    typed = [word for _, word in positionals(parser, words)[:1]]
    for verb in [verb for verb in verbs if typed and typed[0] in verb.names] or verbs:
        inner = added.add_parser(
            verb.name,
            aliases=verb.aliases,
            help=verb.help,
            description=f"{capital(verb.help)}.",
        )
        verb.add_options(inner)
        _explain(inner)
        _add_common(inner, argparse.SUPPRESS)
        _tell_examples(parser, module, verbs, verb, inner)


#: What an argument is, where nothing more is to be said of it than its name says.
_ARGUMENTS = {
    "APP": "the application",
    "APP/MACRO": "the macro, by its application and its name",
    "APP/NAME": "the scheme, by its application and its name",
    "APP/TRAY": "the tray, by its application and its name; or its name alone",
    "COMMAND": "a command: its id, its title, its menu path, or a part that fits only one",
    "FILE": "the file",
    "FOLDER": "the folder",
    "GROUP": "the group, as it is called on the tray",
    "INPUT": "the input, as the step names it",
    "ITEM": "an item: its id, its title or a part of it",
    "MODE": "the mode",
    "NAME": "the name",
    "OTHER": "the other macro",
    "PURPOSE": "the purpose, by its id",
    "QUESTION": "the question, as the macro will ask it",
    "SET": "the key set",
    "SETTING": "the setting",
    "STEP": "the number of the step",
    "TO": "the number that the step gets",
    "action": "what to do",
    "shell": "the shell",
    "--ask": "a question for an input: INPUT=QUESTION",
    "--hand": "the hand that is free while the other holds the mouse",
    "--input": "an input of the step: INPUT=VALUE",
    "--kind": "what kind of command it is",
    "--platform": "the system: pc, mac or linux",
}


def _explain(parser: argparse.ArgumentParser) -> None:
    """Gives every argument that says nothing of itself its help text."""
    for action in parser._actions:
        if action.help is None and not isinstance(action, argparse._SubParsersAction):
            names = (*action.option_strings[-1:], str(action.metavar or ""), action.dest)
            action.help = next((_ARGUMENTS[name] for name in names if name in _ARGUMENTS), None)


def _tell_examples(
    parser: argparse.ArgumentParser,
    module: "CommandModule",
    verbs: "tuple[Verb, ...]",
    verb: "Verb",
    inner: argparse.ArgumentParser,
) -> None:
    """Gives a verb its examples, and the verb that is meant where none is named the name of the command."""
    default = vars(module).get("DEFAULT_VERB", "")
    names = {name: each.name for each in verbs for name in each.names}
    examples = [
        example
        for example in module.EXAMPLES.split("\n")
        if names.get((*example.split(), "", "")[2], default) == verb.name
    ]
    more = []
    if verb.name == default:
        inner.prog = parser.prog
        inner.description = parser.description
        others = (each for each in verbs if each.name != default)
        more = [f"  {parser.prog} {other.name} --help: {other.help}" for other in others]
    inner.epilog = _epilog(examples, more)


def _epilog(examples: list[str], verbs: Sequence[str] = ()) -> str:
    """What stands below the options of a command or verb."""
    blocks = []
    if examples:
        blocks = [["examples:", *(f"  {line}" for line in examples)]]
    if verbs:
        blocks.append(["verbs:", *verbs])
    return "\n\n".join("\n".join(block) for block in (*blocks, [_NAMED]))


def with_verb(module: "CommandModule", words: list[str]) -> list[str]:
    """The words with the verb that is meant where none is named, as they are for a command that means none."""
    default = vars(module).get("DEFAULT_VERB", "")
    if not default or (words and any(words[0] in verb.names for verb in verbs_of(module))):
        return words
    return [default, *words]


def group_alone(parser: argparse.ArgumentParser, words: list[str]) -> bool:
    """Whether a command that has verbs was typed without one: what it has is to be shown then.

    Raises ``UserError`` for an option that only its verbs have.
    """
    has_verbs = any(isinstance(each, argparse._SubParsersAction) for each in parser._actions)
    if not has_verbs or positionals(parser, words) or {"-h", "--help"} & set(words):
        return False
    known = set(chain.from_iterable(action.option_strings for action in parser._actions))
    options = [word for word in words if word.startswith("-")]
    unknown = [word for word in options if word.partition("=")[0] not in known]
    if unknown:
        parser.error(f"unrecognized arguments: {' '.join(unknown)}")
    return True


def in_order(parser: argparse.ArgumentParser, words: list[str]) -> list[str]:
    """The arguments with the positional ones first: argparse takes a list of them in one piece only."""
    wanted = [action for action in parser._actions if not action.option_strings]
    if not any(action.nargs in ("*", "+") for action in wanted) or "--" in words:
        return words
    if any(isinstance(action, argparse._SubParsersAction) for action in wanted):
        return words
    plain = dict(positionals(parser, words))
    return [*plain.values(), *(word for n, word in enumerate(words) if n not in plain)]


def positionals(parser: argparse.ArgumentParser, words: Sequence[str]) -> list[tuple[int, str]]:
    """The words that are no options and no values of options, with their places."""
    options = {name: action for action in parser._actions for name in action.option_strings}
    found = []
    n = 0
    while n < len(words):
        word = words[n]
        if word == "--":
            # After it nothing is an option, whatever it begins with.
            found += list(enumerate(words[n + 1 :], n + 1))
            break
        if word in options:
            n += 1 + _values_of(options[word], words[n + 1 :], options)
            continue
        if not word.startswith("-") or word == "-":
            found.append((n, word))
        n += 1
    return found


def _values_of(action: argparse.Action, after: Sequence[str], options: Container[str]) -> int:
    """How many of the words after an option are its values."""
    if isinstance(action.nargs, int):
        # An option that takes no value has 0.
        return action.nargs
    if action.nargs in ("+", "*"):
        # Such an option takes words until the next one; argparse does the same.
        return len(list(takewhile(lambda word: word not in options, after)))
    return int(action.nargs is None)


#: The options of every command: how they are written, and what they do.
COMMON = {
    "--desk FOLDER": "use this desk (default: the desk that this folder is in)",
    "-q, --quiet": "print nothing when all went well",
    "-v, --verbose": "print more: all rules that were met, what else the keys do, whole lists",
    "--color auto|always|never": "colours (default: auto, at a terminal unless NO_COLOR is set)",
    "-h, --help": "show the help of a command; after a verb, of that verb",
    "--version": "print the version; without a command",
}

#: The line by which the page of a command names them.
_NAMED = (
    "Options for every command (--desk, --quiet, --verbose, --color): olive-compass help options"
)


def common_options() -> str:
    """The options that every command has, each with what it does."""
    return "\n".join(["Options for every command", *(f"  {o:<26}{t}" for o, t in COMMON.items())])


def _add_common(parser: argparse.ArgumentParser, default: Any) -> None:
    hidden: Any = argparse.SUPPRESS
    parser.add_argument("--desk", metavar="FOLDER", default=default, help=hidden)
    off = default or False
    parser.add_argument("-q", "--quiet", action="store_true", default=off, help=hidden)
    parser.add_argument("-v", "--verbose", action="store_true", default=off, help=hidden)
    parser.add_argument(
        "--color", choices=("auto", "always", "never"), default=default, help=hidden
    )
