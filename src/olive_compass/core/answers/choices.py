"""What presses offer to choose from."""

from olive_compass.core.keys.presses import Press
from olive_compass.core.schemes.deciding import CHOICE, Keymap


def offered(keymap: Keymap, press: Press) -> dict[tuple[str, ...], list[str]]:
    """What a press offers to choose from, in which modes: those with the same candidates in the same order are one."""
    together: dict[tuple[str, ...], list[str]] = {}
    for mode in keymap.app.modes.names:
        outcome = keymap.decide_press(press, mode)
        if outcome.what == CHOICE:
            ids = tuple(claim.command for claim in outcome.winners)
            together.setdefault(ids, []).append(mode)
    return together
