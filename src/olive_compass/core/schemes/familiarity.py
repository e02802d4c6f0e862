"""What somebody who knows only the lower layers would press wrongly here, worst first."""

from msgspec import Struct

from olive_compass.core.apps.app import Command
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import MUTES, Does, Stack
from olive_compass.core.schemes.deciding import Keymap

#: How bad a surprise is, by what the press does now.
WORST, OTHER, NOTHING = 3, 2, 1


class Surprise(Struct, frozen=True, kw_only=True):
    """A press that a visitor knows: the command that it started in ``modes``, and what it does now."""

    trigger: Run
    modes: tuple[str, ...]
    expected: str
    does: Does
    weight: int


class Familiarity(Struct, frozen=True):
    """All surprises, the worst first, and the share of known presses that do as expected.

    ``figure`` is 1 less the weighted share of surprises: each press that the visitor knows, in
    each mode in which it works, counts 3; a surprise takes 3 where something starts that takes long or cannot be undone, 2
    where another command does, 1 where nothing happens.
    """

    surprises: tuple[Surprise, ...]
    figure: float


def _weight(does: Does, command: Command | None) -> int:
    """How bad it is that a press does something else than a visitor expects."""
    if does.mutes:
        return NOTHING
    if command and command.marks.disruptive:
        return WORST
    return OTHER


def familiarity(stack: Stack, known: Stack, keymap: Keymap) -> Familiarity:
    """How a visitor who knows the stack ``known`` fares with ``stack``, whose keymap is given."""
    theirs = Keymap(known, keymap.keyboard)
    catalogue = stack.app.catalogue.by_id
    found: dict[tuple[Run, str, Does, int], list[str]] = {}
    whole = lost = 0
    for press, bucket in theirs.buckets.items():
        for mode in stack.app.modes.names:
            expected = theirs.winners(press, mode)
            # What does nothing for the visitor at home is pressed by accident only.
            if not expected or not expected[0].command:
                continue
            # As much as the worst surprise weighs, so that the share lies between 0 and 1.
            whole += 3
            now = keymap.winners(press, mode)
            if any(claim.command == expected[0].command for claim in now):
                continue
            does = now[0].does if now else MUTES
            weight = _weight(does, catalogue.get(does.command))
            lost += weight
            key = (bucket[0].trigger, expected[0].command, does, weight)
            found.setdefault(key, []).append(mode)
    surprises = [
        Surprise(trigger=trigger, modes=tuple(modes), expected=expected, does=does, weight=weight)
        for (trigger, expected, does, weight), modes in found.items()
    ]
    surprises.sort(key=lambda each: (-each.weight, -len(each.modes), str(each.trigger)))
    return Familiarity(tuple(surprises), 1 - lost / whole if whole else 1.0)
