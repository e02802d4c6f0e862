"""What a tray is to us: a menu, bar or tab that the user fills; and what an application allows one."""

from collections.abc import Mapping
from types import MappingProxyType
from typing import Literal, get_args

from msgspec import Struct

from olive_compass.core.keys.triggers import Run, stroke

#: What stands before the name of a tray in the id of its command.
PREFIX = "tray."

#: An item that is a separator.
PARTING = "-"

#: How a tray shows its items: always in view, by a click on its title, or only when something opens it.
Opens = Literal["view", "click", "key"]
OPENS: tuple[Opens, ...] = get_args(Opens)

#: What a tray can fill itself with.
Fill = Literal["recent", "most", "missing-key"]
FILLS: tuple[Fill, ...] = get_args(Fill)

#: More items than these in one group are not taken in at a glance. The figure is our own choice: seven to
#: nine items is what menus of most applications keep to between two separators.
SCAN = 9


class TrayKind(Struct, frozen=True, kw_only=True):
    """A kind of tray that an application has.

    ``most`` is how many of them there can be and ``items`` how many items one holds (0: any number);
    ``groups`` whether its items stand in groups; ``icons`` whether only commands with an icon go
    there; ``opens`` is one of ``OPENS``; ``refuses`` are the commands that it does not take, with why;
    ``scan`` how many items of one group one sees at a glance.
    """

    name: str
    most: int = 0
    items: int = 0
    groups: bool = True
    icons: bool = False
    opens: Opens = "click"
    refuses: Mapping[str, str] = MappingProxyType({})
    scan: int = SCAN

    @property
    def steps(self) -> int:
        """How many clicks lead to an item of it."""
        if self.opens == "view":
            return 1
        return 2


class Group(Struct, frozen=True):
    """Items under a title; ``""``: those that stand before the first group."""

    title: str = ""
    items: tuple[str, ...] = ()


class Tray(Struct, frozen=True, kw_only=True):
    """A tray as one layer has it.

    ``items`` are ids of commands, macros and other trays, and separators. ``place`` is where it
    stands among the application's own: ``first``, ``last``, ``before Edit``, ``after Help``. ``fill``
    is one of ``FILLS``, with ``most`` items beside those that stand in the groups, which are pinned;
    ``modes`` are those whose work it counts. ``letter`` is its access letter.
    """

    app: str
    name: str
    title: str
    layer: str
    kind: str
    groups: tuple[Group, ...] = ()
    place: str = "last"
    off: bool = False
    why: str = ""
    project: str = ""
    fill: Fill | Literal[""] = ""
    most: int = 0
    modes: tuple[str, ...] = ()
    letter: str = ""

    @property
    def id(self) -> str:
        """The id of its command."""
        return PREFIX + self.name

    @property
    def items(self) -> tuple[str, ...]:
        """What is on it, separators left out."""
        return tuple(item for g in self.groups for item in g.items if item != PARTING)

    def group_of(self, item: str) -> str | None:
        """The title of the group that an item stands in, None: it does not stand there."""
        return next((group.title for group in self.groups if item in group.items), None)


def tray_openers(trays: tuple[Tray, ...]) -> dict[Run, str]:
    """The strokes by which the access letters of trays open them, with what each does."""
    return {
        Run((stroke(each.letter, "Alt"),)): f"opens the {each.kind} “{each.title}”"
        for each in trays
        if each.letter and not each.off
    }
