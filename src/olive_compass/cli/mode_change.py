"""What ``narrow`` and ``widen`` share: the modes of a command's assignments, set anew."""

import argparse
from typing import Any

from olive_compass.cli import pick, words
from olive_compass.cli.parsing import app_argument, change_options, command_argument, scheme_option
from olive_compass.cli.saving import save_edit, until_saved
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.modes import joined
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.editing import set_modes
from olive_compass.errors import Refused


def add_mode_arguments(parser: argparse.ArgumentParser) -> None:
    """The options of both commands."""
    app_argument(parser)
    command_argument(parser, "command", metavar="COMMAND", help="id, title, menu path or fragment")
    parser.add_argument("key", metavar="KEY", nargs="?", help="only this key of it")
    parser.add_argument(
        "--mode",
        action="append",
        metavar="MODE",
        help="the modes (narrow: where the command can be used; widen: everywhere)",
    )
    scheme_option(parser)
    change_options(parser)


def change_modes(args: Any, around: Surroundings, wider: bool) -> int:
    """Runs either command."""
    return until_saved(lambda: _change(args, around, wider))


def _change(args: Any, around: Surroundings, wider: bool) -> int:
    at = pick.desk(args, around)
    stack = at.stack(at.app_name(args.app))
    scheme = pick.scheme_to_write(at, stack, args.scheme)
    command = pick.command(stack.app, args.command, around)
    args.command = command.id
    trigger = pick.trigger(stack.app, args.key) if args.key else None
    assignments = [
        each
        for each in scheme.assign.get(command.id, ())
        if trigger is None or trigger in each.keys
    ]
    if not assignments:
        others = [s.name for s in stack.schemes if command.id in s.assign]
        raise Refused(
            f"The scheme {stack.app.name}/{scheme.name} gives {command.title} no such key.",
            hint=f"{others[0]} does: add --scheme {others[0]}" if others else "",
        )
    now = tuple(dict.fromkeys(mode for each in assignments for mode in each.modes))
    named = tuple(pick.mode(stack.app, name) for name in args.mode or ())
    if wider:
        modes = tuple(dict.fromkeys((*now, *named))) if named else ("everywhere",)
    else:
        modes = named or command.modes
        if not modes:
            raise Refused(f"{command.title} can be used everywhere.", hint="Say where with --mode.")
    inside_now, inside_then = (set(stack.app.modes.inside(each)) for each in (now, modes))
    if (wider and not inside_now <= inside_then) or (not wider and not inside_then <= inside_now):
        raise Refused(
            f"{command.title} has its keys {stack.app.modes.phrase(tuple(inside_now))}; that is not "
            f"{'wider' if wider else 'narrower'}.",
            hint=f"Use {'narrow' if wider else 'widen'}.",
        )
    modes = stack.app.modes.outermost(modes)
    after = set_modes(scheme, command.id, modes, trigger)
    old, new = Keymap(stack, at.keyboard), Keymap(stack.with_scheme(after), at.keyboard)
    keys = [key for each in assignments for key in each.keys if trigger in (None, key)]
    what = (
        f"{stack.app.title}: {joined(map(str, keys))} of {command.title} "
        f"{'count' if len(keys) > 1 else 'counts'} "
        f"{stack.app.modes.phrase(stack.app.modes.inside(modes))}"
    )
    return save_edit(args, around, at, scheme, after, what, words.shifts(old, new, keys))
