"""A scheme as a value: the decisions that a person made for one application."""

from collections.abc import Mapping, Sequence
from types import MappingProxyType

from msgspec import Struct

from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.layers import PERSONAL, Layer


class Assignment(Struct, frozen=True, kw_only=True):
    """Triggers for a command, the modes they count in, and the reason.

    ``slot`` is the name of what was in a slot when its key was given. ``instead`` says that the
    keys count in place of those that lower layers give the command.
    """

    keys: tuple[Run, ...]
    modes: tuple[str, ...] = (ROOT,)
    why: str = ""
    slot: str = ""
    instead: bool = False


class Decision(Struct, frozen=True, kw_only=True):
    """A reason for a keyless command, a mute or a guard, and the modes it counts in.

    ``keeps`` is the command that a guard keeps on its trigger, where it was set for one only. Where
    an application cannot switch a key off, a mute is a trick: ``never`` is a command that is never
    enabled, which gets the key; ``away`` is the trigger to which the key of a command is moved.
    """

    why: str = ""
    modes: tuple[str, ...] = (ROOT,)
    keeps: str = ""
    never: str = ""
    away: Run | None = None


class Unreadable(Struct, frozen=True, kw_only=True):
    """A trigger of the scheme's file that cannot be read: where it stands, and why not."""

    table: str
    key: str
    text: str
    reason: str


class Scheme(Struct, frozen=True, kw_only=True):
    """The decisions of one scheme; ``assign`` and ``keyless`` are by command id.

    ``accept`` has findings that a person accepts, by id and subject; ``order`` the order of the
    candidates of a choice; ``project`` the one project that a scheme of that layer is for.
    """

    app: str
    name: str
    layer: Layer = PERSONAL
    based_on: str = ""
    assign: Mapping[str, tuple[Assignment, ...]] = MappingProxyType({})
    keyless: Mapping[str, Decision] = MappingProxyType({})
    mute: Mapping[Run, Decision] = MappingProxyType({})
    guard: Mapping[Run, Decision] = MappingProxyType({})
    accept: Mapping[str, Decision] = MappingProxyType({})
    order: Mapping[Run, tuple[str, ...]] = MappingProxyType({})
    project: str = ""
    unreadable: tuple[Unreadable, ...] = ()

    @property
    def decisions(self) -> int:
        assigned = sum(map(len, self.assign.values()))
        return assigned + len(self.keyless) + len(self.mute) + len(self.guard)

    def decides_on(self, command: str) -> bool:
        """Whether the scheme gives keys to a command, or leaves it without one."""
        return command in self.assign or command in self.keyless


def to_write(schemes: Sequence[Scheme]) -> Scheme | None:
    """The scheme that a decision goes into where none is named: the nearest personal one, or else the
    nearest; None: there is none."""
    personal = [each for each in schemes if each.layer == PERSONAL]
    return next(iter([*personal, *schemes]), None)
