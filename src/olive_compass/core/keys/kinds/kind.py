"""What a kind of trigger is: all that the rest of the program asks of one."""

from collections.abc import Callable, Iterator, Mapping
from typing import TYPE_CHECKING

from msgspec import Struct

from olive_compass.core.keys.presses import Made, Physical
from olive_compass.core.keys.triggers import Stroke

if TYPE_CHECKING:
    from typing import Protocol

    from olive_compass.core.keys.devices import Device

    class Board(Protocol):
        """What a kind asks of a keyboard: how it makes strokes, and what stands beside it."""

        @property
        def layout(self) -> object | None: ...
        @property
        def devices(self) -> Mapping[str, Device]: ...
        def made(self, stroke: Stroke) -> Made: ...
        def controls(self, device: str) -> tuple[str, ...] | None: ...
        def has_key(self, code: str) -> bool: ...
        def named_code(self, key: str) -> str: ...
        def by_label(self, held: list[str], label: str) -> Made: ...
        def at_code(self, held: list[str], code: str, missing: str) -> Made: ...
        def typed_by(self, physical: Physical) -> str: ...
        def main_resolved(self, modifiers: tuple[str, ...]) -> tuple[str, ...]: ...
        def real(self, held: list[str] | tuple[str, ...]) -> tuple[str, ...]: ...

    class Allows(Protocol):
        """What an application allows, as far as a single stroke can break it."""

        @property
        def modifiers(self) -> tuple[str, ...] | None: ...
        @property
        def plain_keys(self) -> str: ...
        @property
        def takes(self) -> tuple[str, ...]: ...


#: What ends the code of a press that is made twice.
TWICE = "*2"


def once_and_twice(physical: Physical) -> tuple[Physical, ...]:
    """The press made twice of one that is made once, and the other way round."""
    held, code = physical
    if code.endswith(TWICE):
        return ((held, code.removesuffix(TWICE)),)
    return ((held, code + TWICE),)


class UnreadableError(ValueError):
    """A text that is no trigger of a kind: why, without a full stop, and who finds a nearer one."""

    def __init__(self, reason: str, nearest: Callable[[str], str] | None = None) -> None:
        super().__init__(reason)
        self.reason = reason
        self.nearest = nearest


class Broken(Struct, frozen=True, kw_only=True):
    """A rule of ``app.toml`` that a stroke breaks: its name, why, and what could be used instead.

    ``mode`` is the one in which it is broken, ``""`` where it is in all.
    """

    rule: str
    why: str
    mode: str = ""
    nearest: tuple[str, ...] = ()


class StrokeQuery(Struct, frozen=True, kw_only=True):
    """A stroke held against an application's rules: whether it is all of its trigger, the modes
    that are asked about, how many bearings each has, and on which keyboard."""

    stroke: Stroke
    alone: bool
    modes: tuple[str, ...]
    rose: Callable[[str], int]
    allows: "Allows"
    keyboard: "Board"


class Sits(Struct, frozen=True):
    """Where a press is made that is no plain press of a key.

    ``code`` is the key of the keyboard that makes it, ``""``: none does. Then ``part`` says what
    does (“right hand, wheel”), and ``strokes`` what it costs in home strokes without modifiers.
    ``strokes`` comes on top where a key makes it.
    """

    code: str = ""
    part: str = ""
    strokes: float = 0.0


class Kind:
    """A kind of trigger. The defaults are those of what is no key of a keyboard."""

    #: What one is called, as logs and rules have it; what several are called.
    name = ""
    plural = ""
    #: What its text begins with in a trigger, ``""``: anything else.
    prefix = ""
    #: Whether the keys of a keyboard make it, so that a form may lack them.
    on_form = False
    #: The notations that have no way to write it.
    unwritten: tuple[str, ...] = ("aria", "xdg")
    #: Whether an application takes it only where its rules say so (``takes``).
    must_be_taken = False

    def read(self, text: str) -> str:
        """The key of a stroke that ``text`` (without the prefix) names; raises ``UnreadableError``."""
        raise NotImplementedError

    def named(self, words: str) -> str:
        """The key that words of a listing name, ``""``: they name none of this kind."""
        return ""

    def made(self, stroke: Stroke, held: list[str], keyboard: "Board") -> Made:
        """How a keyboard makes a stroke with the modifiers ``held``."""
        return Made(presses=((keyboard.real(held), stroke.key),))

    def types(self, stroke: Stroke, keyboard: "Board") -> bool:
        """Whether the stroke writes text by itself where typing writes text."""
        return False

    def sits(self, code: str, keyboard: "Board") -> Sits | None:
        """Where a press with this code is made; None: nobody can say, so it has no effort."""
        return None

    def twins(self, physical: Physical) -> tuple[Physical, ...]:
        """The other presses that the same finger makes of the same part: shorter, longer, twice."""
        return ()

    def there(self, keyboard: "Board") -> dict[str, tuple[str, ...]]:
        """What a map of free triggers lists of this kind: the keys, by what holds them."""
        return {}

    def broken(self, query: StrokeQuery) -> Iterator[Broken]:
        """The rules that the stroke breaks."""
        if self.must_be_taken and self.name not in query.allows.takes:
            yield Broken(rule="takes", why=f"it takes no {self.plural}, and {query.stroke} is one")


def twice(text: str) -> tuple[str, str]:
    """A text without the sign for “twice”, and that sign (``""``: once).

    >>> twice("main * 2"), twice("main")
    (('main', '*2'), ('main', ''))
    """
    name, star, times = (part.strip() for part in text.partition("*"))
    if not star:
        return name, ""
    if times != "2":
        raise UnreadableError(f"“*{times}” is not *2, which is twice")
    return name, "*2"
