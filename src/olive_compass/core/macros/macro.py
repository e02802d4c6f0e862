"""A macro as a value: numbered steps, each a command with inputs, some of them asked for."""

import re
from collections.abc import Mapping
from types import MappingProxyType

from msgspec import Struct

from olive_compass.core.apps.app import Command
from olive_compass.core.plain import one_line
from olive_compass.structs import replace

#: What stands before the name of a macro in the id of its command.
PREFIX = "macro."

#: As text: it is compiled where a value may be one, not at every start.
_REFERENCE = (
    r"\{\s*step\s+(\d+)(?:\s+([A-Za-z_][\w-]*))?"
    r"(?:\s+([+-]?[\d.]+)[\s,]+([+-]?[\d.]+))?\s*\}"
)


class Step(Struct, frozen=True, kw_only=True):
    """One command of a macro.

    ``inputs`` are fixed values as a person would type them, or references: ``{step 2}`` is what step 2
    made, ``{step 2 at}`` the value of that input there, ``{step 2 at +0 +12}`` a point beside it. ``ask`` are the
    inputs that are asked for at each play, with the question (``""``: the plain one); ``keep``
    those whose fixed value is meant. ``press`` stands in place of a command: the trigger is
    pressed, whatever it does then. ``ended`` is how it ended when it was recorded, if not well.
    ``origin`` is its place in the file that it was read from, -1: it is new.
    """

    command: str
    inputs: Mapping[str, str] = MappingProxyType({})
    ask: Mapping[str, str] = MappingProxyType({})
    keep: tuple[str, ...] = ()
    press: str = ""
    note: str = ""
    ended: str = ""
    origin: int = -1

    @property
    def calls(self) -> str:
        """The name of the macro that it plays, ``""``: none."""
        if self.command.startswith(PREFIX):
            return self.command[len(PREFIX) :]
        return ""

    @property
    def meaning(self) -> "Step":
        """The step without its place in a file, for comparing."""
        return replace(self, origin=-1, inputs=dict(self.inputs), ask=dict(self.ask))


class Macro(Struct, frozen=True, kw_only=True):
    """Steps under a name. ``modes`` are where it can be started; ``recorded`` says from what."""

    app: str
    name: str
    title: str
    steps: tuple[Step, ...] = ()
    does: str = ""
    modes: tuple[str, ...] = ()
    version: str = ""
    recorded: str = ""

    @property
    def id(self) -> str:
        """The id of its command."""
        return PREFIX + self.name

    @property
    def asked(self) -> tuple[str, ...]:
        """The inputs that are asked for at each play, each once, in the order of the steps."""
        return tuple(dict.fromkeys(name for step in self.steps for name in step.ask))

    @property
    def command(self) -> Command:
        """The macro as a command, for keys."""
        return Command(
            id=self.id,
            title=self.title,
            menu=("Macros",),
            keys=(),
            modes=self.modes,
            kind="macro",
            does=self.does,
            line=1,
        )


class Reference(Struct, frozen=True):
    """A value taken from an earlier step: its number, the input (``""``: what it made), a shift."""

    step: int
    input: str = ""
    shift: tuple[float, float] | None = None

    def __str__(self) -> str:
        text = f"step {self.step}" + (f" {self.input}" if self.input else "")
        shift = ""
        if self.shift:
            shift = f" {self.shift[0]:+g} {self.shift[1]:+g}"
        return f"{{{text}{shift}}}"


def reference(value: str) -> Reference | None:
    """The reference that a value is, None where it is a value of its own.

    >>> str(reference("{step 2 at +0 +12}")), reference("Fl.W.5s")
    ('{step 2 at +0 +12}', None)
    """
    found = None
    if value[:1] == "{":
        found = re.fullmatch(_REFERENCE, value)
    if not found:
        return None
    try:
        shift = None
        if found[3]:
            shift = (float(found[3]), float(found[4]))
    except ValueError:
        return None
    return Reference(int(found[1]), found[2] or "", shift)


def in_plain_text(macro: Macro) -> Macro:
    """The macro with its texts free of what a terminal might act on."""
    return replace(
        macro,
        title=one_line(macro.title),
        does=one_line(macro.does),
        version=one_line(macro.version),
        recorded=one_line(macro.recorded),
    )
