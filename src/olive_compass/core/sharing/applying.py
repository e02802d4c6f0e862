"""Plans how an application takes a key set on, under that application's own rules."""

from functools import cached_property

from olive_compass.core.apps.app import Command
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.presses import Press, begins_with, ordered
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.consequences import losses
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.editing import give, take_from_others
from olive_compass.core.schemes.guards import broken_guards
from olive_compass.core.schemes.layers import UNLISTED
from olive_compass.core.schemes.objections import holders
from olive_compass.core.schemes.verdicts import Verdict, verdict
from olive_compass.core.schemes.view import View
from olive_compass.core.sharing.keysets import KeySet, reaches
from olive_compass.core.sharing.planned import (
    ABSENT,
    ADOPTED,
    ALREADY,
    BEATEN,
    BLOCKED,
    BLOCKING,
    BREAKS,
    GIVEN,
    LASTS,
    MUTED,
    Obstacle,
    Plan,
    Planned,
)
from olive_compass.core.sharing.purposes import Purposes
from olive_compass.structs import replace

#: How often a plan is gone through until nothing more is adopted.
MOST_ROUNDS = 10


def plan(stack: Stack, scheme: Scheme, keyset: KeySet, purposes: Purposes, keymap: Keymap) -> Plan:
    """Gives the commands of an application the keys of the set, in ``scheme`` of its stack.

    ``keymap`` is that of ``stack``. The alternatives of a purpose are tried in their order. All are
    given at once; where something nearer turns out to come first, that trigger is left out and
    the whole is worked out again.
    """
    settled: dict[str, Planned] = {}
    now, here = scheme, keymap
    before = keymap
    for _ in range(MOST_ROUNDS):
        found = _round(stack.with_scheme(now), now, keyset, purposes, here, before)
        for each in found.planned:
            # A key that one purpose took may have made room for another.
            was = settled.get(each.purpose)
            if was is None or was.what != ADOPTED or each.what != ALREADY:
                settled[each.purpose] = each
        if found.after == now:
            break
        now = found.after
        here = Keymap(stack.with_scheme(now), keymap.keyboard)
    planned = _with_losses(tuple(settled.values()), keymap, here)
    return Plan(stack=stack, before=scheme, after=now, planned=planned)


def _round(
    stack: Stack,
    scheme: Scheme,
    keyset: KeySet,
    purposes: Purposes,
    keymap: Keymap,
    before: Keymap,
) -> Plan:
    """One round of giving; what turns out not to reach its command, or breaks a guard, is left out.

    ``before`` are the keys before all rounds.
    """
    beaten: dict[tuple[str, Run], Obstacle] = {}
    while True:
        planner = _Planner(stack, scheme, keyset, purposes, keymap, beaten, before)
        found = planner.plan()
        more = planner.beaten_by(found.planned)
        if not more:
            return found
        beaten.update(more)


def _with_losses(
    planned: tuple[Planned, ...], before: Keymap, after: Keymap
) -> tuple[Planned, ...]:
    """The plan with what each adopted trigger takes from others, and from its own command."""
    return tuple(
        _with_loss(each, each.trigger, before, after)
        if each.what == ADOPTED and each.trigger is not None
        else each
        for each in planned
    )


def _with_loss(each: Planned, trigger: Run, before: Keymap, after: Keymap) -> Planned:
    """An adopted trigger with what it takes from others, and from its own command."""
    known = after.app.catalogue.by_id
    press = after.keyboard.press_of(trigger)
    wired = [claim.wired for claim in before.buckets.get(press, ()) if claim.layer == UNLISTED]
    had = [claim.trigger for claim in before.by_command.get(each.command, ())]
    has = {claim.trigger for claim in after.by_command.get(each.command, ())}
    lost = losses(before, after, trigger)
    return replace(
        each,
        unlisted=tuple(dict.fromkeys(wired)),
        lost=tuple(a for a in lost if a.command in known and a.command != each.command),
        dropped=tuple(dict.fromkeys(run for run in had if run not in has)),
    )


def resolved(run: Run, keyboard: Keyboard) -> Run:
    """The trigger with ``Main`` as the modifier that it is on the keyboard's platform.

    >>> from olive_compass.core.keys.reading import read_trigger
    >>> str(resolved(read_trigger("Main+Shift+S"), Keyboard("mac")))
    'Shift+Meta+S'
    """
    strokes = []
    for stroke in run.strokes:
        if "Main" in stroke.modifiers:
            stroke = replace(stroke, modifiers=ordered(keyboard.main_resolved(stroke.modifiers)))
        strokes.append(stroke)
    return Run(tuple(strokes))


class _Planner:
    def __init__(
        self,
        stack: Stack,
        scheme: Scheme,
        keyset: KeySet,
        purposes: Purposes,
        keymap: Keymap,
        beaten: dict[tuple[str, Run], Obstacle],
        original: Keymap,
    ) -> None:
        self.stack = stack
        self.view = View(stack, keymap.keyboard)
        self.view.keymap = keymap
        self.original = original
        self.before = scheme
        self.after = scheme
        self.keyset = keyset
        self.purposes = purposes
        self.keymap = keymap
        self.beaten = beaten
        self.app = stack.app
        #: Who of the set has a press by now, and in which modes.
        self.given: dict[Press, list[tuple[set[str], str]]] = {}

    def plan(self) -> Plan:
        planned = []
        for id_, entry in self.keyset.keys.items():
            purpose = self.purposes.by_id.get(id_)
            commands = purpose.commands(self.app.name) if purpose else ()
            known = [self.app.catalogue.by_id[c] for c in commands if c in self.app.catalogue.by_id]
            if not known:
                planned.append(Planned(purpose=id_, command="", what=ABSENT))
                continue
            runs = tuple(resolved(run, self.keymap.keyboard) for run in entry.triggers)
            planned.append(self._purpose(id_, known[0], runs, entry.why))
        return Plan(stack=self.stack, before=self.before, after=self.after, planned=tuple(planned))

    def _purpose(
        self, id_: str, command: Command, triggers: tuple[Run, ...], reason: str
    ) -> Planned:
        modes = command.usable_in
        inside = self.app.modes.inside(modes)
        why: list[Obstacle] = []
        for trigger in triggers:
            # What works by now stays, whichever of the alternatives it is.
            # A key that the set gave to another purpose by now only seems to work still.
            if reaches(self.keymap, command.id, trigger, modes) and not self._of_set(
                trigger, inside
            ):
                self._note(id_, trigger, inside)
                return Planned(purpose=id_, command=command.id, what=ALREADY, trigger=trigger)
        for trigger in triggers:
            obstacle = self.beaten.get((id_, trigger)) or self._obstacle(command, trigger, modes)
            if obstacle:
                why.append(obstacle)
                continue
            self._note(id_, trigger, inside)
            # In this scheme alone: other layers stay as they are, and the nearer one wins.
            scheme = take_from_others(self.after, self.keymap, command.id, trigger, modes)
            because = reason or f"key set {self.keyset.name}"
            self.after = give(scheme, command.id, trigger, modes, because)
            return Planned(
                purpose=id_, command=command.id, what=ADOPTED, trigger=trigger, why=tuple(why)
            )
        return Planned(purpose=id_, command=command.id, what=BLOCKED, trigger=None, why=tuple(why))

    def beaten_by(self, planned: tuple[Planned, ...]) -> dict[tuple[str, Run], Obstacle]:
        """The triggers that do not reach their commands after all, or that break a guard."""
        after = self.result
        found = {}
        for each in planned:
            if each.trigger is None:
                continue
            command = self.app.catalogue.by_id[each.command]
            modes = command.usable_in
            if reaches(after, each.command, each.trigger, modes):
                continue
            press = after.keyboard.press_of(each.trigger)
            winners = [claim for mode in modes for claim in after.winners(press, mode)]
            first = next((c for c in winners if c.command != each.command), None)
            judged = self._verdict(command, each.trigger, modes)
            obstacle = Obstacle(trigger=each.trigger, part=BEATEN, verdict=judged, about=first)
            found[each.purpose, each.trigger] = obstacle
        # Guards are looked at last: what does not even reach its command breaks none.
        return found or self._guard_breakers(planned)

    def _guard_breakers(self, planned: tuple[Planned, ...]) -> dict[tuple[str, Run], Obstacle]:
        """The adopted triggers that break a guard, by taking its press or by pushing it out."""
        broken = broken_guards(self.original, self.result)
        if not broken:
            return {}
        press = self.result.keyboard.press_of
        found = {}
        for each in planned:
            if each.trigger is None or each.what != ADOPTED:
                continue
            own = press(each.trigger)
            # The press itself, a beginning that it grows out of, or the command that lost its own key to
            # it.
            guard = next(
                (
                    guard
                    for guard in broken
                    if begins_with(own, press(guard.trigger)) or guard.keeps(each.command)
                ),
                None,
            )
            if guard:
                command = self.app.catalogue.by_id[each.command]
                judged = self._verdict(command, each.trigger, command.usable_in)
                found[each.purpose, each.trigger] = Obstacle(
                    trigger=each.trigger, part=BREAKS, verdict=judged, about=guard
                )
        return found

    @cached_property
    def result(self) -> Keymap:
        """The keys as the plan leaves them."""
        if self.after == self.before:
            return self.keymap
        return Keymap(self.stack.with_scheme(self.after), self.keymap.keyboard)

    def _verdict(self, command: Command, trigger: Run, modes: tuple[str, ...]) -> Verdict:
        return verdict(self.view, command, trigger, modes, self.after, effects=False)

    def _obstacle(self, command: Command, trigger: Run, modes: tuple[str, ...]) -> Obstacle | None:
        """What stands in the way of a trigger, None: nothing."""
        found = self._verdict(command, trigger, modes)
        for part in BLOCKING:
            if found.has(part):
                return Obstacle(trigger=trigger, part=part, verdict=found)
        # A set is for all applications: a reflex from one must start nothing worse in another.
        if command.marks.disruptive:
            return Obstacle(trigger=trigger, part=LASTS, verdict=found)
        if other := self._of_set(trigger, found.inside):
            return Obstacle(trigger=trigger, part=GIVEN, verdict=found, about=other)
        muted = next(
            (holder.claim for holder in found.evidence(holders.KIND) if holder.claim.mutes), None
        )
        if muted:
            return Obstacle(trigger=trigger, part=MUTED, verdict=found, about=muted)
        return None

    def _of_set(self, trigger: Run, inside: tuple[str, ...]) -> str:
        """The purpose to which the set has given a trigger there by now, ``""``: none."""
        press = self.keymap.keyboard.press_of(trigger)
        for where, other in self.given.get(press, ()):
            if where & set(inside):
                return other
        return ""

    def _note(self, id_: str, trigger: Run, inside: tuple[str, ...]) -> None:
        press = self.keymap.keyboard.press_of(trigger)
        self.given.setdefault(press, []).append((set(inside), id_))
