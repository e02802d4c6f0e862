"""``use``: the application that is meant on this seat where none is named."""

import argparse

from olive_compass.cli import exit_status, pick
from olive_compass.cli.current_app import current
from olive_compass.cli.options import WriteOptions, write_options
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.wording import conditional
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats.seat_file import SEAT_FILE, with_values
from olive_compass.desk.storage.saving import write_on_desk
from olive_compass.errors import UserError

GROUP = "look, check"
ORDER = 90
SUMMARY = "Set the current application, so that you need not name it"
EXAMPLES = """olive-compass use quillmap
olive-compass use
olive-compass use --off"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    # Not called “app”: what this command is about must be named.
    parser.add_argument("which", nargs="?", metavar="APP", help="the application")
    parser.add_argument("--off", action="store_true", help="unset the current application")
    write_options(parser)


class UseOptions(WriteOptions, kw_only=True):
    """The options of ``use``."""

    which: str | None
    off: bool


def run(args: UseOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    if not args.which and not args.off:
        return _show(args, context)
    name = ""
    if args.which:
        name = desk.app_name(args.which)
    before = desk.bytes_or_none(SEAT_FILE)
    after = with_values(before, {"current": name})
    changes = after != before and not args.dry_run
    if changes:
        _write(desk, after)
    if args.json:
        context.json({"app": name or None, "changed": changes})
        return 0
    said = "No application is current"
    if name:
        said = f"{desk.app(name).title} is the current application now"
    if args.dry_run:
        context.say(f"{conditional(said)}.\nDry run: nothing was written.")
    else:
        context.report(f"{said} ({SEAT_FILE}).")
        if name:
            context.report(
                "Commands use it when you name none. To unset it: olive-compass use --off"
            )
    return 0


def _show(args: UseOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    name = current(desk, context)
    if args.json:
        context.json({"app": name or None})
    elif name:
        where = "by the folder that you are in"
        if desk.seat.current == name:
            where = "on this computer"
        context.say(f"{desk.app(name).title} is the current application, {where}.")
    else:
        context.say("No application is current. To set one: olive-compass use APP")
    return exit_status.found(name)


def _write(desk: Desk, seat: bytes) -> None:
    """Writes the seat's file. It is no decision of the desk, and not of its history: it is where this seat looks."""
    try:
        write_on_desk(desk.root, SEAT_FILE, seat)
    except OSError as error:
        raise UserError(
            f"This file cannot be written: {error.strerror}.", file=SEAT_FILE
        ) from error
