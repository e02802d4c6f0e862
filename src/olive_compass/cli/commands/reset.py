"""``reset``: puts one command, one key, one mode or a whole scheme back."""

import argparse
from typing import Any

from olive_compass.cli import pick, words
from olive_compass.cli.parsing import app_argument, change_options, scheme_option
from olive_compass.cli.saving import save_edit, until_saved
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.layers import FACTORY
from olive_compass.core.schemes.resetting import Part, reset
from olive_compass.errors import Refused

GROUP = "assign"
ORDER = 65
SUMMARY = "Put one command, one key, one mode or all back to factory or to another scheme"
EXAMPLES = """olive-compass reset quillmap --command "Smooth contour"
olive-compass reset quillmap --key Ctrl+D --to house
olive-compass reset quillmap --mode label --dry-run
olive-compass reset quillmap --all --yes"""

MOST_SHOWN = 15


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    which = parser.add_mutually_exclusive_group(required=True)
    which.add_argument("--command", metavar="COMMAND", help="the decisions on this command")
    which.add_argument("--key", metavar="KEY", help="the decisions on this key")
    which.add_argument("--mode", metavar="MODE", help="what counts in this mode")
    which.add_argument("--all", action="store_true", help="every decision of the scheme")
    parser.add_argument(
        "--to",
        metavar="NAME",
        default=FACTORY,
        help="as this scheme has it (factory: the decisions go)",
    )
    parser.add_argument("--yes", action="store_true", help="do it unasked")
    scheme_option(parser)
    change_options(parser)


def run(args: Any, around: Surroundings) -> int:
    return until_saved(lambda: _reset(args, around))


def _reset(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    stack = at.stack(at.app_name(args.app))
    scheme = pick.scheme_to_write(at, stack, args.scheme)
    goal = None if args.to == FACTORY else at.scheme(stack.app, args.to)
    if goal is not None and goal.name == scheme.name:
        raise Refused(f"The scheme cannot be reset to itself ({scheme.name}).")
    part = Part()
    subject = "everything"
    if args.command:
        known = args.command in scheme.assign or args.command in scheme.bare
        command = args.command if known else pick.command(stack.app, args.command, around).id
        part, subject = Part(command=command), command
    elif args.key:
        part = Part(trigger=pick.trigger(stack.app, args.key))
        subject = str(part.trigger)
    elif args.mode:
        part = Part(mode=pick.mode(stack.app, args.mode))
        subject = f"the mode {part.mode}"
    after = reset(scheme, part, goal, at.keyboard)
    old, new = Keymap(stack, at.keyboard), Keymap(stack.with_scheme(after), at.keyboard)
    triggers = dict.fromkeys(claim.trigger for claim in (*old.claims, *new.claims) if claim.origin)
    report = words.shifts(old, new, triggers)
    gone = scheme.decisions - after.decisions
    if len(report) > MOST_SHOWN:
        report[MOST_SHOWN:] = [f"and {len(report) - MOST_SHOWN} more"]
    what = f"{stack.app.title}: reset {subject} of {scheme.name} to {args.to}"
    if before_all := (args.all and after != scheme and not args.dry_run and not args.yes):
        around.say(f"{gone} decisions of {scheme.name} would go:\n" + "\n".join(report))
    if before_all and not (
        around.interactive and around.ask("Reset all of it? [y/N]").lower() in ("y", "yes")
    ):
        raise Refused("Nothing was changed.", hint="Say --yes to reset all of it.")
    return save_edit(args, around, at, scheme, after, what, report)
