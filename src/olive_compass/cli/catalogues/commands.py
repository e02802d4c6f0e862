"""``app mark``, ``app kind`` and ``app inputs``: what is known of single commands."""

import argparse
from collections.abc import Callable

from msgspec import Struct

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import Writing, keep, writing_of
from olive_compass.cli.options import WriteOptions, app_argument, command_argument, write_options
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import KINDS, Catalogue, Command
from olive_compass.core.apps.marking import letter_of_mark, lettered, marked_with
from olive_compass.core.apps.marks import VALUED, WORDS
from olive_compass.core.wording import capital, counted
from olive_compass.desk.writing.app_files import catalogue_change
from olive_compass.errors import UserError
from olive_compass.structs import replace


def mark_options(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    command_argument(parser, "commands", nargs="+", metavar="COMMAND")
    known = ", ".join((*WORDS, *(f"{name}:…" for name in VALUED)))
    for verb in ("add", "remove"):
        parser.add_argument(
            f"--{verb}", action="append", default=[], metavar="MARK", help=f"a mark: {known}"
        )
    write_options(parser)


def kind_options(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    command_argument(parser, "commands", nargs="+", metavar="COMMAND")
    parser.add_argument("kind", metavar="KIND", help=", ".join(KINDS[:-2]))
    write_options(parser)


def inputs_options(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    command_argument(parser, "command", metavar="COMMAND")
    parser.add_argument(
        "inputs",
        metavar="INPUTS",
        help="what the command asks for, such as 'at:point height:number'; '': nothing",
    )
    write_options(parser)


class AppMarkOptions(WriteOptions, kw_only=True):
    """The options of ``app mark``."""

    app: str
    commands: list[str]
    add: list[str]
    remove: list[str]


def mark(args: AppMarkOptions, context: Surroundings) -> int:
    if not args.add and not args.remove:
        raise UserError("Marks missing.", hint=f"Use --add or --remove: {', '.join(WORDS)}.")
    for word in (*args.add, *args.remove):
        _refuse_what_is_no_mark(word)
    letters = [each for each in args.add if letter_of_mark(each)]
    if letters[1:]:
        raise UserError(f"A command has one access letter, not {', '.join(letters)}.")

    def marked(command: Command) -> Command:
        return lettered(marked_with(command, args.add, args.remove), args.add, args.remove)

    said = ", ".join([*(f"+{each}" for each in args.add), *(f"-{each}" for each in args.remove)])
    return _each(_named(args, args.commands), context, marked, f"got the marks {said}")


def _has_value(word: str) -> bool:
    """Whether a word is a mark that says something after a colon."""
    name, _, value = word.partition(":")
    return bool(value) and name in VALUED


def _refuse_what_is_no_mark(word: str) -> None:
    if word in WORDS or letter_of_mark(word) or _has_value(word):
        return
    from olive_compass.near import did_you_mean

    known = f"There are {', '.join(WORDS)}, needs:NAME, alternate:ID, acts:WHAT, letter:X."
    raise UserError(f"“{word}” is no mark.", hint=did_you_mean(word, WORDS) or known)


class AppKindOptions(WriteOptions, kw_only=True):
    """The options of ``app kind``."""

    app: str
    commands: list[str]
    kind: str


def kind(args: AppKindOptions, context: Surroundings) -> int:
    allowed = [each for each in KINDS if each not in ("macro", "tray")]
    if args.kind not in allowed:
        from olive_compass.near import did_you_mean

        raise UserError(
            f"“{args.kind}” is no kind of a command.",
            hint=did_you_mean(args.kind, allowed) or f"There are {', '.join(allowed)}.",
        )
    wanted = args.kind
    named = _named(args, args.commands)
    return _each(named, context, lambda c: replace(c, kind=wanted), f"is of the kind {wanted}")


class AppInputsOptions(WriteOptions, kw_only=True):
    """The options of ``app inputs``."""

    app: str
    command: str
    inputs: str


def inputs(args: AppInputsOptions, context: Surroundings) -> int:
    from olive_compass.core.macros.inputs import read_inputs

    try:
        read_inputs(args.inputs)
    except ValueError as error:
        raise UserError(
            f"{capital(error)}.", hint="Write NAME:KIND, such as at:point height:number."
        ) from error
    said = "asks for nothing"
    if args.inputs:
        said = f"asks for {args.inputs}"
    wanted = args.inputs
    named = _named(args, [args.command])
    return _each(named, context, lambda c: replace(c, inputs=wanted), said)


class _Named(Struct, frozen=True, kw_only=True):
    """The commands that are named, the desk and the application they are of, and how to write them."""

    desk: str | None
    app: str
    commands: list[str]
    writing: Writing


def _named(
    args: "AppMarkOptions | AppKindOptions | AppInputsOptions", commands: list[str]
) -> _Named:
    return _Named(desk=args.desk, app=args.app, commands=commands, writing=writing_of(args))


def _each(
    named: _Named, context: Surroundings, change: Callable[[Command], Command], said: str
) -> int:
    """Changes what is known of the commands that were named, in one go."""
    desk = pick.open_desk(named.desk, context)
    app = desk.app(desk.app_name(named.app))
    chosen = {pick.command(app, each, context).id: None for each in named.commands}
    own = {command.id for command in desk.catalogue(app.name).commands}
    if strange := [each for each in chosen if each not in own]:
        raise UserError(
            f"{strange[0]} is a macro: its own file says what it is.",
            hint=f"See olive-compass macro show {app.name}/{strange[0].partition('.')[2]}",
        )
    commands = tuple(change(each) if each.id in chosen else each for each in app.catalogue.commands)
    after = replace(app, catalogue=Catalogue(commands, app.catalogue.unreadable))
    if len(chosen) > 3:
        who = counted(len(chosen), "command")
    else:
        who = ", ".join(app.shown(each) for each in chosen)
    what = f"{app.title}: {who} {said}"
    files = catalogue_change(desk, after)
    return keep(named.writing, context, desk, files, what, app=app.name, commands=list(chosen))
