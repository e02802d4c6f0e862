"""Layers: who says what about a trigger, and from where."""

from collections.abc import Iterable, Iterator
from typing import NamedTuple

from olive_compass.core.apps.app import App
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.decisions import SCHEME_LAYERS, Scheme

FACTORY = "factory"


class Claim(NamedTuple):
    """One command wants one trigger in one mode.

    ``command`` is ``""`` where the trigger is muted. ``rank`` is the place of the layer in
    the stack (0: the nearest). ``origin`` is the scheme's name, ``""`` for the factory.
    """

    trigger: Run
    command: str
    mode: str
    layer: str
    rank: int
    origin: str = ""
    why: str = ""

    @property
    def table(self) -> str:
        """The table of the scheme's file in which the claim stands."""
        return "assign" if self.command else "mute"

    @property
    def key(self) -> str:
        """The key in that table."""
        return self.command or str(self.trigger)


class Stack(NamedTuple):
    """An application with the schemes that count for it, the nearest first."""

    app: App
    schemes: tuple[Scheme, ...] = ()

    def with_scheme(self, scheme: Scheme) -> "Stack":
        """The same stack with ``scheme`` in place of its earlier self."""
        names = (scheme if each.name == scheme.name else each for each in self.schemes)
        return self._replace(schemes=tuple(names))


def in_layer_order(schemes: Iterable[Scheme]) -> tuple[Scheme, ...]:
    """The schemes with project before personal before house, otherwise as they come."""
    return tuple(sorted(schemes, key=lambda scheme: SCHEME_LAYERS.index(scheme.layer)))


def claims(stack: Stack) -> Iterator[Claim]:
    """Every claim of every layer, the nearest layer first; bare commands have lost theirs."""
    bare: set[str] = set()
    for rank, scheme in enumerate(stack.schemes):
        yield from _scheme_claims(scheme, rank, bare)
        bare.update(scheme.bare)
    rank = len(stack.schemes)
    for command in stack.app.catalogue.commands:
        if command.keys and command.id not in bare:
            for run in command.keys:
                for mode in command.modes or (ROOT,):
                    yield Claim(run, command.id, mode, FACTORY, rank)


def _scheme_claims(scheme: Scheme, rank: int, bare: set[str]) -> Iterator[Claim]:
    for run, mute in scheme.mute.items():
        for mode in mute.modes:
            yield Claim(run, "", mode, scheme.layer, rank, scheme.name, mute.why)
    for command, assignments in scheme.assign.items():
        if command in bare:
            continue
        for assignment in assignments:
            for run in assignment.keys:
                for mode in assignment.modes:
                    yield Claim(run, command, mode, scheme.layer, rank, scheme.name, assignment.why)
