"""Saves what a command worked out, again from the start where another was quicker."""

import contextlib
import time
from collections.abc import Callable, Iterable

from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.core.wording import conditional
from olive_compass.desk.desk import Desk
from olive_compass.desk.storage.records import FileChange, StaleError
from olive_compass.errors import UserError

#: How often a command works its change out again because the desk moved under it.
TRIES = 60


def retry_on_conflict(
    work: Callable[[], int], context: Surroundings | None = None, queue: bool = False
) -> int:
    """Runs ``work`` until it saves on a desk that nobody changed meanwhile.

    With ``queue`` it waits for its turn before it reads; else only when the desk moved under it.
    Where a person is asked, nobody is made to wait for the answer.
    """
    waits = context is not None and not context.interactive
    for attempt in range(TRIES):
        try:
            with contextlib.ExitStack() as turn:
                if context is not None:
                    if waits and (queue or attempt):
                        context.turn = turn
                    else:
                        context.turn = None
                return work()
        except StaleError:
            if not waits:
                import random

                time.sleep(random.random() * 0.01 * (attempt + 1))
    raise UserError("Others keep changing this desk; nothing was changed.", hint="Try again.")


def confirm(yes: bool, context: Surroundings, what: str, question: str, kept: str) -> None:
    """Asks before ``what``, unless ``yes`` says so; raises ``UserError`` where the answer is no.

    Where nobody can be asked, it is refused too; ``kept`` says that nothing was changed.
    """
    if yes:
        return
    if not context.interactive:
        raise UserError(f"{what} asks first; nothing was changed.", hint="Use --yes to do it.")
    if context.ask(f"{question} [y/N]").lower() not in ("y", "yes"):
        raise UserError(kept)


def agree(context: Surroundings, what: str, lines: Iterable[str] = ()) -> None:
    """Asks before a key that was pressed, not written, is saved; ``what`` tells the change. Raises ``UserError`` on a
    no."""
    if not context.pressed or context.agreed:
        return
    for line in would(what, lines):
        (context.warn if context.as_json else context.say)(line)
    if context.ask("Write it? [y/N]").lower() not in ("y", "yes"):
        raise UserError("It stays as it is; nothing was changed.")
    context.agreed = True


def would(what: str, lines: Iterable[str] = ()) -> list[str]:
    """A change in the words that are used before it is made, with the lines below it."""
    return [f"{BOLD}{conditional(what)}{OFF}.", *lines]


def save(
    desk: Desk,
    context: Surroundings,
    changes: list[FileChange],
    what: str,
    why: str = "",
    undoes: int = 0,
) -> int:
    """Saves ``changes`` as one entry of the history and returns its number."""
    agree(context, what)
    when = context.now().isoformat(timespec="seconds")
    try:
        context.saved = desk.history.save(
            changes,
            what=what,
            why=why,
            command=context.command_line,
            who=desk.seat.name or context.user,
            when=when,
            undoes=undoes,
        )
    except KeyboardInterrupt:
        # It may have come right after all was written: “nothing was changed” must be true.
        newest = next(desk.history.records(), None)
        if newest is not None and (newest.what, newest.when) == (what, when):
            context.saved = newest.number
        raise
    return context.saved
