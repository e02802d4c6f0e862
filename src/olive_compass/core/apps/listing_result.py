"""A request to read a listing, and the result."""

from collections.abc import Container, Iterable, Mapping
from types import MappingProxyType

from msgspec import Struct

from olive_compass.core.apps.app import Catalogue, Command
from olive_compass.core.apps.columns import Columns
from olive_compass.core.apps.listing_row import Groups, Headings
from olive_compass.core.apps.situations import Situations
from olive_compass.core.keys.new_words import Unknown
from olive_compass.core.keys.triggers import Run


class SetAside(Struct, frozen=True, order=True, kw_only=True):
    """Something in the listing that could not be read, kept so that nothing is lost."""

    line: int
    what: str
    why: str
    text: str


class ListingRequest(Struct, frozen=True, kw_only=True):
    """What a person said of a listing: columns by field, and how to take rows and runs."""

    columns: Mapping[str, str] = MappingProxyType({})
    groups: Groups = "guess"
    typed: int | None = None
    platform: str = "pc"
    #: The application's own words for keys, each with ours.
    spelling: Mapping[str, str] = MappingProxyType({})
    #: How many strokes a run of the application may have; 0: nobody has said.
    longest: int = 0
    #: What headings are: ``menu``, ``mode``, or ``guess``; and whether all menus in the rows are headings.
    headings: Headings = "guess"
    headed: bool = False
    #: The devices that the desk declares: a cell may name their controls.
    devices: Container[str] = ()


class Listing(Struct, frozen=True, kw_only=True):
    """What was made of a listing."""

    catalogue: Catalogue
    columns: Columns
    modes: tuple[str, ...]
    set_aside: tuple[SetAside, ...]
    rows: int
    groups: int
    repeated: int
    typed: int
    longest_sequence: int
    cleaned: int
    #: How many rows were of the headings of columns; and whether those are ours, for the file has no columns.
    heads: int = 0
    own_heads: bool = False
    #: The columns that nothing was taken from: the heading (or ``column 4``) and a sample.
    unused: tuple[tuple[str, str], ...] = ()
    #: How many rows there were where the listing is a map of the keyboard; 0: it is a list.
    mapped: int = 0
    #: Words in cells of keys that nobody knows.
    unknown: tuple[Unknown, ...] = ()
    #: Cells that were read as keys one after another, the first of them.
    sequences: tuple[str, ...] = ()
    #: The headings that no mark-up told: rows with one cell.
    guessed_groups: tuple[str, ...] = ()
    #: How many rows took the menu of the row above, for their own cell of it is empty.
    filled: int = 0
    #: Whether a capital letter was read as Shift and that letter, for both stand there.
    capitals: bool = False
    #: The headings that were taken for modes, and the keys that tell so; or that would be, were it asked.
    situations: Situations = Situations()
    as_modes: bool = False

    @property
    def keys(self) -> int:
        return self.catalogue.key_count

    @property
    def twice(self) -> list[tuple[Run, tuple[str, ...]]]:
        """The keys that several commands have in one mode, with the titles of those commands."""
        found: dict[Run, dict[str, Command]] = {}
        for command in self.catalogue.commands:
            for run in command.keys:
                found.setdefault(run, {})[command.id] = command
        return [
            (run, tuple(command.title for command in commands.values()))
            for run, commands in found.items()
            if len(commands) > 1 and _meet(commands.values())
        ]

    @property
    def few_keys(self) -> bool:
        """Whether fewer than a tenth of the rows have a key: it may well be another list than was meant."""
        keyed = self.catalogue.keyed_count
        return self.rows >= _ENOUGH_ROWS and keyed * 10 < self.rows

    @property
    def rows_aside(self) -> int:
        """How many whole rows were set aside."""
        return sum(each.what == "row" for each in self.set_aside)


#: Of fewer rows nothing is said of how many have keys.
_ENOUGH_ROWS = 10


def _meet(commands: Iterable[Command]) -> bool:
    """Whether two of the commands name the same mode, or none at all."""
    seen: set[str] = set()
    for command in commands:
        modes = set(command.modes or ("",))
        if modes & seen:
            return True
        seen |= modes
    return False
