"""What a trigger takes of the hands, whatever command it is for."""

import re

from msgspec import Struct

from olive_compass.core.effort.reach import BESIDE, Effort, run_effort
from olive_compass.core.effort.weights import Weights
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.traits import is_reflex

#: What it costs that the free hand cannot do it alone, in home strokes.
TAKES_BOTH_HANDS = 2.0

#: What it costs to be a key that hands press without thinking, in other programs for something else.
REFLEX = 8.0


class Reach(Struct, frozen=True, kw_only=True):
    """The effort of a trigger, what both hands and habits add to it (in home strokes), and why.

    ``order`` is its place as a person counts: K2 before K10.
    """

    strokes: float
    both: float
    habit: float
    reasons: tuple[str, ...]
    order: tuple[object, ...]


def reach_of(keyboard: Keyboard, weights: Weights, hand: str, run: Run) -> Reach | None:
    """What a trigger takes where ``hand`` is the free one; None: the keyboard cannot make it."""
    effort = run_effort(keyboard, run, weights)
    if effort is None:
        return None
    habit, both, reasons = 0.0, 0.0, []
    if is_reflex(keyboard, run):
        habit = REFLEX
        reasons.append("pressed without thinking in other programs")
    if effort.one_hand(hand):
        reasons.append(_hand(hand, effort))
    else:
        both = TAKES_BOTH_HANDS
    return Reach(
        strokes=effort.strokes,
        both=both,
        habit=habit,
        reasons=tuple(reasons),
        order=_natural(str(run)),
    )


def _hand(hand: str, effort: Effort) -> str:
    if len(effort.alone) > 1 and effort.row == BESIDE:
        return "no hand leaves its place"
    if hand == "both":
        return "one hand"
    return f"{hand} hand alone"


def _natural(text: str) -> tuple[object, ...]:
    parts = re.split(r"(\d+)", text)
    return tuple((int(part), "") if part.isdecimal() else (0, part) for part in parts)
