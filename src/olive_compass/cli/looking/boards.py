"""What ``board`` is asked for, whatever form it takes: modifiers, modes, what it is held against, heat."""

from olive_compass.cli import pick
from olive_compass.cli.options import Common
from olive_compass.core.answers.board import BoardQuery, KeyAnswer
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.free import modifier_groups
from olive_compass.desk.desk import Desk
from olive_compass.desk.views import restricted
from olive_compass.errors import UserError


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
    from olive_compass.core.usage.looking import times_in

    return times_in(usage_for(desk, app).tally, modes)


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


def heat_text(told: KeyAnswer) -> str:
    """The number of uses of each key's commands, and the cost of pressing it."""
    reach = ""
    if told.reach is not None:
        reach = f", reach {told.reach:.1f}"
    return f"{told.uses or 0}×{reach}"
