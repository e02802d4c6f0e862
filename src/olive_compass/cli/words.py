"""The sentences that several commands share."""

from collections.abc import Callable, Iterable
from typing import TYPE_CHECKING

from olive_compass.core.apps.app import Command
from olive_compass.core.apps.modes import joined
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.deciding import Keymap, Outcome
from olive_compass.core.schemes.holdings import holdings, letter_route
from olive_compass.core.schemes.layers import FACTORY
from olive_compass.core.schemes.meanings import meaning_of
from olive_compass.core.wording import clause, counted

if TYPE_CHECKING:
    from olive_compass.core.schemes.consequences import Loss, Shift


def keys_with_sources(keymap: Keymap, command: Command, key: Callable[[Run], str] = str) -> str:
    """The keys of a command for a table: each with its layer, and who hides it."""
    parts: dict[tuple[Run, tuple[str, ...]], list[str]] = {}
    for holding in holdings(keymap, command.id):
        note = FACTORY if holding.layer == FACTORY else holding.claims[0].origin
        if not holding.live and holding.hidden_by:
            note += ", " + _hider(keymap, holding.hidden_by)
        elif holding.hidden_by:
            tree = keymap.app.modes
            lost = [m for m in tree.inside(holding.modes) if m not in holding.live]
            note += ", not " + tree.phrase(lost)
        # One key that two layers give alike is one key, and stays when the nearer one goes.
        parts.setdefault((holding.trigger, holding.live), []).append(note)
    return ", ".join(f"{key(run)} ({' over '.join(notes)})" for (run, _), notes in parts.items())


def _hider(keymap: Keymap, claim: Claim) -> str:
    if not claim.mutes:
        return f"now {meaning_of(keymap, claim.does)}"
    return "muted"


def left_with(keymap: Keymap, loss: "Loss") -> str:
    """How a command that loses a trigger can still be reached: by keys, from a menu, or not at all."""
    command = keymap.app.catalogue.by_id.get(loss.command)
    keys = list(map(str, loss.left))
    if loss.elsewhere:
        keys.append(f"{joined(list(map(str, loss.elsewhere)))} in other modes")
    parts = []
    if command and command.route:
        letters = letter_route(keymap, command.id)
        by_letters = clause(" ({})", letters)
        parts.append(f"from {command.route}{by_letters}")
    for tray in keymap.app.trays_with(loss.command):
        # Loaded here: most commands stand on no tray.
        from olive_compass.core.trays.verdicts import kind_of_tray

        steps = counted(kind_of_tray(keymap.app, tray).steps, "click")
        parts.append(f"from the {tray.kind} {tray.title} ({steps})")
    if keys:
        return f"it still has {joined(keys)}"
    if parts:
        return f"it has no other key, and you can still reach it {joined(parts)}"
    return "it has no other key, and no menu has it"


def shifts(old: Keymap, new: Keymap, triggers: Iterable[Run]) -> list[str]:
    """A line for each trigger and group of modes in which an edit changes what it does."""
    # Loaded here: commands that only look have no use for it.
    from olive_compass.core.schemes.consequences import shifts as changed_presses

    return [shift_text(old, new, shift) for shift in changed_presses(old, new, triggers)]


def shift_text(old: Keymap, new: Keymap, shift: "Shift") -> str:
    """What a press did and does, in a sentence."""
    return (
        f"{shift.trigger} {new.app.modes.phrase(shift.modes)}: was {outcome_text(old, shift.before)}, "
        f"now {outcome_text(new, shift.after)}."
    )


def outcome_text(keymap: Keymap, outcome: Outcome) -> str:
    """What a press does, in a few words, with the layer that decides it."""
    if not outcome.winners:
        if outcome.longer:
            return "the beginning of longer sequences"
        return "nothing"
    names = []
    for claim in outcome.winners:
        layer = ""
        if claim.origin not in ("", claim.layer):
            layer = f", {claim.layer}"
        names.append(
            f"{meaning_of(keymap, claim.does) or 'muted'} ({claim.origin or claim.layer}{layer})"
        )
    return " or ".join(names)
