"""``mute``: makes a key do nothing, or says how to come near that where the application cannot."""

import argparse

from olive_compass.cli import pick
from olive_compass.cli.changing import saying
from olive_compass.cli.changing.running import Work, change_options, execute, options_of
from olive_compass.cli.options import ChangeOptions, app_argument, modes_option, why_option
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.modes import joined
from olive_compass.core.changes.change import Change
from olive_compass.core.changes.mute import (
    AWAY,
    CANNOT,
    NEVER,
    Alternate,
    Mute,
    ShowsThrough,
    Ways,
    mute,
)
from olive_compass.core.changes.together import together
from olive_compass.core.changes.view import AppView
from olive_compass.core.schemes.traits import Locked
from olive_compass.core.wording import by_number
from olive_compass.desk.desk import Desk
from olive_compass.desk.source_lines import file_and_line_text
from olive_compass.desk.views import app_view
from olive_compass.errors import UserError
from olive_compass.structs import replace

GROUP = "change"
ORDER = 50
SUMMARY = "Make a key do nothing, and record why"
EXAMPLES = """olive-compass mute quillmap F9 --why "one key from F8, and it takes a minute"
olive-compass mute foldpress F7 --why "fires by accident" --way never"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument("keys", nargs="+", metavar="KEY", help="the key to turn off, or several")
    modes_option(parser)
    why_option(parser)
    parser.add_argument(
        "--way",
        choices=(NEVER, AWAY),
        default="",
        help="if the application cannot turn a key off: never assigns it to a command that is always disabled, away moves its command to a key that you lack",
    )
    change_options(parser)


class MuteOptions(ChangeOptions, kw_only=True):
    """The options of ``mute``."""

    app: str
    keys: list[str]
    mode: list[str] | None
    why: str
    way: str


def run(args: MuteOptions, context: Surroundings) -> int:
    return execute(options_of(args), context, lambda desk: _prepare(desk, args))


def _prepare(desk: Desk, args: MuteOptions) -> Work:
    view = app_view(desk, desk.app_name(args.app))
    scheme = pick.scheme_to_write(desk, view.stack, args.scheme)
    triggers = [pick.trigger(view.app, key) for key in args.keys]
    modes = pick.modes(view.app, args.mode)
    requests = [
        Mute(trigger=trigger, modes=modes, scheme=scheme, why=args.why, by=args.way)
        for trigger in triggers
    ]
    names = joined(map(str, triggers), 6)
    verb = by_number(len(triggers), "is", "are")
    where = view.app.modes.phrase(view.app.modes.inside(modes))
    return Work(
        view=view,
        decide=lambda answers: together(
            view, [replace(r, answers=answers) for r in requests], mute
        ),
        what=lambda _change: f"{view.app.title}: {names} {verb} muted {where}",
        report=lambda change: _report(desk, view, requests, change),
        why=args.why,
        refused=lambda change: _refused(desk, view, change),
    )


def _report(desk: Desk, view: AppView, requests: list[Mute], change: Change) -> list[str]:
    lines = []
    for request in requests:
        decision = change.edits[0].after.mute.get(request.trigger)
        if decision and decision.never:
            lines.append(
                f"By a trick: {view.title(decision.never)} gets it, which is never enabled."
            )
        if decision and decision.away:
            lines.append(f"By a trick: its command is moved to {decision.away} in the application.")
    lines += saying.plain_effects(view, change)
    for effect in change.effects:
        if isinstance(effect, Alternate):
            keys = joined(map(str, effect.command.keys))
            lines.append(
                f"In the menu its alternate “{effect.command.title}” may show through"
                + (f" with {keys}." if keys else ".")
            )
        if isinstance(effect, ShowsThrough):
            lines.append(
                f"What the application itself does applies instead: {effect.claim.wired} "
                f"({file_and_line_text(desk, view.keymap, effect.claim)})."
            )
    return lines


def _refused(desk: Desk, view: AppView, change: Change) -> UserError:
    refusal = change.refusals[0]
    if refusal.what == CANNOT and isinstance(refusal.about, Ways):
        return _cannot(view, refusal.about)
    locked = refusal.about
    assert isinstance(locked, Locked)
    return UserError(
        f"{locked.claim.trigger} cannot be turned off: {locked.claim.layer} has it "
        f"({locked.claim.wired}); nothing was changed.",
        file=file_and_line_text(desk, view.keymap, locked.claim),
    )


def _cannot(view: AppView, ways: Ways) -> UserError:
    """That the application switches no key off, and what works by hand."""
    app, key = view.app, ways.trigger
    # Both tricks show in the application’s menus; a person should know before choosing one.
    texts = []
    if ways.never:
        texts.append(f"--way never assigns {key} to “{ways.never.title}”, which is always disabled")
    if ways.holder and ways.away:
        lacks = view.keyboard.made(ways.away.strokes[0]).missing
        which = "which nothing uses"
        if lacks:
            which = "which your keyboard lacks"
        texts.append(f"--way away moves “{ways.holder.title}” to {ways.away}, {which}")
    ways_round = "One way round it, visible in its menus"
    if texts[1:]:
        ways_round = "Two ways round it, both visible in its menus"
    known = "Nothing has the key here, and no command is marked as never enabled."
    return UserError(
        f"{app.title} cannot turn a key off (can-mute in apps/{app.name}/app.toml); nothing was changed. "
        + (f"{ways_round}: {'; '.join(texts)}." if texts else known),
    )
