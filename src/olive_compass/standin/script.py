"""The lines that a person can type at the stand-in, in a script or after ``:`` at a terminal.

A line that begins with a colon is an order; one that begins with ``=`` answers a question; any
other is a trigger, and is pressed.
"""

from collections.abc import Callable

from olive_compass.core.apps.naming import command_named
from olive_compass.core.keys.reading import TriggerError, read_trigger
from olive_compass.core.macros.document import described
from olive_compass.core.wording import capital
from olive_compass.standin.saying import FIRED, REMARK, TROUBLE, Line
from olive_compass.standin.session import Session
from olive_compass.whole import whole

#: The orders, and what each does.
ORDERS = {
    "menu": "start a command from the menu: :menu Spot height",
    "toolbar": "start it from a toolbar",
    "choose": "take one of a choice: :choose 2",
    "mode": "go to a mode: :mode draw",
    "select": "select things by id, all or none: :select path-1",
    "record": "record what follows as a macro: :record Light with name",
    "stop": "end recording",
    "undo": "take back all that the last macro did: :undo play",
    "show": "show what the document holds",
    "cancel": "end what asks",
    "help": "show these orders",
    "quit": "leave",
}


class Quit(Exception):
    """The person wants to leave."""


def do_line(session: Session, text: str, origin: str = "the stand-in") -> list[Line]:
    """Does one line. Raises ``Quit`` where it says so."""
    text = text.strip()
    if not text or text.startswith("# ") or text == "#":
        return []
    if text.startswith("= ") or (text.startswith("=") and session.question is not None):
        return session.answer(text[1:].strip())
    if not text.startswith(":") or text == ":":
        return _press(session, text)
    order, _, rest = text[1:].strip().partition(" ")
    rest = rest.strip()
    if order not in ORDERS:
        from olive_compass.near import nearest

        near = nearest(order, ORDERS)
        hint = f"; did you mean :{near}?" if near else "; :help shows them"
        return [Line(TROUBLE, f"There is no order “{order}”{hint}")]
    if order == "quit":
        raise Quit
    doing: dict[str, Callable[[], list[Line]]] = {
        "menu": lambda: _start(session, rest, "menu"),
        "toolbar": lambda: _start(session, rest, "toolbar"),
        "choose": lambda: session.choose(whole(rest)),
        "mode": lambda: session.to_mode(rest),
        "select": lambda: session.select(_things(session, rest)),
        "record": lambda: session.record(rest or "recorded"),
        "stop": lambda: session.stop_recording(origin),
        "undo": session.undo_play,
        "show": lambda: holds(session),
        "cancel": session.cancel,
        "help": lambda: [Line(REMARK, f":{name:<8} {does}") for name, does in ORDERS.items()],
    }
    return doing[order]()


def _things(session: Session, text: str) -> list[str]:
    if text == "all":
        return [thing.id for thing in session.document.things]
    return [] if text == "none" else text.split()


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
    says = f"{len(named.exact)} commands answer to" if named.exact else "There is no command"
    return [Line(TROUBLE, f"{says} “{name}”."), *(Line(REMARK, f"  {each}") for each in offered)]
