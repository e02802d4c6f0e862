"""What each key of a keyboard does under the same modifiers: the matter of a board."""

from typing import NamedTuple

from olive_compass.core.keys.presses import Physical, Press
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.deciding import MUTED, Keymap

FREE, USED, BEGINS, SILENT, GUARDED = "free", "used", "begins", "muted", "guarded"

#: The operating system or the application keeps the key for itself.
KEPT = "reserved"


class BoardKey(NamedTuple):
    """What a key does: one of the words above, and the claims that decide it."""

    state: str
    claims: tuple[Claim, ...] = ()


def board_keys(keymap: Keymap, held: tuple[str, ...], mode: str) -> dict[str, BoardKey]:
    """What every key of the keyboard's form does in ``mode`` with ``held`` pressed, by code."""
    form = keymap.keyboard.form
    guards: set[Press] = {
        keymap.keyboard.press_of(run) for scheme in keymap.stack.schemes for run in scheme.guard
    }
    found = {}
    for code in form.seats if form else ():
        physical: Physical = (held, code)
        outcome = keymap.decide_press((physical,), mode)
        if outcome.winners and outcome.winners[0].layer.firm:
            state = KEPT
        elif (physical,) in guards:
            state = GUARDED
        elif outcome.what == MUTED:
            state = SILENT
        elif outcome.winners:
            state = USED
        else:
            state = BEGINS if outcome.longer else FREE
        found[code] = BoardKey(state, outcome.winners)
    return found
