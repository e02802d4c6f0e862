"""``mute``: makes a key do nothing, or says how to come near that where the application cannot."""

import argparse
from typing import Any

from olive_compass.cli import pick, words
from olive_compass.cli.parsing import app_argument, change_options, scheme_option
from olive_compass.cli.saving import save_edit, until_saved
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import App
from olive_compass.core.apps.modes import ROOT, joined
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.consequences import losses
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.editing import give, make_mute, take_from_others
from olive_compass.core.schemes.guarding import firm_claims
from olive_compass.errors import Refused

GROUP = "assign"
ORDER = 40
SUMMARY = "Make a key do nothing, with the reason"
EXAMPLES = """olive-compass mute quillmap F9 --why "one key from F8, and it takes a minute"
olive-compass mute foldpress F7 --why "fires by accident" --by never"""

#: A trigger that nobody presses: it is on no keyboard of today.
FAR = "Ctrl+Alt+Shift+F24"


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument("key", metavar="KEY", help="the key to switch off")
    parser.add_argument("--mode", action="append", metavar="MODE", help="only in this mode")
    parser.add_argument("--why", required=True, metavar="TEXT", help="the reason")
    parser.add_argument(
        "--by",
        choices=("never", "away"),
        help="where the application cannot switch a key off: give it to a command "
        "that is never enabled, or move its command away",
    )
    scheme_option(parser)
    change_options(parser)


def run(args: Any, around: Surroundings) -> int:
    return until_saved(lambda: _mute(args, around))


def _mute(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    stack = at.stack(at.app_name(args.app))
    app = stack.app
    scheme = pick.scheme_to_write(at, stack, args.scheme)
    trigger = pick.trigger(app, args.key)
    modes = tuple(pick.mode(app, name) for name in args.mode) if args.mode else (ROOT,)
    old = Keymap(stack, at.keyboard)
    if firm := firm_claims(old, trigger):
        raise Refused(
            f"{trigger} cannot be switched off: {firm[0].layer} has it ({firm[0].wired}); "
            "nothing was changed.",
            file=words.where(at, old, firm[0]),
        )
    if app.rules.can_mute:
        after = make_mute(
            take_from_others(scheme, old, "", trigger, modes), trigger, modes, args.why
        )
    else:
        after = _without_muting(app, args, old, scheme, trigger, modes)
    new = Keymap(stack.with_scheme(after), at.keyboard)
    report = words.shifts(old, new, [trigger])
    for loss in losses(old, new, trigger):
        name = words.title(new, loss.command)
        report.append(f"{name} is left with {words.left_with(new, loss)}.")
        report += _alternates(app, loss.command)
    what = f"{app.title}: {trigger} is muted {app.modes.phrase(app.modes.inside(modes))}"
    return save_edit(args, around, at, scheme, after, what, report, args.why)


def _without_muting(
    app: App, args: Any, old: Keymap, scheme: Any, trigger: Run, modes: tuple[str, ...]
) -> Any:
    """The scheme by one of the two ways that work by hand where a key cannot be switched off."""
    never = [command for command in app.catalogue.commands if command.marks.never]
    holder = next(iter(old.winners(old.keyboard.press_of(trigger), modes[0])), None)
    ways = []
    if never:
        ways.append(
            f"--by never gives {trigger} to “{never[0].title}”, which is never enabled; the "
            "menus show it there"
        )
    if holder and holder.command in app.catalogue.by_id:
        title = app.catalogue.by_id[holder.command].title
        ways.append(
            f"--by away gives “{title}” {FAR}, which no keyboard has, and its menu shows that; "
            f"then {trigger} must be taken from it in the application"
        )
    if args.by == "never" and never:
        return give(
            take_from_others(scheme, old, never[0].id, trigger, modes),
            never[0].id,
            trigger,
            modes,
            args.why,
        )
    if args.by == "away" and holder and holder.command in app.catalogue.by_id:
        moved = give(scheme, holder.command, pick.trigger(app, FAR), holder_modes(holder), args.why)
        return make_mute(moved, trigger, modes, args.why)
    raise Refused(
        f"{app.title} cannot switch a key off (can-mute in apps/{app.name}/app.toml); nothing was "
        "changed. "
        + (
            "What works by hand: " + "; or ".join(ways) + "."
            if ways
            else "Nothing has the key here, and no command is marked as never enabled."
        ),
    )


def holder_modes(holder: Any) -> tuple[str, ...]:
    """The modes of the one assignment that a claim comes from: its own."""
    return (holder.mode,)


def _alternates(app: App, command: str) -> list[str]:
    """What appears in the menu in place of a command that loses its key."""
    return [
        f"In the menu its alternate “{each.title}” may show through"
        + (f" with {joined(map(str, each.keys))}." if each.keys else ".")
        for each in app.catalogue.commands
        if each.marks.alternate == command
    ]
