"""Takes the command from the command line, runs it, and turns errors into plain sentences."""

import gc
import os
import signal
import sys
from collections.abc import Sequence
from threading import Timer, get_ident
from types import FrameType
from typing import TYPE_CHECKING

from olive_compass.cli.surroundings import Surroundings, give_up
from olive_compass.core.wording import clause
from olive_compass.errors import Terminated, UserError

if TYPE_CHECKING:
    from argparse import Namespace

    from olive_compass.cli.options import Handler

#: How long Ctrl-C waits before it is tried again, in seconds.
MOMENT = 0.01

#: How many lines that could not be read are named.
_MOST_LEFT_OUT = 5


def main(argv: Sequence[str] | None = None, surroundings: Surroundings | None = None) -> int:
    """Runs the program and returns its exit status."""
    if surroundings is not None:
        return _guarded(list(argv or ()), surroundings)
    # The process is short and holds on to what it makes: collecting is time lost.
    gc.disable()
    if "_ARGCOMPLETE" in os.environ:
        _complete()
    _fill_descriptors()
    status = 130
    try:
        signal.signal(signal.SIGINT, _interrupted)
        status = _guarded(list(sys.argv[1:] if argv is None else argv), Surroundings())
    except KeyboardInterrupt:
        # A second one, while the first was being told.
        pass
    finally:
        signal.signal(signal.SIGINT, signal.SIG_DFL)
    return status


def _interrupted(_number: int, frame: FrameType | None) -> None:
    """Stops the command; while a module is loaded, as soon as it is.

    A record whose class is interrupted while it is made stays half made, and ``msgspec`` (0.20 to 0.23) ends the process
    with a fault where it is used.
    """
    while frame is not None and hasattr(signal, "pthread_kill"):
        if frame.f_code.co_filename.startswith("<frozen importlib"):
            # Nothing may be loaded here: it could be what is being loaded.
            again = Timer(MOMENT, signal.pthread_kill, (get_ident(), signal.SIGINT))
            again.daemon = True
            again.start()
            return
        frame = frame.f_back
    raise KeyboardInterrupt


def _guarded(argv: list[str], context: Surroundings) -> int:
    """Runs the command, and turns whatever goes wrong into a sentence and a status."""
    try:
        status = _run(argv, context)
        context.flush()
        _tell_left_out(context)
        context.keep()
        return status
    except UserError as refused:
        context.warn(f"olive-compass: {refused}")
        return refused.status
    except KeyboardInterrupt as stop:
        context.warn(_stopped(context))
        if isinstance(stop, Terminated):
            return 128 + stop.number
        return 130
    except BrokenPipeError:
        # What another package prints, such as a bar, found the reader gone; nobody is left to tell.
        give_up(context.out)
        return 0
    except OSError as error:
        if error.filename is not None or error.errno is None:
            context.warn(_bug(error))
            return 70
        # Files that cannot be read or written are refused where they are; this is the output.
        give_up(context.out)
        saved = clause(" Change {} was saved.", context.saved)
        context.warn(f"olive-compass: The answer cannot be written: {error.strerror}.{saved}")
        return 2
    except Exception as error:
        if isinstance(error.__cause__, KeyboardInterrupt):
            # Python wraps what comes while a class is being made.
            context.warn(_stopped(context))
            return 130
        context.warn(_bug(error))
        return 70


def _stopped(context: Surroundings) -> str:
    """What is said after Ctrl-C: whether something was changed before."""
    if context.saved:
        return f"olive-compass: stopped; change {context.saved} was saved. To undo it: olive-compass undo"
    return "olive-compass: stopped; nothing was changed."


def _tell_left_out(context: Surroundings) -> None:
    """Names lines of the desk's files that could not be read, and were left out of the answer."""
    lines = []
    if context.desk:
        lines = context.desk.left_out
    if not lines:
        return
    from olive_compass.core.wording import counted

    for line in lines[:_MOST_LEFT_OUT]:
        context.warn(f"olive-compass: {line}")
    if len(lines) > _MOST_LEFT_OUT:
        more = counted(len(lines) - _MOST_LEFT_OUT, "more line")
        context.warn(f"olive-compass: {more} cannot be read.")


def _fill_descriptors() -> None:
    """Opens what the process was given closed: a file of the desk must not become its output."""
    for number in range(3):
        try:
            os.fstat(number)
        except OSError:
            os.open(os.devnull, os.O_RDWR)


def _run(argv: list[str], context: Surroundings) -> int:
    from olive_compass.cli.registry import command_module, handler, overview

    _refuse_what_is_no_text(argv)
    leading, words = _leading(argv)
    if not words:
        context.say(_version() if leading[-1:] == ["--version"] else overview())
        return 0
    name, *rest = words
    module = command_module(name)
    from olive_compass.cli.in_use import with_app
    from olive_compass.cli.parsing import command_parser, group_alone, in_order, with_verb

    rest = with_verb(module, rest)
    parser = command_parser(name, module, rest)
    if group_alone(parser, rest):
        context.say(parser.format_help().rstrip())
        return 0
    rest = with_app(parser, rest, _named_desk([*leading, *rest]), context)
    try:
        args = parser.parse_args([*in_order(parser, rest), *leading])
    except SystemExit as stop:
        # argparse ends the process after --help.
        return int(stop.code or 0)
    _take_notice(args, context)
    if "?" in rest or "@?" in rest:
        from olive_compass.cli.terminal.pressing import named as pressed

        rest = pressed(parser, args, rest, context)
    context.command_line = " ".join(map(_as_typed, [name, *rest]))
    return _read_errors(handler(module, args), args, context)


def _refuse_what_is_no_text(argv: list[str]) -> None:
    """Raises ``UserError`` for a word with bytes that are no UTF-8: no file could be written with it."""
    for word in argv:
        if not word.isascii() and any("\ud800" <= char <= "\udfff" for char in word):
            shown = word.encode(errors="replace").decode()
            raise UserError(f"This is not UTF-8 text: “{shown}”.", hint="Write it anew.")


def _leading(argv: list[str]) -> tuple[list[str], list[str]]:
    """The options before the command, and the command with what follows it; nothing is asked of what
    follows ``--help`` or ``--version``."""
    leading, words = [], list(argv)
    while words and words[0].startswith("-"):
        option = words.pop(0)
        leading.append(option)
        if option in ("-h", "--help", "--version"):
            return leading, []
        if option == "--desk" and words:
            leading.append(words.pop(0))
    return leading, words


def _version() -> str:
    from olive_compass import __version__

    return f"olive-compass {__version__}"


def _named_desk(words: list[str]) -> str | None:
    """The folder that stands after ``--desk``, wherever that is."""
    if "--desk" in words:
        after = words.index("--desk") + 1
    else:
        after = len(words)
    if after < len(words):
        return words[after]
    return None


def _take_notice(args: "Namespace", context: Surroundings) -> None:
    """What every command takes from its options: how much is said, and in which form."""
    context.quiet = bool(args.quiet)
    context.verbose = bool(args.verbose)
    context.as_json = bool(vars(args).get("json"))
    if args.verbose and "explain" in vars(args):
        args.explain = True
    if args.color in ("always", "never"):
        context.colour = args.color == "always"


def _read_errors(run: "Handler", args: "Namespace", context: Surroundings) -> int:
    """Runs the command; a trigger that cannot be read is shown with the wrong piece marked."""
    from olive_compass.core.keys.trigger_error import TriggerError

    try:
        return run(args, context)
    except TriggerError as error:
        context.warn(
            f"olive-compass: {str(error)[0].upper()}{str(error)[1:].rstrip('?.')}"
            + ("?" if error.nearest else ".")
        )
        if error.text.isprintable() and error.text:
            marks = "^" * max(1, error.end - error.start)
            context.warn(f"  {error.text}\n  {' ' * error.start}{marks}")
        return 2


def _as_typed(word: str) -> str:
    plain = word and all(char.isalnum() or char in "-_./+:@" for char in word)
    if plain:
        return word
    return "'" + word.replace("'", "'\\''") + "'"


def _bug(error: Exception) -> str:
    import tempfile
    import traceback

    with tempfile.NamedTemporaryFile(
        "w", prefix="olive-compass-", suffix=".txt", delete=False, encoding="utf-8"
    ) as file:
        traceback.print_exception(error, file=file)
    return (
        f"olive-compass: This is a fault of the program ({type(error).__name__}), not of your "
        f"request; the details are in {file.name}."
    )


def _complete() -> None:
    import argcomplete

    from olive_compass.cli.registry import parser_for

    words = os.environ.get("COMP_LINE", "").split()[1:]
    argcomplete.autocomplete(parser_for(words))
