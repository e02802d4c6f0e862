"""Plans how an application takes a key set on, under that application's own rules."""

from functools import cached_property
from typing import NamedTuple

from olive_compass.core.apps.app import Command
from olive_compass.core.keys.keyboards import MAIN, Keyboard, Press
from olive_compass.core.keys.names import MODIFIERS
from olive_compass.core.keys.roses import bearing_name, bearings
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Does, Stack
from olive_compass.core.schemes.consequences import Loss, losses
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.editing import give, take_from_others
from olive_compass.core.schemes.guarding import (
    broken_rules,
    firm_claims,
    guards,
    not_assignable,
    types_text,
)
from olive_compass.core.schemes.layers import BUILT_IN
from olive_compass.core.sharing.keysets import KeySet, reaches
from olive_compass.core.sharing.purposes import Purposes

#: How often a plan is gone through until nothing more is adopted.
MOST_ROUNDS = 10

#: What a plan does with a purpose.
ADOPTED, ALREADY, BLOCKED, ABSENT = "adopted", "already so", "blocked", "absent"


class Planned(NamedTuple):
    """What a plan does for one purpose.

    ``trigger`` is the one that the command gets or has; ``why`` says what stood in the way of the
    triggers that come before it, or of all; ``lost`` are the commands that lose the trigger.
    """

    purpose: str
    command: str
    what: str
    trigger: Run | None = None
    why: tuple[str, ...] = ()
    lost: tuple[Loss, ...] = ()
    dropped: tuple[Run, ...] = ()


class Plan(NamedTuple):
    """What taking a set on means for an application: the scheme after it, purpose by purpose."""

    stack: Stack
    before: Scheme
    after: Scheme
    planned: tuple[Planned, ...]


def plan(stack: Stack, scheme: Scheme, keyset: KeySet, purposes: Purposes, keymap: Keymap) -> Plan:
    """Gives the commands of an application the keys of the set, in ``scheme`` of its stack.

    ``keymap`` is that of ``stack``. The alternatives of a purpose are tried in their order. All are
    given at once; where something nearer turns out to come first, that trigger is left out and
    the whole is worked out again.
    """
    settled: dict[str, Planned] = {}
    now, here = scheme, keymap
    for _ in range(MOST_ROUNDS):
        found = _round(stack.with_scheme(now), now, keyset, purposes, here)
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
    return Plan(stack, scheme, now, planned)


def _round(
    stack: Stack, scheme: Scheme, keyset: KeySet, purposes: Purposes, keymap: Keymap
) -> Plan:
    """One round of giving; what turns out not to reach its command is left out."""
    beaten: dict[tuple[str, Run], str] = {}
    while True:
        planner = _Planner(stack, scheme, keyset, purposes, keymap, beaten)
        found = planner.plan()
        more = planner.beaten_by(found.planned)
        if not more:
            return found
        beaten.update(more)


def _with_losses(
    planned: tuple[Planned, ...], before: Keymap, after: Keymap
) -> tuple[Planned, ...]:
    """The plan with what each adopted trigger takes from others, and from its own command."""
    known = after.app.catalogue.by_id
    result = []
    for each in planned:
        if each.what == ADOPTED and each.trigger is not None:
            press = after.keyboard.press_of(each.trigger)
            wired = [
                f"{each.trigger} had a hidden meaning, {claim.wired}"
                for claim in before.buckets.get(press, ())
                if claim.layer == BUILT_IN
            ]
            had = [claim.trigger for claim in before.by_command.get(each.command, ())]
            has = {claim.trigger for claim in after.by_command.get(each.command, ())}
            lost = losses(before, after, each.trigger)
            each = each._replace(
                why=(*each.why, *wired),
                lost=tuple(a for a in lost if a.command in known and a.command != each.command),
                dropped=tuple(dict.fromkeys(run for run in had if run not in has)),
            )
        result.append(each)
    return tuple(result)


def resolved(run: Run, keyboard: Keyboard) -> Run:
    """The trigger with ``Main`` as the modifier that it is on the keyboard's platform.

    >>> from olive_compass.core.keys.reading import read_trigger
    >>> str(resolved(read_trigger("Main+Shift+S"), Keyboard("mac")))
    'Shift+Meta+S'
    """
    strokes = []
    for stroke in run.strokes:
        if "Main" in stroke.modifiers:
            held = {MAIN[keyboard.platform] if m == "Main" else m for m in stroke.modifiers}
            ordered = tuple(name for name in MODIFIERS if name in held)
            stroke = stroke._replace(modifiers=ordered)
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
        beaten: dict[tuple[str, Run], str],
    ) -> None:
        self.stack = stack
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
                planned.append(Planned(id_, "", ABSENT))
                continue
            runs = tuple(resolved(run, self.keymap.keyboard) for run in entry.triggers)
            planned.append(self._purpose(id_, known[0], runs, entry.why))
        return Plan(self.stack, self.before, self.after, tuple(planned))

    def _purpose(
        self, id_: str, command: Command, triggers: tuple[Run, ...], reason: str
    ) -> Planned:
        modes = command.modes or ("everywhere",)
        inside = self.app.modes.inside(modes)
        why: list[str] = []
        for trigger in triggers:
            # What works by now stays, whichever of the alternatives it is.
            if reaches(self.keymap, command.id, trigger, modes) and not self._of_set(
                trigger, inside
            ):
                self._note(id_, trigger, inside)
                return Planned(id_, command.id, ALREADY, trigger)
        for trigger in triggers:
            blocked = self.beaten.get((id_, trigger)) or self._blocked(
                command, trigger, modes, inside
            )
            if blocked:
                why.append(f"{trigger}: {blocked}")
                continue
            self._note(id_, trigger, inside)
            scheme = take_from_others(self.after, self.keymap, command.id, trigger, modes)
            because = reason or f"key set {self.keyset.name}"
            self.after = give(scheme, command.id, trigger, modes, because)
            return Planned(id_, command.id, ADOPTED, trigger, tuple(why))
        return Planned(id_, command.id, BLOCKED, None, tuple(why))

    def beaten_by(self, planned: tuple[Planned, ...]) -> dict[tuple[str, Run], str]:
        """The triggers that do not reach their commands after all, and what comes first."""
        after = self.result
        found = {}
        for each in planned:
            if each.trigger is None:
                continue
            modes = self.app.catalogue.by_id[each.command].modes or ("everywhere",)
            if reaches(after, each.command, each.trigger, modes):
                continue
            press = after.keyboard.press_of(each.trigger)
            winners = [claim for mode in modes for claim in after.winners(press, mode)]
            first = next((c for c in winners if c.command != each.command), None)
            by = f"{self._meaning(first.does) or 'a mute'} comes first there" if first else ""
            found[each.purpose, each.trigger] = by or "it would not reach the command"
        return found

    @cached_property
    def result(self) -> Keymap:
        """The keys as the plan leaves them."""
        if self.after == self.before:
            return self.keymap
        return Keymap(self.stack.with_scheme(self.after), self.keymap.keyboard)

    def _blocked(
        self, command: Command, trigger: Run, modes: tuple[str, ...], inside: tuple[str, ...]
    ) -> str:
        """What stands in the way of a trigger, ``""``: nothing."""
        app, rules, keymap = self.app, self.app.rules, self.keymap
        if why := not_assignable(rules, command):
            return why
        for scheme in self.stack.schemes:
            if command.id in scheme.bare:
                reason = scheme.bare[command.id].why or "no reason given"
                return f"{scheme.name} leaves the command without a key on purpose, {reason}"
        for _, why in broken_rules(rules, trigger):
            return why
        for stroke in trigger.strokes:
            if missing := keymap.keyboard.made(stroke).missing:
                return f"this keyboard cannot make it, {missing}"
        if firm := firm_claims(keymap, trigger):
            return f"{firm[0].layer}, {firm[0].wired}"
        if why := self._off_rose(trigger, modes):
            return why
        if why := self._swallows(trigger, inside):
            return why
        if other := self._of_set(trigger, inside):
            return f"the set gives it to {other}"
        for mode in inside:
            for claim in keymap.winners(keymap.keyboard.press_of(trigger), mode):
                if claim.mutes:
                    return f"muted by {claim.origin}, {claim.why or 'no reason given'}"
        for guard in guards(keymap, trigger, inside):
            keeps = keymap.winners(keymap.keyboard.press_of(trigger), guard.mode)
            if all(claim.command != command.id for claim in keeps):
                return f"guarded by {guard.scheme.name}, {guard.decision.why or 'no reason given'}"
        most = rules.most_keys
        own = [run for each in self.after.assign.get(command.id, ()) for run in each.keys]
        if most and trigger not in own and len(own) >= most:
            return (
                f"{app.title} lets a command have {most}, and {self.after.name} gives it {own[0]}"
            )
        return ""

    def _off_rose(self, trigger: Run, modes: tuple[str, ...]) -> str:
        for stroke in trigger.strokes:
            for mode in modes if stroke.bearing is not None else ():
                size = self.app.rose(mode)
                if not size:
                    return f"{self.app.title} takes no swipes {'' if mode == 'everywhere' else f'in {mode}'}".rstrip()
                if stroke.bearing not in bearings(size):
                    return f"the rose of {mode} has no {bearing_name(stroke.bearing or 0)}"
        return ""

    def _swallows(self, trigger: Run, inside: tuple[str, ...]) -> str:
        """Whether a plain letter would swallow typing in a text mode."""
        if not types_text(trigger):
            return ""
        texts = self.app.modes.inside(self.app.rules.text_modes)
        found = [mode for mode in inside if mode in texts]
        return f"it would swallow typing in {found[0]}" if found else ""

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

    def _meaning(self, does: Does) -> str:
        known = self.app.catalogue.by_id.get(does.command)
        return known.title if known else does.wired
