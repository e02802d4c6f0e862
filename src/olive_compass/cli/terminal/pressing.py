"""A key that is pressed instead of written: ``?`` on the command line, ``@?`` for its place.

The press stands in the command from then on as if it had been typed, in the history too.
"""

import argparse
from collections.abc import Callable, Iterator
from typing import TYPE_CHECKING, Any

from olive_compass.cli import pick
from olive_compass.cli.current_app import app_called
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.core.apps.app import App
from olive_compass.core.apps.modes import joined
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.presses import Physical
from olive_compass.core.keys.triggers import Run, Stroke, stroke
from olive_compass.counts import parse_count
from olive_compass.desk.desk import Desk
from olive_compass.errors import UserError
from olive_compass.simulator.terminal import run
from olive_compass.simulator.terminal_keys import cannot_tell, stroke_of

if TYPE_CHECKING:
    from prompt_toolkit.key_binding import KeyPressEvent

#: What stands for a press: by what it types, and by where the key sits.
BY_SIGN, BY_PLACE = "?", "@?"
ASKING = (BY_SIGN, BY_PLACE)

#: Seconds between two strokes of a run, where the application does not say.
WAIT = 1.0

#: Seconds within which a second Escape leaves.
TWICE = 0.6

#: What a question about a key is answered with.
AGAIN, QUIT = ("a", "again"), ("q", "quit", "stop")


def named(
    parser: argparse.ArgumentParser,
    args: argparse.Namespace,
    words: list[str],
    context: Surroundings,
) -> list[str]:
    """Puts the press in the place of each ``?`` that stands where a key belongs.

    ``args`` is changed; the words come back as they could be typed again.
    """
    found: list[str] = []
    for name in dict.fromkeys(_key_arguments(parser, args)):
        value = vars(args)[name]
        if isinstance(value, list):
            values = value
        else:
            values = [value]
        if not any(each in ASKING for each in values):
            continue
        context.as_json = bool(vars(args).get("json"))
        desk = pick.open_desk(args.desk, context)
        app = _app(desk, args)
        keys = []
        for each in values:
            if each in ASKING:
                each = str(ask(desk.keyboard, app, context, each))
                found.append(each)
            keys.append(each)
        setattr(args, name, keys if isinstance(value, list) else keys[0])
    context.pressed = bool(found)
    if len(found) != sum(word in ASKING for word in words):
        # A reason may be a mere “?” too: then the history keeps what was typed.
        return words
    left = iter(found)
    return [next(left) if word in ASKING else word for word in words]


def _key_arguments(parser: argparse.ArgumentParser, args: argparse.Namespace) -> Iterator[str]:
    """The names of the arguments that take a key; their metavar says so."""
    for action in parser._actions:
        if isinstance(action, argparse._SubParsersAction):
            inner = action.choices.get(str(vars(args).get(action.dest)))
            yield from _key_arguments(inner, args) if inner else ()
        elif "KEY" in str(action.metavar) and "=" not in str(action.metavar):
            yield action.dest


def _app(desk: Desk, args: argparse.Namespace) -> App | None:
    """The application that the command is about, where it is about one."""
    given = str(vars(args).get("app") or "").partition("/")[0]
    known = given and app_called(desk, given)
    if known:
        return desk.app(known)
    return None


def ask(
    board: Keyboard, app: App | None, context: Surroundings, by: str = BY_SIGN, writes: bool = True
) -> Run:
    """The trigger that is pressed at the terminal. Raises ``UserError`` where none is, or on Escape twice.

    ``writes``: it is going to be written, so that it is asked which one is meant where a terminal cannot
    tell.
    """
    if not context.interactive:
        raise UserError(
            f"“{by}” reads a press at a terminal, and this is none.",
            hint="Write the key, such as Ctrl+M; the key that types a question mark is “question”.",
        )
    longest = 1
    if app:
        longest = app.rules.longest_sequence
    while True:
        what = "the key"
        if longest > 1:
            what = "the key, or a sequence without a pause"
        tell(context, f"Press {what}. Escape twice leaves.")
        strokes = read(context, lambda so_far: wait_of(app) if len(so_far) < longest else 0.0)
        if not strokes:
            raise UserError("No key was chosen; nothing was changed.")
        tell(context, f"Read as {BOLD}{Run(strokes)}{OFF}.")
        # A look at what Tab does is as true for Ctrl+I; a scheme must say which of them was meant.
        asks = writes or by == BY_PLACE
        chosen = [_meant(context, each, asks) for each in strokes]
        if by == BY_PLACE and all(chosen):
            chosen = [each and _placed(context, board, each) for each in chosen]
        # None among them: the person said that it was not that one, and presses again.
        if all(chosen):
            return Run(tuple(filter(None, chosen)))


def _meant(context: Surroundings, read_as: Stroke, asks: bool) -> Stroke | None:
    """The stroke that was pressed, after it was said which others it may be; None: it was none of them."""
    if one_to_it(context, read_as) and asks:
        return _settled(context, read_as)
    return read_as


def one_to_it(context: Surroundings, read_as: Stroke) -> bool:
    """Says which strokes a terminal cannot tell from the one that was read; whether there are any."""
    others = cannot_tell(read_as)
    if others:
        names = joined(map(str, (read_as, *others)))
        tell(context, f"A terminal sends the same for {names}.")
    return bool(others)


def wait_of(app: App | None) -> float:
    return (app.rules.wait if app else 0.0) or WAIT


def _settled(context: Surroundings, read_as: Stroke) -> Stroke | None:
    """The stroke that was meant, of those that a terminal cannot tell apart; None: press again."""
    others = cannot_tell(read_as)
    names = ", ".join(f"{n}: {each}" for n, each in enumerate(others, 2))
    while True:
        answer = context.ask(f"Which is it? [Enter: {read_as}, {names}, a: press again, q: quit]")
        if not answer or answer == "1":
            return read_as
        if 2 <= parse_count(answer) <= len(others) + 1:
            return others[parse_count(answer) - 2]
        if answer.casefold() in AGAIN:
            return None
        if answer.casefold() in QUIT:
            raise UserError("No key was chosen; nothing was changed.")


def _placed(context: Surroundings, board: Keyboard, read_as: Stroke) -> Stroke | None:
    """The same stroke by the place of its key; a terminal cannot say which keycap was pressed."""
    held, code = board.made(read_as).presses[0]
    while True:
        asks = f"Which key did you press? [Enter: {_cap(board, (held, code))}, or type its label"
        answer = context.ask(f"{asks}, a: press again, q: quit]")
        if not answer:
            return stroke(code, *held, by_place=True)
        places = _places(board, answer)
        if len(places) == 1:
            return stroke(places[0], *held, by_place=True)
        if answer in AGAIN:
            return None
        if answer in QUIT:
            raise UserError("No key was chosen; nothing was changed.")
        several = ""
        if places:
            several = f": {', '.join(places)}. Name one of them"
        tell(context, f"{len(places) or 'No'} keys of your keyboard have “{answer}”{several}.")


def _cap(board: Keyboard, physical: Physical) -> str:
    cap = board.typed_by(((), physical[1])).strip().upper()
    if cap:
        return f"{cap} at @{physical[1]}"
    return f"@{physical[1]}"


def _places(board: Keyboard, answer: str) -> list[str]:
    """The places of the keys that bear a sign, or the one place of that name."""
    from olive_compass.core.keys.reading import read_trigger
    from olive_compass.core.keys.trigger_error import TriggerError

    try:
        given = read_trigger(f"@{answer.removeprefix('@')}").strokes
    except TriggerError:
        given = ()
    if given and board.has_key(given[0].key):
        return [given[0].key]
    try:
        strokes = read_trigger(answer).strokes
    except TriggerError:
        return []
    presses = board.made(strokes[0]).presses if len(strokes) == 1 else ()
    return list(dict.fromkeys(code for _, code in presses if board.has_key(code)))


def tell(context: Surroundings, text: str) -> None:
    """A line of the conversation; where JSON is printed it goes to the error stream."""
    (context.warn if context.as_json else context.say)(text)


def read(
    context: Surroundings, goes_on: Callable[[tuple[Stroke, ...]], float]
) -> tuple[Stroke, ...]:
    """The strokes that are pressed at the terminal, ``()`` where Escape is pressed twice.

    ``goes_on`` gives, for what was pressed so far, the seconds in which the next stroke is waited for
    (0: it is complete). Ctrl+C is a stroke like any other.
    """
    import asyncio

    from prompt_toolkit.application import Application
    from prompt_toolkit.key_binding import KeyBindings
    from prompt_toolkit.keys import Keys
    from prompt_toolkit.layout import Layout, Window
    from prompt_toolkit.layout.controls import FormattedTextControl
    from prompt_toolkit.output import create_output

    strokes: list[Stroke] = []
    timers: list[Any] = []
    bindings = KeyBindings()

    def pressed(event: "KeyPressEvent", name: str, held: bool = False) -> None:
        for timer in timers:
            timer.cancel()
        each = stroke_of(name, held)
        if each is None:
            return
        if _leaves(each, held, strokes):
            event.app.exit(result=())
            return
        strokes.append(each)
        seconds = max(goes_on(tuple(strokes)), TWICE if strokes == [_ESCAPE] else 0.0)
        if seconds:
            result = tuple(strokes)
            loop = asyncio.get_running_loop()
            timers.append(loop.call_later(seconds, lambda: event.app.exit(result=result)))
        else:
            event.app.exit(result=tuple(strokes))

    @bindings.add(Keys.Any)
    @bindings.add(Keys.Escape)
    def _(event: "KeyPressEvent") -> None:
        pressed(event, _name(event))

    @bindings.add(Keys.Escape, Keys.Any, eager=True)
    def _(event: "KeyPressEvent") -> None:
        pressed(event, _name(event), True)

    def shown() -> str:
        if strokes:
            return f"  {Run(tuple(strokes))} ..."
        return "  ..."

    output: Any = create_output(stdout=context.err if context.as_json else context.out)
    # Where the cursor stands need not be known, and not every terminal answers.
    output.enable_cpr = False
    app: Any = Application(
        layout=Layout(Window(FormattedTextControl(shown), height=1)),
        key_bindings=bindings,
        erase_when_done=True,
        output=output,
    )
    app.ttimeoutlen = app.timeoutlen = 0.05
    context.flush()
    return tuple(run(app))


def _leaves(each: Stroke, held: bool, strokes: list[Stroke]) -> bool:
    return each.key == _ESCAPE.key and (held or strokes == [_ESCAPE])


_ESCAPE = Stroke((), "Escape")


def _name(event: "KeyPressEvent") -> str:
    pressed = event.key_sequence[-1]
    return str(getattr(pressed.key, "value", pressed.key))
