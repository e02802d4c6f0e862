"""The ids that commands of a listing get, each once."""

import re
from collections.abc import Mapping, Sequence

from olive_compass.core.apps.app import Command
from olive_compass.core.apps.listing_row import Row, widest
from olive_compass.core.apps.search import fold
from olive_compass.core.plain import one_line
from olive_compass.structs import replace


def slug(text: str) -> str:
    """``text`` as a part of an id or a file name.

    >>> slug("Zoom to Área…")
    'zoom-to-area'
    """
    return re.sub(r"[^\w]+", "-", fold(text)).strip("-_")


class UniqueCommands:
    """The commands of a listing, each once; ``ids`` says that the listing has some.

    ``repeated`` counts the rows that only have more keys of a command above.
    """

    def __init__(self, ids: bool) -> None:
        self.ids = ids
        self.repeated = 0
        self._commands: dict[str, Command] = {}
        self._by_look: dict[tuple[object, ...], str] = {}

    @property
    def all(self) -> tuple[Command, ...]:
        """All of them, in the order of the listing."""
        return tuple(self._commands.values())

    def add(self, command: Command) -> None:
        """Takes a command in, or gives its keys to the one that it is."""
        look = (
            command.title,
            command.menu,
            command.modes,
            command.kind,
            command.does,
            command.id,
        )
        first = self._commands.get(self._by_look.get(look, "")) or self._same_id(command)
        if first is not None:
            both = tuple(dict.fromkeys((*first.keys, *command.keys)))
            self._commands[first.id] = replace(first, keys=both)
            self.repeated += 1
            return
        free = _free_id(command, self._commands)
        if free != command.id:
            command = replace(command, id=free)
        self._by_look[look] = command.id
        self._commands[command.id] = command

    def _same_id(self, command: Command) -> Command | None:
        """A command above with the same id and title."""
        first = None
        if self.ids and command.id:
            first = self._commands.get(command.id)
        if first is not None and first.title == command.title:
            return first
        return None


def _free_id(command: Command, taken: dict[str, Command]) -> str:
    """The id that the listing gives, or one made of the last menu step and the title."""
    wanted = command.id or ".".join(
        filter(None, (slug(command.menu[-1]) if command.menu else "", slug(command.title)))
    )
    wanted = wanted or "command"
    free, n = wanted, 2
    while free in taken:
        free, n = f"{wanted}-{n}", n + 1
    return free


def unused_id(
    head: Sequence[str], rows: Sequence[Row], fields: Mapping[str, int]
) -> tuple[tuple[str, str], ...]:
    """The columns that no field was read from, each with the first text in it."""
    samples: dict[int, str] = {}
    open_ = set(range(widest(rows))) - set(fields.values())
    for row in rows:
        if not open_:
            break
        if row.heading:
            continue
        full = {n for n in open_ if row.cell(n)}
        samples |= {n: one_line(row.cells[n]) for n in full}
        open_ -= full
    names = {n: one_line(cell) for n, cell in enumerate(head) if cell}
    return tuple((names.get(n, f"column {n + 1}"), samples[n]) for n in sorted(samples))
