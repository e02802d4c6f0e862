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
from olive_compass.core.keys.kinds import kind_of
from olive_compass.core.keys.triggers import Run

if TYPE_CHECKING:
    from olive_compass.core.apps.trays import Tray, TrayKind

#: What an application does when a trigger is given to a second command.
Duplicates = Literal["replace", "refuse", "choice", "first-wins", "last-wins"]
DUPLICATES: tuple[Duplicates, ...] = get_args(Duplicates)

#: What the application does with a key that a second command is to have, in words.
DUPLICATES_SAID: Mapping[str, str] = {
    "replace": "a new assignment of a key replaces the old one",
    "refuse": "a key that is in use is refused",
    "choice": "commands with the same key are offered as a choice",
    "first-wins": "of two commands with one key the first starts",
    "last-wins": "of two commands with one key the last starts",
}

#: The kinds of triggers that an application takes only where its rules say so.
Takes = Literal["tap", "hold", "mouse", "wheel", "pen", "device"]
TAKES: tuple[Takes, ...] = get_args(Takes)

#: Which keys may stand alone, without a modifier.
PlainKeys = Literal["all", "named", "none"]

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


#: The rules with one value each, by their names in files and commands, and the type of that value.
RULE_TYPES: Mapping[str, type] = {
    "duplicates": str,
    "longest-sequence": int,
    "typed-sequences": bool,
    "fold-pad": bool,
    "closing-key": str,
    "wait": float,
    "most-keys": int,
    "modifiers": list,
    "plain-keys": str,
    "can-mute": bool,
    "text-modes": list,
    "letters-open-menus": bool,
    "takes": list,
}


class Rules(Struct, frozen=True, kw_only=True):
    """What the application allows, each rule by the name that it has in the file and in JSON.

    ``duplicates`` is one of ``DUPLICATES``; ``longest_sequence`` counts strokes (1: no runs);
    ``typed_sequences`` says that letters typed without modifiers may make a run, ``closing_key`` is
    the key that ends one (``""``: none is needed) and ``wait`` the seconds after which it ends
    by itself (0: it does not say). ``fold_pad`` takes the digits of the numeric pad for those of
    the row. ``swipes`` gives how many bearings the swipes of a mode have.

    ``most_keys`` is how many triggers a command may have (0: any number); ``modifiers`` which may
    be held (none named: all); ``plain_keys`` which keys may stand alone: ``all``, ``named`` (F6,
    Insert) or ``none``. ``can_mute`` says that a key can be switched off; ``text_modes`` are those
    in which typing writes text. ``reserved`` keys cannot be changed, ``unlisted`` ones mean
    something that no list shows; both with what they do. ``licences`` are those that the
    application knows, and whether this seat has them. ``slots`` name what is in a slot now.
    ``letters_open_menus`` says that Alt and the access letter of a menu open it. ``takes`` are the
    kinds of triggers that it knows beside keys and swipes: tap, hold, mouse, wheel, pen, device.
    ``trays`` are the kinds of trays that it has.
    """

    duplicates: Duplicates = "replace"
    longest_sequence: int = 1
    typed_sequences: bool = False
    fold_pad: bool = False
    closing_key: str = ""
    wait: float = 0.0
    most_keys: int = 0
    #: The modifiers that may be held in a key; None: all of them.
    modifiers: tuple[str, ...] | None = None
    plain_keys: PlainKeys = "all"
    can_mute: bool = True
    letters_open_menus: bool = True
    takes: tuple[Takes, ...] = ()
    text_modes: tuple[str, ...] = ()
    swipes: Mapping[str, int] = MappingProxyType({})
    licences: Mapping[str, bool] = MappingProxyType({})
    slots: Mapping[str, str] = MappingProxyType({})
    reserved: Mapping[Run, str] = MappingProxyType({})
    unlisted: Mapping[Run, str] = MappingProxyType({})
    trays: "Mapping[str, TrayKind]" = MappingProxyType({})
    #: The rules, as their file names them, that nobody has said: they are told by the keys, or taken for granted.
    guessed: frozenset[str] = frozenset()

    @property
    def typed(self) -> int:
        """How many letters written without spaces may be a run; 0: none."""
        if self.typed_sequences:
            return self.longest_sequence
        return 0


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

    def trays_with(self, command: str) -> "tuple[Tray, ...]":
        """The active trays that have a command."""
        return tuple(each for each in self.trays if not each.off and command in each.items)

    def rose(self, mode: str) -> int:
        """How many bearings swipes have in ``mode``: its own rose or the nearest one; 0: none."""
        for name in self.modes.path(mode):
            if name in self.rules.swipes:
                return self.rules.swipes[name]
        return 0
