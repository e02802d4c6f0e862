"""What an application is to us: its commands, modes and rules, as values."""

from collections.abc import Mapping
from functools import cached_property
from types import MappingProxyType
from typing import NamedTuple

from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.keys.triggers import Run

#: What an application does when a trigger is given to a second command.
DUPLICATES = ("replace", "refuse", "choice", "first-wins", "last-wins")

#: What one thing in a catalogue can be.
KINDS = ("command", "part", "style", "setting", "slot", "macro", "tray")


class Command(NamedTuple):
    """One thing that an application offers to put on a key.

    ``keys`` are its factory keys; ``modes`` are where it can be used (none named: anywhere);
    ``line`` is its line in the catalogue's file, 0 where it has none.
    """

    id: str
    title: str
    menu: tuple[str, ...] = ()
    keys: tuple[Run, ...] = ()
    modes: tuple[str, ...] = ()
    kind: str = "command"
    does: str = ""
    line: int = 0

    @property
    def route(self) -> str:
        """The way to it through the menus, or ``""`` where no menu has it."""
        return " > ".join((*self.menu, self.title)) if self.menu else ""


class UnreadableKey(NamedTuple):
    """A cell of factory keys that cannot be read: whose, what it says, why, and its line."""

    command: str
    text: str
    reason: str
    line: int


class Catalogue:
    """All commands of an application, in its own order."""

    def __init__(
        self, commands: tuple[Command, ...], unreadable: tuple[UnreadableKey, ...] = ()
    ) -> None:
        self.commands = commands
        self.unreadable = unreadable

    @cached_property
    def by_id(self) -> dict[str, Command]:
        return {command.id: command for command in self.commands}


class Rules(NamedTuple):
    """What the application allows.

    ``duplicates`` is one of ``DUPLICATES``; ``longest_run`` counts strokes (1: no runs);
    ``typed_runs`` says that letters typed without modifiers may make a run, ``closing_key`` is
    the key that ends one (``""``: none is needed) and ``wait`` the seconds after which it ends
    by itself (0: it does not say). ``folds_pad`` takes the digits of the numeric pad for those of
    the row. ``roses`` gives how many bearings the swipes of a mode have.
    """

    duplicates: str = "replace"
    longest_run: int = 1
    typed_runs: bool = False
    folds_pad: bool = False
    closing_key: str = ""
    wait: float = 0.0
    roses: Mapping[str, int] = MappingProxyType({})

    @property
    def typed(self) -> int:
        """How many letters written without spaces may be a run; 0: none."""
        return self.longest_run if self.typed_runs else 0


class App(NamedTuple):
    """An application: ``name`` as the desk's files have it, ``title`` as people write it."""

    name: str
    title: str
    version: str
    modes: ModeTree
    rules: Rules
    catalogue: Catalogue

    def rose(self, mode: str) -> int:
        """How many bearings swipes have in ``mode``: its own rose or the nearest one; 0: none."""
        for name in self.modes.path(mode):
            if name in self.rules.roses:
                return self.rules.roses[name]
        return 0
