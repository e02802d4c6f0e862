"""Decides what a press does: the first layer that has something to say, the nearer mode first."""

from collections.abc import Iterator
from functools import cached_property
from typing import Final, Literal

from msgspec import Struct

from olive_compass.core.apps.menu_letters import doubled_letters
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.kinds import kind_of
from olive_compass.core.keys.presses import Press
from olive_compass.core.keys.triggers import Run, Stroke
from olive_compass.core.schemes.claims import Claim, Stack, claims, silenced
from olive_compass.core.schemes.layers import SYSTEM

#: What can come of a press.
Happens = Literal["starts", "choice", "waits", "muted", "nothing"]
STARTS: Final = "starts"
CHOICE: Final = "choice"
WAITS: Final = "waits"
MUTED: Final = "muted"
NOTHING: Final = "nothing"


def twins_of(press: Press) -> tuple[Press, ...]:
    """The other presses that the finger of the last stroke makes of the same part."""
    kind = kind_of(Stroke((), press[-1][1]))
    return tuple((*press[:-1], other) for other in kind.twins(press[-1]))


class Outcome(Struct, frozen=True, kw_only=True):
    """What a press does in a mode, and why.

    ``what`` is one of the five words above. ``winners`` are the claims that decided it: one
    command, the candidates of a choice in their order, or a mute; where ``what`` is
    ``waits`` they are what starts if nothing more is typed. ``overridden`` are the claims that
    would have decided it if those had not, in that order; ``longer`` the runs that begin
    with the press.
    """

    what: Happens
    winners: tuple[Claim, ...] = ()
    overridden: tuple[Claim, ...] = ()
    longer: tuple[Claim, ...] = ()

    @property
    def told(self) -> tuple[object, ...]:
        """What a person can tell of it: what happens, by whom, and whether commands may follow."""
        return (
            self.what,
            tuple((claim.command, claim.wired) for claim in self.winners),
            bool(self.longer),
        )


class Keymap:
    """Every claim of a stack in buckets by press: answers what a press does in a mode.

    Nothing is collected before it is asked for: most commands that look at all applications
    ask only one of them what its presses do.
    """

    def __init__(self, stack: Stack, keyboard: Keyboard) -> None:
        self.stack = stack
        self.app = stack.app
        if stack.app.rules.fold_pad:
            self.keyboard = keyboard.folded()
        else:
            self.keyboard = keyboard
        self._from_layer: dict[int, Keymap] = {}

    def from_layer(self, rank: int) -> "Keymap":
        """The keys as the scheme of that rank and the layers below it have them: what a guard of it stands for."""
        if rank not in self._from_layer:
            stack = Stack(self.stack.app, self.stack.schemes[rank:], self.stack.system)
            self._from_layer[rank] = Keymap(stack, self.keyboard)
        return self._from_layer[rank]

    @cached_property
    def claims(self) -> list[Claim]:
        """Every claim, the nearest layer first."""
        return list(claims(self.stack, self.keyboard.press_of))

    @cached_property
    def silent(self) -> dict[str, list[tuple[int, frozenset[str]]]]:
        """The commands whose lower keys count no longer, from below which scheme and where."""
        return silenced(self.stack)

    @cached_property
    def buckets(self) -> dict[Press, list[Claim]]:
        """The claims by the presses that make their triggers."""
        found: dict[Press, list[Claim]] = {}
        for claim in self.claims:
            for press in self.keyboard.presses_of(claim.trigger):
                if press in found:
                    found[press].append(claim)
                else:
                    found[press] = [claim]
        return found

    @cached_property
    def locked(self) -> set[Press]:
        """Presses that a layer above all schemes takes: a run never gets past one."""
        taken = (claim.trigger for claim in self.claims if claim.layer.locked)
        return {press for trigger in taken for press in self.keyboard.presses_of(trigger)}

    def decide(self, trigger: Run, mode: str) -> Outcome:
        """What typing ``trigger`` in ``mode`` does."""
        return self.decide_press(self.keyboard.press_of(trigger), mode)

    def decide_press(self, press: Press, mode: str) -> Outcome:
        """What ``press`` does in ``mode``: see ``Outcome``."""
        winners, hidden = self._settled(press, mode)
        longer = tuple(self._longer(press, mode))
        if not winners:
            return Outcome(
                what=WAITS if longer else NOTHING, winners=(), overridden=(), longer=longer
            )
        if longer:
            return Outcome(what=WAITS, winners=winners, overridden=hidden, longer=longer)
        if winners[0].mutes:
            return Outcome(what=MUTED, winners=winners, overridden=hidden)
        return Outcome(
            what=CHOICE if len(winners) > 1 else STARTS, winners=winners, overridden=hidden
        )

    def winners(self, press: Press, mode: str) -> tuple[Claim, ...]:
        """The claims that decide ``press`` in ``mode``, longer runs left aside."""
        if press in self.buckets:
            return self._settled(press, mode)[0]
        return ()

    def commands_at(self, press: Press, mode: str) -> tuple[str, ...]:
        """The commands that ``press`` starts in ``mode``, or offers."""
        return tuple(claim.command for claim in self.winners(press, mode) if claim.command)

    @cached_property
    def of_system(self) -> set[Press]:
        """The presses that the operating system takes, wherever in a run they come."""
        taken = (claim.trigger for claim in self.claims if claim.layer == SYSTEM)
        return {press for trigger in taken for press in self.keyboard.presses_of(trigger)}

    @cached_property
    def guarded(self) -> set[Press]:
        """The presses that some scheme guards, in whatever mode."""
        guards = (run for scheme in self.stack.schemes for run in scheme.guard)
        return {press for run in guards for press in self.keyboard.presses_of(run)}

    def stops(self, press: Press) -> list[Press]:
        """The parts of a press that locked layers take: its beginnings, and what the system takes later in it."""
        lengths = range(1, len(press) + 1)
        begun = [press[:length] for length in lengths if press[:length] in self.locked]
        later = []
        if self.locked:
            later = [press[n : n + 1] for n in range(1, len(press))]
        return [*begun, *(part for part in later if part in self.of_system)]

    def arrives(self, press: Press) -> bool:
        """Whether a run gets as far as its last stroke, and that to the application."""
        return all(part == press for part in self.stops(press))

    def is_alone(self, claim: Claim) -> bool:
        """Whether nobody else wants the press of a claim and nothing keeps it from its command."""
        press = self.keyboard.press_of(claim.trigger)
        return (
            len(self.buckets[press]) == 1
            and claim.command not in self.silent
            and (len(press) == 1 or not self.locked or self.arrives(press))
        )

    def _places(self, press: Press, mode: str) -> list[list[Claim]]:
        """The claims that count here, those of one layer and mode together, in their order."""
        bucket = self.buckets.get(press)
        if not bucket or (len(press) > 1 and self.locked and not self.arrives(press)):
            return []
        path = self.app.modes.path(mode)
        ordered = sorted(
            (claim.rank, path.index(claim.mode), n)
            for n, claim in enumerate(bucket)
            if claim.mode in path and not (self.silent and self._is_silent(claim, mode))
        )
        places: list[list[Claim]] = []
        last: tuple[int, int] | None = None
        for rank, depth, n in ordered:
            if (rank, depth) != last:
                places.append([])
                last = (rank, depth)
            places[-1].append(bucket[n])
        return places

    def _is_silent(self, claim: Claim, mode: str) -> bool:
        """Whether a nearer scheme leaves the command keyless in ``mode``, or gives it a key instead."""
        return any(
            rank < claim.rank and mode in modes
            for rank, modes in self.silent.get(claim.command, ())
        )

    def _settled(self, press: Press, mode: str) -> tuple[tuple[Claim, ...], tuple[Claim, ...]]:
        """Who decides a press in a mode, and who would if those did not."""
        places = self._places(press, mode)
        if not places:
            return (), ()
        winners, beaten = self._settle(places[0])
        rest = [claim for place in places[1:] for claim in place]
        wired = [claim for claim in rest if claim.wired]
        if winners[0].does.away and wired:
            # The command was moved away, the key was not switched off: the application goes on
            # to do with it what it has wired in.
            hidden = (*winners, *beaten, *(claim for claim in rest if claim is not wired[0]))
            return (wired[0],), hidden
        return winners, (*beaten, *rest)

    def _settle(self, place: list[Claim]) -> tuple[tuple[Claim, ...], tuple[Claim, ...]]:
        """Who wins among claims of one layer and mode, by the application's duplicate rule."""
        for claim in place:
            if claim.mutes:
                return (claim,), tuple(other for other in place if other is not claim)
        by_meaning = {claim.does: claim for claim in reversed(place)}
        several = tuple(claim for claim in place if by_meaning[claim.does] is claim)
        if len(several) == 1:
            return several, ()
        if self.app.rules.duplicates == "choice":
            order = self._choice_order(place[0].trigger)
            return tuple(sorted(several, key=lambda claim: self._likely(claim, order))), ()
        if self.app.rules.duplicates in ("replace", "last-wins"):
            return several[-1:], several[-2::-1]
        return several[:1], several[1:]

    def _likely(self, claim: Claim, order: dict[str, int]) -> tuple[int, bool]:
        """What orders the candidates of a choice: as a person put them, then what is used often."""
        known = self.app.catalogue.by_id.get(claim.command)
        return order.get(claim.command, len(order)), not (known and known.marks.often)

    def _choice_order(self, trigger: Run) -> dict[str, int]:
        """The place of each command in the choice that a person put in order, if any did."""
        for scheme in self.stack.schemes:
            for run, commands in scheme.order.items():
                if self.keyboard.press_of(run) == self.keyboard.press_of(trigger):
                    return {command: n for n, command in enumerate(commands)}
        return {}

    def goes_on(self, press: Press, mode: str) -> bool:
        """Whether a longer run begins with ``press`` in ``mode``."""
        return any(True for _ in self._longer(press, mode))

    def _longer(self, press: Press, mode: str) -> Iterator[Claim]:
        """Claims that decide a longer run in ``mode`` which begins with ``press``."""
        if press in self.locked:
            return
        for run in self.beginnings.get(press, ()):
            for claim in self.winners(run, mode):
                if not claim.mutes:
                    yield claim

    @cached_property
    def beginnings(self) -> dict[Press, list[Press]]:
        """Each press with which longer runs begin, and those runs."""
        found: dict[Press, list[Press]] = {}
        for press in self.buckets:
            for length in range(1, len(press)):
                found.setdefault(press[:length], []).append(press)
        return found

    @cached_property
    def twins(self) -> dict[Press, tuple[Press, ...]]:
        """The presses that one finger makes of one part (a key pressed and held, a button pressed
        once and twice), where at least one of them is claimed: by each the others."""
        found: dict[Press, dict[Press, None]] = {}
        for press in self.buckets:
            if ":" in press[-1][1]:
                for other in twins_of(press):
                    found.setdefault(press, {})[other] = None
                    found.setdefault(other, {})[press] = None
        return {press: tuple(others) for press, others in found.items()}

    @cached_property
    def doubled_letters(self) -> set[tuple[tuple[str, ...], str]]:
        """The access letters that two items of one menu have."""
        return doubled_letters(self.app.catalogue.commands)

    @cached_property
    def by_command(self) -> dict[str, list[Claim]]:
        """The claims of each command, the nearest layer first."""
        found: dict[str, list[Claim]] = {}
        for claim in self.claims:
            if command := claim.command:
                found.setdefault(command, []).append(claim)
        return found
