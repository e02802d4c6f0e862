"""``assign``: puts a key on a command, and says first who holds it."""

import argparse
from typing import Any

from olive_compass.cli import pick, words
from olive_compass.cli.parsing import (
    app_argument,
    command_argument,
    dry_run_option,
    scheme_option,
)
from olive_compass.cli.saving import save, until_saved
from olive_compass.cli.surroundings import BOLD, OFF, Surroundings
from olive_compass.core.apps.app import Command
from olive_compass.core.apps.modes import joined
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.consequences import Holder, holders, losses
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.editing import give, take_from_others
from olive_compass.core.schemes.layers import Stack
from olive_compass.desk.desk import Desk
from olive_compass.errors import Refused

GROUP = "assign"
ORDER = 10
SUMMARY = "Put a key on a command; says first who holds the key now"
EXAMPLES = """olive-compass assign quillmap "Smooth contour" Alt+M --mode draw --why "M: next to N"
olive-compass assign quillmap lines.split "S P" --if-taken replace
olive-compass assign quillmap "Edit > Lines > Split" F6 --dry-run"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    command_argument(
        parser,
        "command",
        metavar="COMMAND",
        help="id, title, menu path, or a fragment that fits one only",
    )
    parser.add_argument("key", metavar="KEY", help="a stroke or a run, in any spelling")
    parser.add_argument(
        "--mode",
        action="append",
        metavar="MODE",
        help="count in this mode only (where the command can be used)",
    )
    parser.add_argument("--why", default="", metavar="TEXT", help="the reason, kept in the scheme")
    parser.add_argument(
        "--if-taken",
        choices=("replace", "stop"),
        help="the answer where the key is taken (asked at a terminal)",
    )
    scheme_option(parser)
    dry_run_option(parser)


def run(args: Any, around: Surroundings) -> int:
    return until_saved(lambda: _assign(args, around))


def _assign(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    stack = at.stack(at.app_name(args.app))
    scheme = pick.scheme_to_write(at, stack, args.scheme)
    command = pick.command(stack.app, args.command, around)
    # Asked again after a choice of another key, or of a command, the answer is kept.
    args.command = command.id
    trigger = pick.trigger(stack.app, args.key)
    modes = pick.modes_for(stack.app, command, args.mode)
    pick.on_rose(stack.app, trigger, modes)
    where = stack.app.modes.phrase(stack.app.modes.inside(modes))
    before = Keymap(stack, at.keyboard)
    held = holders(before, trigger, modes, command.id)
    if not held and _has_already(before, command, trigger, modes) and not args.why:
        around.report(f"{command.title} already has {trigger} {where}; nothing was changed.")
        return 0
    edited = take_from_others(scheme, before, command.id, trigger, modes)
    edited = give(edited, command.id, trigger, modes, args.why)
    after = Keymap(_with(stack, edited), at.keyboard)
    if held and args.if_taken != "replace":
        _say_who_holds(at, before, after, held, trigger, around)
        args.if_taken = _answer(args, around, trigger)
        if args.if_taken is None:
            return _assign(args, around)
    report = _report(at, before, after, command, trigger, modes)
    if args.dry_run:
        around.say(f"{BOLD}Would be done:{OFF} " + "\n".join(report) + "\nNothing was written.")
        return 0
    change = at.save_scheme(scheme, edited)
    what = f"{stack.app.title}: {command.title} got {trigger} {where}"
    save(at, around, [change], what, args.why)
    fresh = Desk(at.root)
    line = fresh.line(change.path, "assign", command.id)
    around.report(f"{report[0][:-1]} ({change.path}:{line}).")
    for text in report[1:]:
        around.report(text)
    around.report("To take it back: olive-compass undo")
    return 0


def _has_already(keymap: Keymap, command: Command, trigger: Run, modes: tuple[str, ...]) -> bool:
    outcomes = [keymap.decide(trigger, mode) for mode in keymap.app.modes.inside(modes)]
    return all(
        any(claim.command == command.id for claim in outcome.winners) for outcome in outcomes
    )


def _say_who_holds(
    at: Desk, before: Keymap, after: Keymap, held: list[Holder], trigger: Run, around: Surroundings
) -> None:
    for holder in held:
        claim = holder.claim
        if claim.command:
            name = f"{BOLD}{words.title(before, claim.command)}{OFF} ({claim.command}) has it"
        else:
            name = "it is muted" + (f" ({claim.why})" if claim.why else "")
        around.say(
            f"{trigger} is taken {before.app.modes.phrase(holder.modes)}: {name}; "
            f"{words.source(claim)}, {words.where(at, before, claim)}."
        )
    for loss in losses(before, after, trigger):
        name = words.title(after, loss.command)
        around.say(f"If it is replaced, {name} is left with {words.left_with(after, loss)}.")


def _answer(args: Any, around: Surroundings, trigger: Run) -> str | None:
    """``replace``; None where another key was chosen. Raises ``Refused`` to stop."""
    if args.if_taken != "stop" and around.interactive:
        while True:
            answer = around.ask("Replace it, choose another key, or stop? [r/c/S]").lower()
            if answer in ("r", "replace"):
                return "replace"
            if answer in ("c", "choose"):
                args.key = around.ask("Which key?") or args.key
                return None
            if answer in ("", "s", "stop"):
                break
            around.say("Type r, c or s.")
        raise Refused(f"{trigger} stays as it is; nothing was changed.")
    raise Refused(
        f"{trigger} is taken; nothing was changed.",
        hint="Say --if-taken replace to give it away, or choose another key.",
    )


def _report(
    at: Desk, before: Keymap, after: Keymap, command: Command, trigger: Run, modes: tuple[str, ...]
) -> list[str]:
    """What the assignment does: the deed first, then who lost, what waits, what is hidden."""
    where = after.app.modes.phrase(after.app.modes.inside(modes))
    lines = [f"{command.title} now has {trigger} {where}."]
    lost = losses(before, after, trigger)
    lines += [
        f"{words.title(after, loss.command)} lost it {after.app.modes.phrase(loss.modes)}; "
        f"it is left with {words.left_with(after, loss)}."
        for loss in lost
    ]
    for mode in after.app.modes.inside(modes):
        outcome = after.decide(trigger, mode)
        if outcome.longer:
            names = joined([str(claim.trigger) for claim in outcome.longer[:4]])
            lines.append(
                f"{words.in_modes([mode]).capitalize()} it starts only after a wait, because "
                f"{names} {'begin' if len(outcome.longer) > 1 else 'begins'} with it."
            )
            break
    lines += [
        f"It makes “{char}” untypable here."
        for each in trigger.strokes
        if (char := after.keyboard.swallows(each))
    ]
    lines += [
        f"{each} cannot be made on this keyboard: {missing}."
        for each in trigger.strokes
        if (missing := after.keyboard.made(each).missing)
    ]
    for mode in after.app.modes.inside(modes):
        winners = after.decide(trigger, mode).winners
        if winners and all(claim.command != command.id for claim in winners):
            claim = winners[0]
            name = words.title(after, claim.command) or "a mute"
            lines.append(
                f"But {words.in_modes([mode])} {name} still comes first: {words.source(claim)}, "
                f"{words.where(at, after, claim)}."
            )
    return lines


def _with(stack: Stack, scheme: Scheme) -> Stack:
    if any(each.name == scheme.name for each in stack.schemes):
        return stack.with_scheme(scheme)
    return stack
