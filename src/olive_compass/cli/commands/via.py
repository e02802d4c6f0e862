"""``via``: what takes no key, and the command that shows it."""

import argparse

from olive_compass.cli import exit_status, pick
from olive_compass.cli.changing.keeping import keep, writing_of
from olive_compass.cli.changing.saving import retry_on_conflict
from olive_compass.cli.options import WriteOptions, app_argument, command_argument, write_options
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.tables import print_table
from olive_compass.core.apps.app import App
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import app_file, app_writing
from olive_compass.desk.reported.proxies import via_reports
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.writing.app_files import about_file
from olive_compass.errors import UserError

GROUP = "automate"
ORDER = 40
SUMMARY = "Record where to find something that cannot have a key"
EXAMPLES = """olive-compass via quillmap "Tide gauge" --through "Saved view 3" --dry-run
olive-compass via quillmap"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument(
        "thing",
        nargs="?",
        metavar="THING",
        help="what cannot have a key, in words (default: list all)",
    )
    command_argument(
        parser,
        "--through",
        metavar="COMMAND",
        help="the command that shows it, such as a saved view",
    )
    parser.add_argument("--off", action="store_true", help="remove the note")
    write_options(parser)


class ViaOptions(WriteOptions, kw_only=True):
    """The options of ``via``."""

    app: str
    thing: str | None
    through: str | None
    off: bool


def run(args: ViaOptions, context: Surroundings) -> int:
    return retry_on_conflict(lambda: _via(args, context), context)


def _via(args: ViaOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    app = desk.app(desk.app_name(args.app))
    if not args.thing:
        return _list(args.json, context, desk, app)
    path, data = about_file(desk, app.name)
    lines: tuple[str, ...] = ()
    names = {name.casefold(): name for name in app.vias}
    thing = names.get(args.thing.casefold(), " ".join(args.thing.split()))
    if not (args.off or args.through):
        raise UserError(
            f"The command that shows {thing} is missing.",
            hint="Set it: --through COMMAND; or --off",
        )
    if args.off:
        if thing not in app.vias:
            raise UserError(
                f"{app.title} has nothing recorded for “{thing}”; nothing was changed.", file=path
            )
        after = app_writing.with_rule(data, "via", thing, None)
        what = f"{app.title}: nothing shows {thing} any more"
    else:
        command = pick.command(app, args.through or "", context)
        held = app.rules.slots.get(command.id, "")
        after = app_writing.with_via(data, thing, command.id, held)
        what = f"{app.title}: {thing} is shown through {app.shown(command.id)}"
        keys = live_triggers(Keymap(desk.stack(app.name), desk.keyboard), command.id)
        by = "It has no key yet."
        if keys:
            by = f"Press {keys[0]}."
        give = f" Assign one: olive-compass assign {app.name} {command.id} KEY"
        lines = (by if keys else by + give,)
    app_file.read(after, path, app.name)
    return keep(
        writing_of(args), context, desk, [FileChange(path, data, after)], what, lines, app=app.name
    )


def _list(as_json: bool, context: Surroundings, desk: Desk, app: App) -> int:
    keymap = Keymap(desk.stack(app.name), desk.keyboard)
    rows = via_reports(keymap)
    if as_json:
        context.json({"app": app.name, "via": rows})
    elif not rows:
        context.say(
            f"{app.title} has nothing yet that another command shows. For example: "
            f"olive-compass via {app.name} 'Tide gauge' --through COMMAND"
        )
    else:
        print_table(
            context,
            ("thing", "through", "keys", ""),
            [
                (
                    row.title,
                    app.shown(row.command),
                    ", ".join(row.keys) or "-",
                    _then(row.content_then, row.content),
                )
                for row in rows
            ],
        )
    return exit_status.found(rows)


def _then(then: str | None, now: str | None) -> str:
    """What the command held when the proxy was made, where it holds something else now."""
    if then == now:
        return ""
    if then:
        return f"it held “{then}” then"
    return "what it held then was not noted"
