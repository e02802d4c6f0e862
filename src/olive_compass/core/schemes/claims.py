"""Claims: what each layer of an application's stack wants on which trigger, the nearest first."""

from collections.abc import Callable, Iterable, Iterator, Mapping
from types import MappingProxyType

from msgspec import Struct

from olive_compass.core.apps.access import bar_openers
from olive_compass.core.apps.app import App
from olive_compass.core.apps.menu_letters import menu_openers
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.layers import (
    FACTORY,
    MENUS,
    PLACE,
    RESERVED,
    SYSTEM,
    UNLISTED,
    Layer,
)
from olive_compass.structs import replace


class Does(Struct, frozen=True):
    """What a claim does: it starts a command, does something that is wired in, or mutes.

    ``away`` is a mute by moving the command away: what is wired in below applies then.
    """

    command: str = ""
    wired: str = ""
    away: bool = False

    @property
    def mutes(self) -> bool:
        return not self.command and not self.wired


#: Nothing is to happen.
MUTES = Does()
MOVED_AWAY = Does(away=True)


class Claim(Struct, frozen=True, kw_only=True):
    """One command, one wired meaning or one mute wants one trigger in one mode.

    ``rank`` is the place of the layer in the stack (the least is the nearest). ``origin`` is
    the scheme's name, ``""`` for the layers that no scheme writes.
    """

    trigger: Run
    does: Does
    mode: str
    layer: Layer
    rank: int
    origin: str = ""
    why: str = ""

    @property
    def command(self) -> str:
        """The command that it starts, ``""`` where it starts none."""
        return self.does.command

    @property
    def wired(self) -> str:
        """What the key does in a layer without commands, ``""`` in the others."""
        return self.does.wired

    @property
    def mutes(self) -> bool:
        return self.does.mutes

    @property
    def table(self) -> str:
        """The table of the file in which the claim stands."""
        if not self.layer.by_scheme:
            return self.layer.table
        if self.mutes:
            return "mute"
        return "assign"

    @property
    def key(self) -> str:
        """The key in that table."""
        return self.command or str(self.trigger)


class Stack(Struct, frozen=True):
    """An application with the schemes that count for it, the nearest first."""

    app: App
    schemes: tuple[Scheme, ...] = ()
    system: Mapping[Run, str] = MappingProxyType({})

    def with_scheme(self, scheme: Scheme) -> "Stack":
        """The same stack with ``scheme`` in place of its earlier self."""
        names = (scheme if each.name == scheme.name else each for each in self.schemes)
        return replace(self, schemes=tuple(names))

    def going_by(self, scheme: Scheme) -> "Stack":
        """The stack in which ``scheme`` stands in the place of the others of its layer."""
        others = (each for each in self.schemes if each.layer != scheme.layer)
        return replace(self, schemes=in_layer_order([scheme, *others]))

    @property
    def names(self) -> tuple[str, ...]:
        """What lies above what, from the nearest scheme down to the factory keys."""
        return (*self.scheme_names, FACTORY)

    @property
    def scheme_names(self) -> tuple[str, ...]:
        """The names of the schemes, the nearest first."""
        return tuple(scheme.name for scheme in self.schemes)

    def down_from(self, scheme: str) -> "Stack":
        """A scheme of the stack with what lies below it, all above it left out."""
        return replace(self, schemes=self.schemes[self.scheme_names.index(scheme) :])

    @property
    def keyless(self) -> frozenset[str]:
        """The commands that some scheme leaves keyless, in whatever mode."""
        return frozenset(command for scheme in self.schemes for command in scheme.keyless)

    @property
    def has_guards(self) -> bool:
        """Whether some scheme guards a key."""
        return any(scheme.guard for scheme in self.schemes)


def in_layer_order(schemes: Iterable[Scheme]) -> tuple[Scheme, ...]:
    """The schemes with the nearer layer before the lower one, otherwise as they come."""
    return tuple(sorted(schemes, key=lambda scheme: PLACE[scheme.layer]))


def claims(stack: Stack, same: Callable[[Run], object] = lambda run: run) -> Iterator[Claim]:
    """Every claim of every layer, the nearest layer first; keyless commands have lost theirs.

    Where a command may have so many keys only, those of nearer layers push out the lower ones;
    ``same`` gives what two triggers share that count as one.
    """
    if stack.app.rules.most_keys:
        return _limited(stack, same)
    return _all(stack)


def absent_claims(stack: Stack) -> Iterator[Claim]:
    """What schemes and factory want for commands that are not there (``App.why_absent``), the nearest first:
    they start nothing, and their keys are free for others."""
    rank = len(stack.schemes)
    gone = _absent(stack.app)
    every = [c for n, scheme in enumerate(stack.schemes) for c in _scheme_claims(scheme, n)]
    return (claim for claim in (*every, *_factory_claims(stack.app, rank)) if claim.command in gone)


def silenced(stack: Stack) -> dict[str, list[tuple[int, frozenset[str]]]]:
    """The commands whose lower keys count no longer: from below which scheme, and in which modes.

    They are keyless there, or have a key instead.
    """
    tree = stack.app.modes
    found: dict[str, list[tuple[int, frozenset[str]]]] = {}
    for rank, scheme in enumerate(stack.schemes):
        for command, decision in scheme.keyless.items():
            found.setdefault(command, []).append((rank, frozenset(tree.inside(decision.modes))))
        for command, assignments in scheme.assign.items():
            modes = [mode for each in assignments if each.instead for mode in each.modes]
            if modes:
                found.setdefault(command, []).append((rank, frozenset(tree.inside(modes))))
    return found


def _limited(stack: Stack, same: Callable[[Run], object]) -> Iterator[Claim]:
    """The claims without those of lower layers that go beyond the keys that a command may have."""
    nearer: dict[str, set[object]] = {}
    rank, here = 0, dict[str, set[object]]()
    for claim in _all(stack):
        if claim.rank != rank:
            for command, runs in here.items():
                nearer.setdefault(command, set()).update(runs)
            rank, here = claim.rank, {}
        have = nearer.get(claim.command, set())
        own = here.setdefault(claim.command, set())
        key = same(claim.trigger)
        fits = key in have | own or len(have | own) < stack.app.rules.most_keys
        # Too many in one layer are a mistake of a person, and are reported, not hidden.
        if fits or not have or not claim.command:
            own.add(key)
            yield claim


def _all(stack: Stack) -> Iterator[Claim]:
    rules = stack.app.rules
    yield from _wired(stack.system, SYSTEM, -2)
    yield from _wired(rules.reserved, RESERVED, -1)
    silent, gone = silenced(stack), _absent(stack.app)
    for rank, scheme in enumerate(stack.schemes):
        yield from _audible(_present(_scheme_claims(scheme, rank), gone), silent)
    rank = len(stack.schemes)
    yield from _audible(_present(_factory_claims(stack.app, rank), gone), silent)
    yield from _wired(rules.unlisted, UNLISTED, rank + 1)
    if rules.letters_open_menus:
        openers = menu_openers(stack.app.catalogue.commands)
        if openers:
            openers |= bar_openers("tap" in rules.takes)
        if stack.app.trays:
            # Loaded here: few applications have trays that a letter opens.
            from olive_compass.core.apps.trays import tray_openers

            for run, does in tray_openers(stack.app.trays).items():
                if run in openers:
                    openers[run] = f"{openers[run]} or {does}"
                else:
                    openers[run] = does
        yield from _wired(openers, MENUS, rank + 2)


def _present(found: Iterator[Claim], gone: set[str]) -> Iterator[Claim]:
    """The claims without those of commands that are not there."""
    if gone:
        return (claim for claim in found if claim.command not in gone)
    return found


def _absent(app: App) -> set[str]:
    """The commands that are not there, by id."""
    return {
        each.id
        for each in app.catalogue.commands
        if (each.marks.withdrawn or each.marks.needs) and app.why_absent(each)
    }


def _audible(
    found: Iterator[Claim], silent: Mapping[str, list[tuple[int, frozenset[str]]]]
) -> Iterator[Claim]:
    """The claims without those that a nearer scheme has silenced in all of their mode."""
    if not silent:
        return found
    return (
        claim
        for claim in found
        if claim.command not in silent
        or not any(
            rank < claim.rank and claim.mode in modes for rank, modes in silent[claim.command]
        )
    )


def _wired(meanings: Mapping[Run, str], layer: Layer, rank: int) -> Iterator[Claim]:
    for run, does in meanings.items():
        yield Claim(trigger=run, does=Does(wired=does), mode=ROOT, layer=layer, rank=rank)


def _factory_claims(app: App, rank: int) -> Iterator[Claim]:
    for command in app.catalogue.commands:
        if command.keys:
            does = Does(command.id)
            for run in command.keys:
                for mode in command.usable_in:
                    yield Claim(trigger=run, does=does, mode=mode, layer=FACTORY, rank=rank)


def _scheme_claims(scheme: Scheme, rank: int) -> Iterator[Claim]:
    for run, mute in scheme.mute.items():
        does = MUTES
        if mute.away:
            does = MOVED_AWAY
        for mode in mute.modes:
            yield Claim(
                trigger=run,
                does=does,
                mode=mode,
                layer=scheme.layer,
                rank=rank,
                origin=scheme.name,
                why=mute.why,
            )
    for command, assignments in scheme.assign.items():
        does = Does(command)
        for assignment in assignments:
            for run in assignment.keys:
                for mode in assignment.modes:
                    yield Claim(
                        trigger=run,
                        does=does,
                        mode=mode,
                        layer=scheme.layer,
                        rank=rank,
                        origin=scheme.name,
                        why=assignment.why,
                    )
