"""What ``board`` is asked for, whatever form it takes: modifiers, modes, what it is held against, heat."""

from collections.abc import Mapping

from msgspec import Struct

from olive_compass.cli import pick, words
from olive_compass.cli.options import Common
from olive_compass.core.effort.reach import press_effort
from olive_compass.core.effort.weights import Weights
from olive_compass.core.keys.presses import Physical
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.schemes.board import BoardKey, board_keys, otherwise
from olive_compass.core.schemes.deciding import Keymap, Outcome
from olive_compass.core.schemes.free import modifier_groups
from olive_compass.core.schemes.meanings import meaning_or_muted
from olive_compass.desk.desk import Desk
from olive_compass.desk.views import restricted
from olive_compass.errors import UserError


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
        return words.in_modes(self.modes)


class KeyReport(Struct, frozen=True):
    """What is known of a key besides what it does: what it does in what it is held against (None: the
    same), how often that was used, and what the press costs."""

    was: str | None = None
    uses: int | None = None
    reach: float | None = None


class BoardOptions(Common, kw_only=True):
    """The options of ``board``."""

    app: str
    held: list[str]
    mode: str | None
    all_held: bool
    against: str | None
    heat: bool
    form: str
    out: str | None
    by: str
    ascii: bool
    only: str | None
    json: bool


def asked(args: BoardOptions, desk: Desk) -> BoardQuery:
    """What the options say; raises ``UserError``."""
    stack = restricted(desk.stack(desk.app_name(args.app)), args.only)
    modes = pick.mode_or_all(stack.app, args.mode)
    keymap = Keymap(stack, desk.keyboard)
    against = None
    if args.against:
        from olive_compass.desk.comparing import stack_down_from

        against = Keymap(stack_down_from(desk, stack.app.name, args.against), desk.keyboard)
    uses = None
    if args.heat:
        uses = _uses(desk, stack.app.name, modes)
    groups = _groups(args.all_held, args.held, keymap)
    return BoardQuery(
        keymap=keymap,
        groups=groups,
        modes=modes,
        weights=desk.settings.weights,
        against=against,
        knows=args.against or "",
        uses=uses,
    )


def _uses(desk: Desk, app: str, modes: tuple[str, ...]) -> dict[str, int]:
    """How often each command was used in those modes, as far as the logs say it."""
    from olive_compass.cli.looking.tallies import usage_for
    from olive_compass.core.usage.tally import uses

    found: dict[str, int] = {}
    for use, count in uses(usage_for(desk, app).tally):
        # Most logs do not say the mode.
        if not use.mode or use.mode in modes:
            found[use.command] = found.get(use.command, 0) + count.times
    return found


def _groups(all_held: bool, held: list[str] | None, keymap: Keymap) -> tuple[tuple[str, ...], ...]:
    """The groups of modifiers: those of ``--with``, all, or none held."""
    if all_held:
        if held:
            raise UserError("--all-held draws them all; --with cannot be used with it.")
        return modifier_groups(keymap.keyboard)
    groups: list[tuple[str, ...]] = []
    for text in held or [""]:
        if not text.strip():
            groups.append(())
            continue
        stroke = read_trigger(f"{text}+F1").strokes[0]
        groups.append(keymap.keyboard.made(stroke).presses[0][0])
    return tuple(dict.fromkeys(groups))


def keys_with(
    what: BoardQuery, held: tuple[str, ...], codes: list[str]
) -> dict[str, tuple[BoardKey, KeyReport]]:
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
) -> KeyReport:
    was = None
    if what.against and unlike:
        was = _was(what.against, unlike)
    if what.uses is None:
        return KeyReport(was)
    commands = {claim.command for claim in key.claims if claim.command}
    times = sum(what.uses.get(command, 0) for command in commands)
    cost = press_effort(what.keymap.keyboard, physical, what.weights)
    return KeyReport(was, times, cost.strokes if cost else None)


def _was(keymap: Keymap, outcomes: tuple[Outcome, ...]) -> str:
    """What a key does in the other scheme, in a few words."""
    titles: dict[str, None] = {}
    for outcome in outcomes:
        for claim in outcome.winners:
            titles[meaning_or_muted(keymap, claim.does)] = None
        if not outcome.winners:
            titles["the beginning of sequences" if outcome.longer else "nothing"] = None
    return " or ".join(titles)


def heat_text(told: KeyReport) -> str:
    """The number of uses of each key's commands, and the cost of pressing it."""
    reach = ""
    if told.reach is not None:
        reach = f", reach {told.reach:.1f}"
    return f"{told.uses or 0}×{reach}"


def menu_of(keymap: Keymap, command: str) -> str:
    """The menu that gives a command its colour, ``""`` for what is no command of the catalogue."""
    known = keymap.app.catalogue.by_id.get(command)
    if known:
        return known.top_menu
    return ""
