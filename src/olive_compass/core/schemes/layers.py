"""Layers: who says what about a trigger, and from where."""

from collections.abc import Iterable, Iterator, Mapping
from types import MappingProxyType
from typing import NamedTuple

from olive_compass.core.apps.app import App
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.decisions import SCHEME_LAYERS, Scheme

FACTORY = "factory"

#: Layers that no scheme can change: the operating system and the application's own.
SYSTEM, RESERVED, BUILT_IN = "system", "reserved", "built-in"

#: Layers above all schemes: what they take is gone.
FIRM = (SYSTEM, RESERVED)


class Claim(NamedTuple):
    """One command wants one trigger in one mode.

    ``command`` is ``""`` where the trigger is muted; in the layers ``system``, ``reserved`` and
    ``built-in``, which have no commands, it is the layer, a colon and what the key does.
    ``rank`` is the place of the layer in the stack (the least is the nearest). ``origin`` is
    the scheme's name, ``""`` for the others.
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
        """The table of the file in which the claim stands."""
        if self.layer in (SYSTEM, RESERVED, BUILT_IN):
            return "keys" if self.layer == SYSTEM else self.layer
        return "assign" if self.command else "mute"

    @property
    def key(self) -> str:
        """The key in that table."""
        return self.command if self.table == "assign" else str(self.trigger)

    @property
    def wired(self) -> str:
        """What the key does in a layer without commands, ``""`` in the others."""
        return self.command.partition(":")[2] if self.table not in ("assign", "mute") else ""


class Stack(NamedTuple):
    """An application with the schemes that count for it, the nearest first."""

    app: App
    schemes: tuple[Scheme, ...] = ()
    system: Mapping[Run, str] = MappingProxyType({})

    def with_scheme(self, scheme: Scheme) -> "Stack":
        """The same stack with ``scheme`` in place of its earlier self."""
        names = (scheme if each.name == scheme.name else each for each in self.schemes)
        return self._replace(schemes=tuple(names))


def in_layer_order(schemes: Iterable[Scheme]) -> tuple[Scheme, ...]:
    """The schemes with project before personal before house, otherwise as they come."""
    return tuple(sorted(schemes, key=lambda scheme: SCHEME_LAYERS.index(scheme.layer)))


def claims(stack: Stack) -> Iterator[Claim]:
    """Every claim of every layer, the nearest layer first; bare commands have lost theirs.

    Where a command may have so many keys only, those of nearer layers push out the lower ones.
    """
    return _limited(stack) if stack.app.rules.most_keys else _all(stack)


def _limited(stack: Stack) -> Iterator[Claim]:
    """The claims without those of lower layers that go beyond the keys that a command may have."""
    nearer: dict[str, set[Run]] = {}
    rank, here = 0, dict[str, set[Run]]()
    for claim in _all(stack):
        if claim.rank != rank:
            for command, runs in here.items():
                nearer.setdefault(command, set()).update(runs)
            rank, here = claim.rank, {}
        have = nearer.get(claim.command, set())
        own = here.setdefault(claim.command, set())
        fits = claim.trigger in have | own or len(have | own) < stack.app.rules.most_keys
        # Too many in one layer are a mistake of a person, and are reported, not hidden.
        if fits or not have or not claim.command or claim.wired:
            own.add(claim.trigger)
            yield claim


def _all(stack: Stack) -> Iterator[Claim]:
    rules = stack.app.rules
    yield from _wired(stack.system, SYSTEM, -2)
    yield from _wired(rules.reserved, RESERVED, -1)
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
    yield from _wired(rules.built_in, BUILT_IN, rank + 1)


def _wired(meanings: Mapping[Run, str], layer: str, rank: int) -> Iterator[Claim]:
    for run, does in meanings.items():
        yield Claim(run, f"{layer}:{does}", ROOT, layer, rank)


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
