"""What stands in the way of a decision: guarded keys, firm layers, and the application's rules."""

from collections.abc import Iterator
from typing import NamedTuple

from olive_compass.core.apps.app import Command, Rules
from olive_compass.core.keys.names import NAMED_KEYS
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Decision, Scheme


class Guarded(NamedTuple):
    """A guard that covers a press in ``mode``: the scheme that has it, its trigger and decision."""

    scheme: Scheme
    trigger: Run
    decision: Decision
    mode: str


def guards(keymap: Keymap, trigger: Run, modes: tuple[str, ...]) -> list[Guarded]:
    """The guards that cover ``trigger`` in any of ``modes``, one for each scheme."""
    press = keymap.keyboard.press_of(trigger)
    found = []
    for scheme in keymap.stack.schemes:
        for run, decision in scheme.guard.items():
            if keymap.keyboard.press_of(run) != press:
                continue
            inside = set(keymap.app.modes.inside(decision.modes))
            covered = [mode for mode in modes if mode in inside]
            if covered:
                found.append(Guarded(scheme, run, decision, covered[0]))
    return found


def firm_claims(keymap: Keymap, trigger: Run) -> list[Claim]:
    """The claims of the system and of the application's unchangeable keys on ``trigger``."""
    press = keymap.keyboard.press_of(trigger)
    return [claim for claim in keymap.buckets.get(press, ()) if claim.layer.firm]


def broken_rules(rules: Rules, trigger: Run) -> Iterator[tuple[str, str]]:
    """The rules that ``trigger`` breaks by itself: the rule's name in ``app.toml``, and why."""
    if len(trigger.strokes) > rules.longest_run:
        takes = (
            "no runs" if rules.longest_run == 1 else f"runs of at most {rules.longest_run} strokes"
        )
        yield "longest-run", f"it takes {takes}, and {trigger} has {len(trigger.strokes)}"
    for stroke in trigger.strokes:
        if stroke.bearing is not None:
            continue
        wrong = [
            name for name in stroke.modifiers if rules.modifiers and name not in rules.modifiers
        ]
        if wrong:
            yield "modifiers", f"it takes no {wrong[0]} in a key"
        alone = not stroke.modifiers and len(trigger.strokes) == 1
        if alone and rules.plain_keys == "none":
            yield "plain-keys", f"it takes no key without a modifier, and {stroke} has none"
        elif alone and rules.plain_keys == "named" and stroke.key not in NAMED_KEYS:
            yield "plain-keys", f"it takes no plain letter, digit or sign, and {stroke} is one"


def types_text(trigger: Run) -> bool:
    """Whether the first stroke of a trigger types text by itself: a letter, digit or sign."""
    first = trigger.strokes[0]
    held = set(first.modifiers) - {"Shift"}
    return not held and first.bearing is None and first.key not in NAMED_KEYS


def not_assignable(rules: Rules, command: Command) -> str:
    """Why no key can be given to ``command``, or ``""``."""
    if command.marks.withdrawn:
        return "the application has withdrawn it"
    if command.marks.fixed:
        return "the application lets no key be given to it"
    if command.marks.needs and not rules.licences.get(command.marks.needs, False):
        return f"it needs “{command.marks.needs}”, which this seat does not have"
    return ""
