"""Guessed rules: named wherever an answer depends on them, with the command that changes them."""

from collections.abc import Sequence
from typing import Any

from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.command_lines import line
from olive_compass.core.apps.app import App
from olive_compass.core.apps.guesses import evidence
from olive_compass.core.apps.modes import ROOT, joined
from olive_compass.core.apps.rules import DUPLICATES_SAID

#: A value to set in the place of a guess.
OTHERWISE = {
    "text-modes": "none",
    "longest-sequence": "2",
    "most-keys": "0",
    "modifiers": "all",
    "duplicates": "choice",
}


def rule_text(rule: str, value: Any) -> str:
    """A guessed rule in words."""
    if rule == "text-modes":
        where = "everywhere"
        if list(value) != [ROOT]:
            where = f"in {joined(value)}"
        return f"typing writes text {where}"
    if rule == "longest-sequence":
        longest = f"sequences of up to {value} strokes"
        if value == 1:
            return "no sequences of keys"
        return longest
    if rule == "most-keys":
        return "one key for a command"
    if rule == "modifiers":
        names = ["the main modifier" if name == "Main" else name for name in value]
        return f"only {joined(names)} as modifiers"
    return DUPLICATES_SAID[str(value)]


def way_out(app: str, rule: str) -> str:
    """The command that changes a guessed rule."""
    return line("app", "rules", app, "--set", f"{rule}={OTHERWISE[rule]}")


def say_what_is_guessed(context: Surroundings, app: App) -> None:
    """The guesses that decide which keys are free."""
    rules = app.rules
    values: Sequence[tuple[str, Any]] = (
        ("text-modes", rules.text_modes),
        ("modifiers", rules.modifiers),
        ("longest-sequence", rules.longest_sequence),
        ("most-keys", rules.most_keys),
    )
    told = [(rule, value) for rule, value in values if rule in rules.guessed]
    for rule, value in told:
        context.report(f"Guessed: {rule_text(rule, value)}, because {evidence(app, rule)}.")
    if told:
        context.report(f"To change: {way_out(app.name, told[0][0])}")
