"""What an application is to us: its commands, modes and rules, as values."""

from collections import Counter
from collections.abc import Mapping
from functools import cached_property
from types import MappingProxyType
from typing import TYPE_CHECKING, Literal, get_args

from msgspec import Struct

from olive_compass.core.apps.access import keyboard_route
from olive_compass.core.apps.marks import UNMARKED, Marks
from olive_compass.core.apps.modes import ROOT, ModeTree
from olive_compass.core.apps.rules import TAKES, Rules, Takes
from olive_compass.core.keys.kinds import kind_of
from olive_compass.core.keys.triggers import Run

if TYPE_CHECKING:
    from olive_compass.core.apps.trays import Tray

#: What one thing in a catalogue can be.
CommandKind = Literal["command", "part", "style", "setting", "slot", "macro", "tray"]
KINDS: tuple[CommandKind, ...] = get_args(CommandKind)


#: Why a command that a catalogue has is not there: the application has withdrawn it, or this computer lacks
#: the licence that it needs.
WITHDRAWN, LICENCE = "withdrawn", "licence"

#: What an input of a command can be. An answer is kept as the text that a person would type.
INPUT_KINDS = ("point", "text", "number", "choice", "selection", "yes")


class Command(Struct, frozen=True, kw_only=True):
    """One thing that an application offers to put on a key.

    ``keys`` are its factory keys; ``modes`` are where it can be used (none named: anywhere);
    ``line`` is its line in the catalogue's file, 0 where it has none. ``marks`` are what people
    note about it. ``access`` are the access letters of its menus and its own; ``inputs`` what it
    asks for, as its row of the catalogue says it. ``keys_elsewhere`` are its factory keys on the other
    platform (a Mac's where ``keys`` are a PC's, and the other way round), None where nobody said that
    they are others.
    """

    id: str
    title: str
    menu: tuple[str, ...] = ()
    keys: tuple[Run, ...] = ()
    modes: tuple[str, ...] = ()
    kind: CommandKind = "command"
    does: str = ""
    line: int = 0
    marks: Marks = UNMARKED
    access: tuple[str, ...] = ()
    inputs: str = ""
    keys_elsewhere: tuple[Run, ...] | None = None

    @property
    def is_own(self) -> bool:
        """Whether it was made on the desk, being a macro or a tray: no listing has it."""
        return self.kind in ("macro", "tray") and self.id.startswith(f"{self.kind}.")

    @property
    def usable_in(self) -> tuple[str, ...]:
        """The modes in which it can be used: ``everywhere`` where it names none."""
        return self.modes or (ROOT,)

    @property
    def top_menu(self) -> str:
        """The menu of the menu bar that it is in."""
        if self.menu:
            return self.menu[0]
        return "Without a menu"

    @property
    def menu_letters(self) -> tuple[str, ...]:
        """The access letters of its menus, ``""`` where one has none."""
        if self.access:
            return self.access[:-1]
        return ("",) * len(self.menu)

    @property
    def keyboard_route(self) -> str:
        """The way through the menus by access letters, ``""`` where a letter is missing."""
        return keyboard_route(self.access)

    @property
    def route(self) -> str:
        """The way to it through the menus, or ``""`` where no menu has it."""
        if self.menu:
            return " > ".join((*self.menu, self.title))
        return ""


class UnreadableKey(Struct, frozen=True, kw_only=True):
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

    @property
    def takes(self) -> tuple[Takes, ...]:
        """The kinds of triggers that its factory keys are of, beside keys and swipes."""
        strokes = {
            stroke
            for command in self.commands
            for run in command.keys
            for stroke in run.strokes
            if ":" in stroke.key
        }
        names = {kind_of(stroke).name for stroke in strokes}
        return tuple(name for name in TAKES if name in names)

    @property
    def modes(self) -> tuple[str, ...]:
        """The modes that commands name, in their order."""
        return tuple(dict.fromkeys(mode for command in self.commands for mode in command.modes))

    @property
    def longest_sequence(self) -> int:
        """How many strokes the longest factory key has; 1 where there is none."""
        lengths = (len(run.strokes) for command in self.commands for run in command.keys)
        return max(lengths, default=1)

    @cached_property
    def by_id(self) -> dict[str, Command]:
        return {command.id: command for command in self.commands}

    @cached_property
    def by_menu(self) -> dict[tuple[str, ...], list[Command]]:
        """The commands that stand in each menu, in their order."""
        found: dict[tuple[str, ...], list[Command]] = {}
        for command in self.commands:
            if command.menu:
                found.setdefault(command.menu, []).append(command)
        return found

    @property
    def listed(self) -> tuple[Command, ...]:
        """The commands that the application has of itself: those of the desk's macros and trays are in no listing."""
        return tuple(command for command in self.commands if not command.is_own)

    @property
    def key_count(self) -> int:
        """How many factory keys there are."""
        return sum(len(command.keys) for command in self.commands)

    @property
    def keyed_count(self) -> int:
        """How many commands have a factory key."""
        return sum(bool(command.keys) for command in self.commands)

    @property
    def top_menus(self) -> tuple[str, ...]:
        """The menus of the menu bar, the one with most commands first."""
        counts = Counter(command.top_menu for command in self.commands)
        return tuple(sorted(counts, key=lambda menu: (-counts[menu], menu)))


class Via(Struct, frozen=True):
    """What shows a thing that takes no key: a command, and what was in it when that was said (of a
    slot; ``""``: it is none)."""

    through: str
    held: str = ""


class App(Struct, frozen=True, kw_only=True):
    """An application: ``name`` as the desk's files have it, ``title`` as people write it."""

    name: str
    title: str
    version: str
    modes: ModeTree
    rules: Rules
    catalogue: Catalogue
    #: The application's own words for keys, each with ours (see ``core/keys/spelling.py``).
    spelling: Mapping[str, str] = MappingProxyType({})
    #: The trays that count, in their order, those that are switched off among them.
    trays: "tuple[Tray, ...]" = ()
    #: Things that take no key, each with the command that shows it and what that held then.
    vias: Mapping[str, "Via"] = MappingProxyType({})
    #: What the application calls commands by now that keep another id here.
    ids: Mapping[str, str] = MappingProxyType({})

    @property
    def heading(self) -> str:
        """Its title and version, as they stand above what is said of it."""
        return f"{self.title} {self.version}".strip()

    def shown(self, command: str) -> str:
        """What a command is called: its title, of a slot also what is in it now; or its id.

        >>> view = Command(id="view.saved-3", title="Saved view 3")
        >>> rules = Rules(slots={"view.saved-3": "Harbour side"})
        >>> app = App(
        ...     name="a",
        ...     title="A",
        ...     version="1",
        ...     modes=ModeTree({}),
        ...     rules=rules,
        ...     catalogue=Catalogue((view,)),
        ... )
        >>> app.shown("view.saved-3")
        'Saved view 3: Harbour side'
        """
        known = self.catalogue.by_id.get(command)
        if known is None:
            return command
        content = self.rules.slots.get(command, "")
        if content:
            return f"{known.title}: {content}"
        return known.title

    def why_absent(self, command: Command) -> str:
        """Why a command is not there to be started: one of the words above, ``""``: it is there."""
        if command.marks.withdrawn:
            return WITHDRAWN
        needs = command.marks.needs
        if needs and not self.rules.licences.get(needs, False):
            return LICENCE
        return ""

    def stands_for(self, command: str) -> tuple[str, ...]:
        """The things without a key that a command shows."""
        return tuple(thing for thing, each in self.vias.items() if each.through == command)

    @property
    def active_trays(self) -> "tuple[Tray, ...]":
        """The trays that are not switched off."""
        return tuple(each for each in self.trays if not each.off)

    def trays_with(self, command: str) -> "tuple[Tray, ...]":
        """The active trays that have a command."""
        return tuple(each for each in self.active_trays if command in each.items)

    def rose(self, mode: str) -> int:
        """How many bearings swipes have in ``mode``: its own rose or the nearest one; 0: none."""
        for name in self.modes.path(mode):
            if name in self.rules.swipes:
                return self.rules.swipes[name]
        return 0
