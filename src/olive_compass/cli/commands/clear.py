"""``clear``: takes a decision out of a scheme, and says what shows through."""

import argparse
from typing import Any

from olive_compass.cli import pick, words
from olive_compass.cli.impact import beyond, refuse_broken_guards
from olive_compass.cli.parsing import (
    app_argument,
    change_options,
    command_argument,
    scheme_option,
)
from olive_compass.cli.saving import save, until_saved
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.naming import command_named
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.reading import TriggerError, read_trigger
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.editing import clear_command, clear_trigger, take
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.errors import Refused

GROUP = "assign"
ORDER = 20
SUMMARY = "Take a decision out of a scheme; says what shows through from the layer below"
EXAMPLES = """olive-compass clear quillmap "Smooth contour"
olive-compass clear quillmap Alt+M
olive-compass clear quillmap "Smooth contour" Alt+M"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    command_argument(
        parser, "what", metavar="COMMAND_OR_KEY", help="a command, all of whose keys go, or a key"
    )
    parser.add_argument("key", metavar="KEY", nargs="?", help="only this key of the command")
    scheme_option(parser)
    change_options(parser)


def run(args: Any, around: Surroundings) -> int:
    return until_saved(lambda: _clear(args, around))


def _clear(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    stack = at.stack(at.app_name(args.app))
    scheme = pick.scheme_to_write(at, stack, args.scheme)
    after, subject = _edited(args, around, stack, scheme, at.keyboard)
    if after == scheme:
        raise Refused(
            f"The scheme {stack.app.name}/{scheme.name} decides nothing about {subject}; "
            "nothing was changed.",
            hint=_who_else(stack, subject, args, at.keyboard),
        )
    refuse_broken_guards(args, at, scheme, after)
    change = at.save_scheme(scheme, after)
    report = _report(stack, scheme, after, at.keyboard)
    if args.explain:
        report += beyond(at, scheme, after)
    if not args.dry_run:
        save(at, around, [change], f"{stack.app.title}: cleared {subject}")
    tense = "Would be cleared" if args.dry_run else "Cleared"
    lead = around.say if args.dry_run else around.report
    lead(f"{tense} from {stack.app.name}/{scheme.name}: {subject}.")
    for line in report:
        lead(line)
    lead("Nothing was written." if args.dry_run else "To take it back: olive-compass undo")
    return 0


def _edited(
    args: Any, around: Surroundings, stack: Stack, scheme: Scheme, keyboard: Keyboard
) -> tuple[Scheme, str]:
    """The scheme without what was named, and the name of that."""
    app = stack.app
    if args.key:
        command = _decided_command(args.what, scheme, stack, around)
        trigger = pick.trigger(app, args.key)
        return take(scheme, command, trigger, app.modes.names, keyboard), f"{trigger} of {command}"
    cleared: dict[str, Scheme] = {}
    run = _as_trigger(args.what, app.rules.typed)
    if run is not None:
        cleared[str(run)] = clear_trigger(scheme, run, keyboard)
    named = command_named(app.catalogue.commands, args.what).exact
    command = args.what if args.what in scheme.assign or args.what in scheme.bare else ""
    if command or len(named) == 1 or run is None:
        command = command or _decided_command(args.what, scheme, stack, around)
        cleared[command] = clear_command(scheme, command)
    hits = {subject: after for subject, after in cleared.items() if after != scheme}
    if len(hits) > 1:
        raise Refused(
            f"“{args.what}” is a key and a command, and the scheme decides about both; "
            "nothing was changed.",
            hint=f"Name the command by its id ({command}) and the key, or write the key as @ and "
            "its place.",
        )
    return next(((after, subject) for subject, after in hits.items()), (scheme, args.what))


def _decided_command(given: str, scheme: Scheme, stack: Stack, around: Surroundings) -> str:
    """The id that was meant: one that the scheme has, even if the catalogue lost it."""
    if given in scheme.assign or given in scheme.bare:
        return given
    command = pick.command(stack.app, given, around)
    return command.id


def _as_trigger(text: str, typed: int) -> Run | None:
    try:
        return read_trigger(text, typed)
    except TriggerError:
        return None


def _report(stack: Stack, before: Scheme, after: Scheme, keyboard: Keyboard) -> list[str]:
    """What each key that was touched does now, and which commands have none left."""
    old, new = Keymap(stack, keyboard), Keymap(stack.with_scheme(after), keyboard)
    changed = [c for c in before.assign if before.assign[c] != after.assign.get(c)]
    changed += [c for c in before.bare if c not in after.bare]
    triggers = dict.fromkeys(
        [key for c in changed for each in before.assign.get(c, ()) for key in each.keys]
        + [key for key in before.mute if key not in after.mute]
        + [
            key
            for c in before.bare
            if c not in after.bare
            for key in getattr(stack.app.catalogue.by_id.get(c), "keys", ())
        ]
    )
    lines = words.shifts(old, new, triggers)
    for command in dict.fromkeys(changed):
        if not live_triggers(new, command):
            known = stack.app.catalogue.by_id.get(command)
            rest = f"; the menu {known.route} remains" if known and known.route else ""
            lines.append(f"{words.title(new, command)} has no key now{rest}.")
    return lines


def _who_else(stack: Stack, subject: str, args: Any, keyboard: Keyboard) -> str:
    others = [
        scheme.name
        for scheme in stack.schemes
        if subject in scheme.assign
        or subject in scheme.bare
        or any(str(key) == subject for table in (scheme.mute, scheme.guard) for key in table)
    ]
    if others:
        return f"{others[0]} does: add --scheme {others[0]}"
    return (
        f"See what it has: olive-compass scheme show {stack.app.name}/{args.scheme or ''}".rstrip(
            "/"
        )
    )
