"""What a kind of trigger is: all that the rest of the program asks of one."""

from collections.abc import Callable, Iterator
from typing import TYPE_CHECKING, NamedTuple

from olive_compass.core.keys.presses import Made
from olive_compass.core.keys.triggers import Stroke

if TYPE_CHECKING:
    from typing import Protocol

    from olive_compass.core.keys.keyboards import Keyboard

    class Allows(Protocol):
        """What an application allows, as far as a single stroke can break it."""

        @property
        def modifiers(self) -> tuple[str, ...]: ...
        @property
        def plain_keys(self) -> str: ...


class Unreadable(ValueError):
    """A text that is no trigger of a kind: why, without a full stop, and who finds a nearer one."""

    def __init__(self, reason: str, nearest: Callable[[str], str] | None = None) -> None:
        super().__init__(reason)
        self.reason = reason
        self.nearest = nearest


class Broken(NamedTuple):
    """A rule of ``app.toml`` that a stroke breaks: its name, why, and what could be used instead.

    ``mode`` is the one in which it is broken, ``""`` where it is in all.
    """

    rule: str
    why: str
    mode: str = ""
    nearest: tuple[str, ...] = ()


class Asked(NamedTuple):
    """A stroke held against an application's rules: whether it is all of its trigger, the modes
    that are asked about, how many bearings each has, and on which keyboard."""

    stroke: Stroke
    alone: bool
    modes: tuple[str, ...]
    rose: Callable[[str], int]
    allows: "Allows"
    keyboard: "Keyboard"


class Kind:
    """A kind of trigger. The defaults are those of what is no key of a keyboard."""

    #: What one is called, as logs have it; what several are called.
    name = ""
    plural = ""
    #: What its text begins with in a trigger, ``""``: anything else.
    prefix = ""
    #: Whether the keys of a keyboard make it, so that a form may lack them.
    on_form = False
    #: The notations that have no way to write it.
    unwritten: tuple[str, ...] = ("aria", "xdg")

    def read(self, text: str) -> str:
        """The key of a stroke that ``text`` (without the prefix) names; raises ``Unreadable``."""
        raise NotImplementedError

    def made(self, stroke: Stroke, held: list[str], keyboard: "Keyboard") -> Made:
        """How a keyboard makes a stroke with the modifiers ``held``."""
        return Made(((keyboard.real(held), stroke.key),))

    def types(self, stroke: Stroke, keyboard: "Keyboard") -> bool:
        """Whether the stroke writes text by itself where typing writes text."""
        return False

    def broken(self, asked: Asked) -> Iterator[Broken]:
        """The rules that the stroke breaks."""
        yield from ()
