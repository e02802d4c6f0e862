"""What somebody who knows only the lower layers would press wrongly here, worst first."""

from typing import NamedTuple

from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.layers import Stack

#: How bad a surprise is, by what the press does now.
LASTING, OTHER, NOTHING = 3, 2, 1


class Surprise(NamedTuple):
    """A press that a visitor knows: what it did in ``modes``, what it does now (``""``: nothing)."""

    trigger: Run
    modes: tuple[str, ...]
    expected: str
    does: str
    weight: int


class Familiarity(NamedTuple):
    """All surprises, the worst first, and the share of known presses that do as expected.

    ``figure`` is 1 less the weighted share of surprises: each press that the visitor knows, in
    each mode in which it works, counts 3; a surprise takes 3 where something lasting starts, 2
    where another command does, 1 where nothing happens.
    """

    surprises: tuple[Surprise, ...]
    figure: float


def familiarity(stack: Stack, known: Stack, keymap: Keymap) -> Familiarity:
    """How a visitor who knows the stack ``known`` fares with ``stack``, whose keymap is given."""
    theirs = Keymap(known, keymap.keyboard)
    catalogue = stack.app.catalogue.by_id
    found: dict[tuple[Run, str, str, int], list[str]] = {}
    whole = lost = 0
    for press, bucket in theirs.buckets.items():
        for mode in stack.app.modes.names:
            expected = theirs.winners(press, mode)
            if not expected or not expected[0].command or expected[0].wired:
                continue
            whole += 3
            now = keymap.winners(press, mode)
            names = {claim.command for claim in now}
            if expected[0].command in names:
                continue
            does = now[0].command if now else ""
            command = catalogue.get(does)
            weight = (
                NOTHING
                if not does
                else LASTING
                if command and "lasting" in command.marks
                else OTHER
            )
            lost += weight
            key = (bucket[0].trigger, expected[0].command, does, weight)
            found.setdefault(key, []).append(mode)
    surprises = [
        Surprise(trigger, tuple(modes), expected, does, weight)
        for (trigger, expected, does, weight), modes in found.items()
    ]
    surprises.sort(key=lambda each: (-each.weight, -len(each.modes), str(each.trigger)))
    return Familiarity(tuple(surprises), 1 - lost / whole if whole else 1.0)
