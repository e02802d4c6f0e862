"""What the keys of a keyboard do under some modifiers, what they did by other keys, and how often that was used."""

from collections.abc import Mapping

from msgspec import Struct

from olive_compass.core.apps.modes import in_modes
from olive_compass.core.effort.reach import press_effort
from olive_compass.core.effort.weights import Weights
from olive_compass.core.keys.presses import Physical
from olive_compass.core.schemes.board import BoardKey, board_keys, otherwise
from olive_compass.core.schemes.deciding import Keymap, Outcome
from olive_compass.core.schemes.meanings import meaning_or_muted


class BoardQuery(Struct, frozen=True, kw_only=True):
    """What is drawn: the groups of modifiers, the modes, and for each key what it is held against
    (``knows``: in words) and how often what it does was used (None: not asked)."""

    keymap: Keymap
    groups: tuple[tuple[str, ...], ...]
    modes: tuple[str, ...]
    weights: Weights
    against: Keymap | None = None
    knows: str = ""
    uses: Mapping[str, int] | None = None

    @property
    def where(self) -> str:
        """The modes in words."""
        every = len(self.modes) == len(self.keymap.app.modes.names) > 1
        if every:
            return "keys used in any mode"
        return in_modes(self.modes)


class KeyAnswer(Struct, frozen=True):
    """What is known of a key besides what it does: what it does in what it is held against (None: the
    same), how often that was used, and what the press costs."""

    was: str | None = None
    uses: int | None = None
    reach: float | None = None


def keys_with(
    what: BoardQuery, held: tuple[str, ...], codes: list[str]
) -> dict[str, tuple[BoardKey, KeyAnswer]]:
    """Every key of the form, and of ``codes`` beside it, with ``held`` pressed: its meaning, and what
    else is known of it."""
    keys = board_keys(what.keymap, held, what.modes, codes)
    unlike = {}
    if what.against:
        unlike = otherwise(what.keymap, what.against, held, what.modes, keys)
    return {
        code: (key, _told(what, (held, code), key, unlike.get(code, ())))
        for code, key in keys.items()
    }


def _told(
    what: BoardQuery, physical: Physical, key: BoardKey, unlike: tuple[Outcome, ...]
) -> KeyAnswer:
    was = None
    if what.against and unlike:
        was = _was(what.against, unlike)
    if what.uses is None:
        return KeyAnswer(was)
    commands = {claim.command for claim in key.claims if claim.command}
    times = sum(what.uses.get(command, 0) for command in commands)
    cost = press_effort(what.keymap.keyboard, physical, what.weights)
    return KeyAnswer(was, times, cost.strokes if cost else None)


def _was(keymap: Keymap, outcomes: tuple[Outcome, ...]) -> str:
    """What a key does in the other scheme, in a few words."""
    titles: dict[str, None] = {}
    for outcome in outcomes:
        for claim in outcome.winners:
            titles[meaning_or_muted(keymap, claim.does)] = None
        if not outcome.winners:
            titles["the beginning of sequences" if outcome.longer else "nothing"] = None
    return " or ".join(titles)


def menu_of(keymap: Keymap, command: str) -> str:
    """The menu that gives a command its colour, ``""`` for what is no command of the catalogue."""
    known = keymap.app.catalogue.by_id.get(command)
    if known:
        return known.top_menu
    return ""
