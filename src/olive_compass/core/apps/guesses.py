"""What the keys of a listing tell about the application: rules that nobody said, each with its evidence.

They stand in the file apart from those that a person said, and are named wherever something depends on them.
"""

from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from msgspec import Struct

from olive_compass.core.apps.app import App, Command
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.keyboards import MAIN
from olive_compass.core.keys.triggers import Run
from olive_compass.core.wording import by_number

#: Of fewer keys nothing is told.
ENOUGH = 20

#: The modifiers that an application may not take; AltGr is the layout's.
_MODIFIERS = ("Ctrl", "Alt", "Shift", "Meta")


class Guess(Struct, frozen=True):
    """A rule as its file has it, its value, and what tells so, as the part of a sentence after “for”."""

    rule: str
    value: Any
    because: str


def guesses(
    commands: Sequence[Command], modes: Sequence[str], platform: str = "pc"
) -> tuple[Guess, ...]:
    """What the factory keys of ``commands`` tell of the rules, where they are not too few; and where text is typed
    by what the modes are called. ``platform`` is whose keys they are."""
    # Loaded here: most sentences depend on no guess.
    from olive_compass.core.apps.habits import text_modes

    runs = [run for command in commands for run in command.keys]
    found: list[Guess | None] = []
    if len(runs) >= ENOUGH:
        found = [
            _where_text_is_typed(commands, modes, runs),
            _longest_sequence(runs),
            _keys_of_a_command(commands),
            _modifiers(runs, MAIN[platform]),
            _given_twice(commands, runs),
        ]
    told = [each for each in found if each]
    typing = text_modes(modes)
    if typing and not any(each.rule == "text-modes" for each in told):
        told.append(Guess("text-modes", list(typing), "what the modes are called"))
    return tuple(told)


def evidence(app: App, rule: str) -> str:
    """What told a rule that was guessed, ``""``: somebody said it, or the catalogue is another by now."""
    if rule not in app.rules.guessed:
        return ""
    told = {each.rule: each.because for each in guesses(app.catalogue.listed, app.modes.names)}
    return told.get(rule, "it is the default")


def guessed(app: App, rule: str) -> str:
    """What is added to a sentence that depends on a rule that was guessed; ``""``: it was not."""
    because = evidence(app, rule)
    if because:
        return f" (guessed: {because})"
    return ""


def _where_text_is_typed(
    commands: Sequence[Command], modes: Iterable[str], runs: Sequence[Run]
) -> Guess | None:
    """The modes in which no letter, digit or sign alone is a key: they are typed there."""
    if not any(map(_is_plain, runs)):
        text = f"none of {len(runs)} keys is a plain letter or digit"
        return Guess("text-modes", [ROOT], text)
    found = []
    count = 0
    for mode in modes:
        own = [run for command in commands if mode in command.modes for run in command.keys]
        if len(own) >= ENOUGH and not any(map(_is_plain, own)):
            found.append(mode)
            count += len(own)
    if not found:
        return None
    where = f"of {count} keys in {', '.join(found)}"
    return Guess("text-modes", found, f"none {where} is a plain letter or digit")


def _is_plain(run: Run) -> bool:
    first = run.strokes[0]
    return (
        not set(first.modifiers) - {"Shift"} and len(first.key) == 1 and first.key.isprintable()
    ) or (first.by_place and not first.modifiers and first.key.startswith(("Key", "Digit")))


def _longest_sequence(runs: Sequence[Run]) -> Guess:
    longest = max(len(run.strokes) for run in runs)
    if longest == 1:
        return Guess("longest-sequence", 1, f"none of {len(runs)} keys is a sequence")
    times = sum(len(run.strokes) > 1 for run in runs)
    text = f"{times} of {len(runs)} keys {by_number(times, 'is a sequence', 'are sequences')}"
    return Guess("longest-sequence", longest, f"{text}, the longest of {longest} strokes")


def _keys_of_a_command(commands: Sequence[Command]) -> Guess | None:
    keyed = [command for command in commands if command.keys]
    if len(keyed) < ENOUGH or any(len(command.keys) > 1 for command in keyed):
        return None
    return Guess("most-keys", 1, f"none of {len(keyed)} commands with a key has two")


def _modifiers(runs: Sequence[Run], main: str) -> Guess | None:
    held = {name for run in runs for stroke in run.strokes for name in stroke.modifiers}
    if not held or "Main" in held:
        return None
    never = [name for name in _MODIFIERS if name not in held]
    if not never:
        return None
    text = f"none of {len(runs)} keys has {' or '.join(never)}"
    allowed = [name for name in (*_MODIFIERS, "AltGr") if name in held]
    # On another platform the main modifier is another one.
    if main in allowed:
        allowed[allowed.index(main)] = "Main"
    return Guess("modifiers", allowed, text)


def _given_twice(commands: Sequence[Command], runs: Sequence[Run]) -> Guess:
    times: dict[tuple[object, ...], int] = {}
    for command in commands:
        for run in command.keys:
            where = (run, command.menu, command.modes)
            times[where] = times.get(where, 0) + 1
    twice = sum(n > 1 for n in times.values())
    if twice > 1:
        return Guess("duplicates", "choice", f"{twice} keys appear twice under one heading")
    count = "no key"
    if twice:
        count = "only 1 key"
    text = f"{count} of {len(runs)} appears twice under a heading"
    return Guess("duplicates", "replace", text)


def as_values(found: Iterable[Guess]) -> Mapping[str, Any]:
    """The rules by name, as a file has them."""
    return {each.rule: each.value for each in found}
