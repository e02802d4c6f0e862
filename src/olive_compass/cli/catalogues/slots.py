"""``app slot``: what is in the slots of an application."""

import argparse

from msgspec import Struct

from olive_compass.cli import exit_status, pick
from olive_compass.cli.changing.keeping import keep, writing_of
from olive_compass.cli.options import WriteOptions, app_argument, command_argument, write_options
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.command_lines import line
from olive_compass.cli.terminal.tables import print_table
from olive_compass.core.apps.app import App, Command
from olive_compass.core.apps.modes import joined
from olive_compass.core.apps.slots import contents_after, row_of
from olive_compass.core.findings.of_trays.via_moved import find as find_moved_vias
from olive_compass.core.findings.slot_moved import find as find_moved
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.wording import clause, counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import app_file, app_writing
from olive_compass.desk.reported.proxies import slot_reports
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.writing.app_files import about_file
from olive_compass.errors import UserError
from olive_compass.structs import replace


def options(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    command_argument(
        parser, "slot", nargs="?", metavar="SLOT", help="the slot (default: list all of them)"
    )
    parser.add_argument(
        "content", nargs="?", metavar="TEXT", help="what is in it now (default: show it)"
    )
    parser.add_argument("--empty", action="store_true", help="note that nothing is in it")
    shift = parser.add_mutually_exclusive_group()
    shift.add_argument(
        "--inserted",
        dest="shift",
        action="store_const",
        const="on",
        help="note an insertion: everything from there on moved up one slot",
    )
    shift.add_argument(
        "--removed",
        dest="shift",
        action="store_const",
        const="back",
        help="note a removal: everything after it moved down one slot",
    )
    parser.add_argument(
        "--project", default="", metavar="NAME", help="for this project's documents only"
    )
    write_options(parser)


class AppSlotOptions(WriteOptions, kw_only=True):
    """The options of ``app slot``."""

    app: str
    slot: str | None
    content: str | None
    empty: bool
    shift: str | None
    project: str


def slot(args: AppSlotOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    app = desk.app(desk.app_name(args.app))
    path, data = about_file(desk, app.name)
    if args.project:
        # The questions and the moves concern the slots of that project alone.
        app = replace(app, rules=app_file.read(data, path, app.name, args.project).rules)
    if not args.slot:
        return _slots(args.json, context, app, desk)
    command = _slot_named(app, args.slot, context)
    if args.content is None and not args.empty and not args.shift:
        return _say_content(args.project, args.json, context, app, command)
    content = ""
    if args.content and not args.empty:
        content = args.content.strip()
    noted = _noted(app, data, command.id, content, args.shift, args.project)
    # Nothing is written where nothing was noted; what moved in the application is to be said all the same.
    if noted.data == data and not args.json:
        for text in noted.said:
            context.report(text)
    return _keep_noted(args, context, desk, app, command, content, noted)


def _keep_noted(
    args: AppSlotOptions,
    context: Surroundings,
    desk: Desk,
    app: App,
    command: Command,
    content: str,
    noted: "_Noted",
) -> int:
    """Saves what was noted of a slot, and says what follows from it."""
    path, data = about_file(desk, app.name)
    # Read back with the project's own slots, as every other command will see it.
    about = app_file.read(noted.data, path, app.name, args.project or desk.settings.project)
    there = clause(" in {}", args.project)
    shown = content or _shown_then(args.shift)
    what = f"{app.title}: {command.title} shows {shown}{there}"
    new = replace(app, rules=about.rules, vias=about.vias)
    lines = (*_reached(desk, app, new), *noted.said, *_moved(desk, app, new))
    files = [FileChange(path, data, noted.data)]
    return keep(
        writing_of(args), context, desk, files, what, lines, app=app.name, command=command.id
    )


class _Noted(Struct, frozen=True):
    """The file with the new contents of the slots, and sentences about the things that they show."""

    data: bytes
    said: list[str]


def _noted(
    app: App, data: bytes, slot: str, content: str, shift: str | None, project: str
) -> _Noted:
    table = "slots"
    if project:
        table = f"slots-of.{project}"
    after = data
    for each, held in contents_after(app, slot, content, shift).items():
        after = app_writing.with_rule(after, table, each, held or None)
    if shift:
        return _Noted(after, _unnoted_proxies(app, slot, shift))
    return _Noted(*_with_proxies_noted(app, after, slot, content))


def _slot_named(app: App, given: str, context: Surroundings) -> Command:
    command = pick.command(app, given, context)
    if command.kind != "slot":
        slots = [each.title for each in app.catalogue.commands if each.kind == "slot"]
        raise UserError(
            f"{command.title} is no slot.",
            hint=f"Slots of {app.title}: {', '.join(slots[:6]) or 'none'}. To make it one: olive-compass "
            f"app kind {app.name} {command.id} slot",
        )
    return command


def _say_content(
    project: str, as_json: bool, context: Surroundings, app: App, command: Command
) -> int:
    content = app.rules.slots.get(command.id, "")
    if as_json:
        context.json({"app": app.name, "command": command.id, "content": content or None})
    else:
        there = clause(", in {}", project)
        context.say(f"{command.title} of {app.title}{there}: {content or 'nothing is noted'}.")
    return 0


def _slots(as_json: bool, context: Surroundings, app: App, desk: Desk) -> int:
    """All slots of an application: the content of each, its keys, and the things shown through it."""
    keymap = Keymap(replace(desk.stack(app.name), app=app), desk.keyboard)
    rows = slot_reports(keymap)
    if as_json:
        context.json({"app": app.name, "slots": rows})
    elif not rows:
        context.say(
            f"{app.title} has no slot. To make a command one: olive-compass app kind {app.name} COMMAND slot"
        )
    else:
        print_table(
            context,
            ("slot", "what is in it", "keys", "shows"),
            [
                (
                    row.title,
                    row.content or "-",
                    ", ".join(row.keys) or "-",
                    ", ".join(row.shows),
                )
                for row in rows
            ],
        )
    return exit_status.found(rows)


def _with_proxies_noted(app: App, data: bytes, slot: str, content: str) -> tuple[bytes, list[str]]:
    """The file in which each thing shown through an unnamed slot has the content noted, and sentences
    about it: from then on a move is noticed."""
    if not content or app.rules.slots.get(slot, ""):
        return data, []
    said = []
    for thing, via in app.vias.items():
        if via.through == slot and not via.held:
            data = app_writing.with_via(data, thing, slot, content)
            said.append(f"{thing} is now noted as shown by {content}.")
    return data, said


def _unnoted_proxies(app: App, slot: str, shift: str) -> list[str]:
    """The things that are shown through slots which move, and of which nobody noted what is in them."""
    row = row_of(app, slot)
    at = row.index(slot)
    known = app.catalogue.by_id
    said = []
    for thing, via in app.vias.items():
        if via.through not in row or via.held or app.rules.slots.get(via.through, ""):
            continue
        here = row.index(via.through)
        if shift == "on":
            there = here + 1
        else:
            there = here - 1
        if here < at or not 0 <= there < len(row):
            continue
        through = known[row[there]]
        follow = line("via", app.name, thing, "--through", through.id)
        said.append(
            f"{thing} was shown through {known[via.through].title}, and is most likely in "
            f"{through.title} now: {follow}"
        )
    return said


def _reached(desk: Desk, before: App, after: App) -> tuple[str, ...]:
    """What the keys of the slots that changed reach now."""
    keymap = Keymap(desk.stack(after.name), desk.keyboard)
    lines = []
    for command in after.catalogue.commands:
        if command.kind != "slot" or before.shown(command.id) == after.shown(command.id):
            continue
        keys = live_triggers(keymap, command.id)
        verb = "reaches"
        if len(keys) > 1:
            verb = "reach"
        who = joined(map(str, keys)) or "No key"
        lines.append(f"{who} {verb} {after.shown(command.id)} now.")
    return tuple(lines)


def _moved(desk: Desk, before: App, after: App) -> tuple[str, ...]:
    """The keys and vias for something that stands elsewhere now, and did not before."""
    from olive_compass.core.changes.view import AppView

    stack = desk.stack(after.name)
    was, now = (
        {
            each.says
            for find in (find_moved, find_moved_vias)
            for each in find(AppView(replace(stack, app=app), desk.keyboard))
        }
        for app in (before, after)
    )
    new = sorted(now - was)
    if not new:
        return ()
    count = counted(len(new), "thing")
    return (*new[:3], f"{count} to look at: olive-compass check {after.name}")


def _shown_then(shift: str | None) -> str:
    """What a slot shows that is emptied, or whose content moves on."""
    if shift == "back":
        return "what stood after it"
    return "nothing that is noted"
