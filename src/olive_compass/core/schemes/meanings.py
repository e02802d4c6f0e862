"""What a command and a claim are called: the title, the meaning that is wired, the layer that says it."""

from olive_compass.core.schemes.claims import Claim, Does
from olive_compass.core.schemes.deciding import Keymap


def title_of(keymap: Keymap, command: str) -> str:
    """A command's title, or its id where the catalogue has none."""
    return keymap.app.shown(command)


def meaning_of(keymap: Keymap, does: Does) -> str:
    """What a claim does: a command's title or the wired meaning, ``""`` where it mutes."""
    return does.wired or title_of(keymap, does.command)


def meaning_or_muted(keymap: Keymap, does: Does) -> str:
    """The same, and ``muted`` where it mutes."""
    return meaning_of(keymap, does) or "muted"


def source_of(claim: Claim) -> str:
    """Where a claim comes from, in a word or two: ``mine (personal)`` or ``factory``."""
    if not claim.origin or claim.layer == claim.origin:
        return claim.layer
    return f"{claim.origin} ({claim.layer})"
