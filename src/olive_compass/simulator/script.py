"""The lines that a person can type at the simulator, in a script or in its field at a terminal.

A line that begins with one of the words below is an order in plain words (``menu Spot height``); while
something is asked, any other line is the answer; else it is a trigger, and is pressed.
"""

from collections.abc import Callable

from olive_compass.core.apps.naming import command_named
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.macros.document import described
from olive_compass.core.wording import capital
from olive_compass.counts import parse_count
from olive_compass.simulator.saying import FIRED, REMARK, TROUBLE, Line
from olive_compass.simulator.session import Session

#: The orders, and what each does.
ORDERS = {
    "press": "press a key, also one that is called like an order: press Menu",
    "menu": "start a command from the menu: menu Spot height",
    "toolbar": "start it from a toolbar",
    "answer": "answer what is asked: answer 120,80; alone: as it is proposed",
    "take": "take one of the candidates of a shared key, or an item of an open tray: take 2",
    "mode": "go to a mode: mode draw",
    "select": "select things by id, all or none: select path-1",
    "record": "record what follows as a macro: record Light with name",
    "finish": "end recording",
    "back": "take back all that the last macro did",
    "show": "show what the document holds",
    "stop": "end what asks",
    "help": "show these words",
    "leave": "end the session",
}


class Leave(Exception):
    """The person wants to leave."""


def do_line(session: Session, text: str, origin: str = "the simulator") -> list[Line]:
    """Does one line. Raises ``Leave`` where it says so."""
    text = text.strip()
    if not text or text.split()[0] == "#":
        return []
    order, _, rest = text.partition(" ")
    rest = rest.strip()
    if order not in ORDERS:
        # While something is asked, a plain line is the answer; without that it is keys.
        if session.question is not None and text != "Escape":
            return session.answer(text)
        return _press(session, text)
    if order == "leave":
        raise Leave
    doing: dict[str, Callable[[], list[Line]]] = {
        "press": lambda: _press(session, rest or "Enter"),
        "menu": lambda: _start(session, rest, "menu"),
        "toolbar": lambda: _start(session, rest, "toolbar"),
        "answer": lambda: session.answer(rest),
        "take": lambda: session.choose(parse_count(rest)),
        "mode": lambda: session.to_mode(rest),
        "select": lambda: session.select(_things(session, rest)),
        "record": lambda: session.recorder.start(rest or "recorded"),
        "finish": lambda: session.recorder.stop(origin),
        "back": session.undo_play,
        "show": lambda: holds(session),
        "stop": session.cancel,
        "help": lambda: [Line(REMARK, f"{name:<8} {does}") for name, does in ORDERS.items()],
    }
    return doing[order]()


def _things(session: Session, text: str) -> list[str]:
    if text == "all":
        return [thing.id for thing in session.document.things]
    if text == "none":
        return []
    return text.split()


def holds(session: Session) -> list[Line]:
    """What the document holds, in lines."""
    document = session.document
    lines = [f"{document.name}, in {document.mode}; shows {document.shown[-1]}"]
    lines += [
        f"  {'*' if thing.id in document.selection else ' '} {described(thing)}"
        for thing in document.things
    ]
    lines += [
        f"    {session.title(name)} = {value}" for name, value in sorted(document.settings.items())
    ]
    lines += [f"    {deed}" for deed in document.deeds]
    if len(lines) == 1:
        lines.append("  nothing yet")
    return [Line(REMARK, line) for line in lines]


def _press(session: Session, text: str) -> list[Line]:
    try:
        run = read_trigger(text, session.app.rules.typed)
    except TriggerError as error:
        return [Line(TROUBLE, capital(error))]
    return session.press(run)


def _start(session: Session, name: str, how: str) -> list[Line]:
    named = command_named(session.app.catalogue.commands, name)
    if len(named.exact) == 1:
        fired = Line(FIRED, f"{named.exact[0].title}, from the {how}")
        return [fired, *session.start(named.exact[0].id, how)]
    offered = [f"{each.id}: {each.title}" for each in (named.exact or named.near)[:6]]
    says = "There is no command"
    if named.exact:
        says = f"{len(named.exact)} commands match"
    return [Line(TROUBLE, f"{says} “{name}”."), *(Line(REMARK, f"  {each}") for each in offered)]
