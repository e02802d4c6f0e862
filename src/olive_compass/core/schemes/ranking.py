"""Ranks the free keys for one command: by reach, by its words, by the keys of its siblings."""

from collections.abc import Iterable
from typing import NamedTuple

from olive_compass.core.apps.app import Command
from olive_compass.core.effort.reach import Weights, distance, run_effort
from olive_compass.core.keys.triggers import Run, Stroke
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers

#: What a good letter is worth, in home strokes of effort.
FIRST_LETTER, INITIAL, LETTER = 3.0, 2.0, 0.5
#: What lying next to the key of a sibling with the same modifiers is worth.
NEXT_TO_SIBLING = 1.5
#: What it costs that the free hand cannot do it alone.
TAKES_BOTH_HANDS = 2.0


class Candidate(NamedTuple):
    """A free key for a command: its effort, its score (less is better), and why."""

    stroke: Stroke
    strokes: float
    score: float
    reasons: tuple[str, ...]


def rank(
    keymap: Keymap, free: Iterable[Stroke], weights: Weights, hand: str, command: Command | None
) -> list[Candidate]:
    """The free strokes that the keyboard can make, the best first.

    The score is the effort in home strokes, less what the letter and the siblings are worth,
    plus what it costs to take the hand off the mouse.
    """
    siblings = _siblings(keymap, command) if command else []
    found = []
    for stroke in free:
        cost = run_effort(keymap.keyboard, Run((stroke,)), weights)
        if cost is None:
            continue
        score = cost.strokes
        reasons = []
        if command and (fit := _letter(stroke.key, command.title)):
            score -= fit[0]
            reasons.append(fit[1])
        if sibling := _beside(keymap, stroke, siblings):
            score -= NEXT_TO_SIBLING
            reasons.append(sibling)
        if cost.one_hand(hand):
            reasons.append(f"{hand} hand alone" if hand != "both" else "one hand")
        else:
            score += TAKES_BOTH_HANDS
        found.append(Candidate(stroke, cost.strokes, round(score, 2), tuple(reasons)))
    return sorted(found, key=lambda each: (each.score, str(each.stroke)))


def _letter(key: str, title: str) -> tuple[float, str] | None:
    words = [word for word in title.upper().replace("-", " ").split() if word[0].isalnum()]
    if len(key) != 1 or not key.isalpha() or not words:
        return None
    if words[0].startswith(key):
        return FIRST_LETTER, f"first letter of {title.split()[0]}"
    for n, word in enumerate(words[1:], 1):
        if word.startswith(key):
            return INITIAL, f"initial of {title.split()[n]}"
    return (LETTER, "a letter of the title") if key in title.upper() else None


def _siblings(keymap: Keymap, command: Command) -> list[tuple[str, Stroke]]:
    """The single strokes of commands in the same menu, with their titles."""
    return [
        (other.title, run.strokes[0])
        for other in keymap.app.catalogue.commands
        if other.menu == command.menu and other.id != command.id and command.menu
        for run in live_triggers(keymap, other.id)
        if len(run.strokes) == 1
    ]


def _beside(keymap: Keymap, stroke: Stroke, siblings: list[tuple[str, Stroke]]) -> str:
    keyboard = keymap.keyboard
    if keyboard.form is None:
        return ""
    held, code = keyboard.made(stroke).presses[0]
    for title, other in siblings:
        other_held, other_code = keyboard.made(other).presses[0]
        if other_held == held and distance(keyboard.form, code, other_code) <= 1.2:
            return f"next to {other.key}, {title}"
    return ""
