"""Delivering keys into an application's own file: where it is, what would change, and writing it."""

import os

from olive_compass.cli import exit_status, pick
from olive_compass.cli.changing.saving import confirm, save
from olive_compass.cli.options import ChangeOptions
from olive_compass.cli.sharing.delivery_files import target
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, DIM, GREEN, OFF, RED
from olive_compass.cli.terminal.tables import print_table
from olive_compass.core.apps.app import App
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.sharing.delivering import ByMode, Deltas, Moved
from olive_compass.core.wording import clause, counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.reported.delivery import delivery_report
from olive_compass.desk.shortcuts.delivery import state_path, write_state
from olive_compass.desk.shortcuts.delivery_plans import Plan, plan_delivery
from olive_compass.desk.shortcuts.delivery_target import Target
from olive_compass.desk.shortcuts.remembering import remembered
from olive_compass.desk.storage import places
from olive_compass.desk.storage.allowing import allow
from olive_compass.desk.storage.records import FileChange, changing, digest
from olive_compass.errors import UserError

#: What the application's own file is kept as before the first delivery into it.
BEFORE = ".before-delivery"

#: How many commands are shown.
MOST_SHOWN = 20


class DeliverOptions(ChangeOptions, kw_only=True):
    """The options of ``deliver``."""

    app: str
    to: str | None
    file_format: str | None
    check: bool
    import_changes: bool
    why: str


def deliver(args: DeliverOptions, context: Surroundings) -> int:
    """Shows what would change in the application's own file, asks, and writes it."""
    desk = pick.desk(args, context)
    keymap = Keymap(desk.stack(desk.app_name(args.app)), desk.keyboard)
    app = keymap.app
    found = target(context, desk, app, args.to, args.file_format)
    plan = plan_delivery(app, keymap, found)
    # What cannot be written was named: the application does not have all that is wanted.
    status = exit_status.failed(plan.unwritten)
    if args.json and args.dry_run:
        context.json(delivery_report(app, found, plan, None))
        return status
    if not args.json and not context.quiet:
        _print(context, app, found, plan)
    files = _files(args.to, args.file_format, context, desk, app, found, plan)
    if not files:
        if args.json:
            context.json(delivery_report(app, found, plan, None))
        else:
            some = "the"
            if plan.unwritten:
                some = "all that it can have of the"
            context.report(f"{found.path} has {some} wanted keys; nothing was changed.")
        return status
    if args.dry_run:
        context.say("Dry run: nothing was written.")
        return status
    _ask(args, context, desk, found)
    number = save(desk, context, files, f"{app.title}: wrote keys into {found.path}")
    if args.json:
        context.json(delivery_report(app, found, plan, number))
    else:
        _say_delivered(context, app, found, plan)
    return status


def _ask(args: DeliverOptions, context: Surroundings, desk: Desk, found: Target) -> None:
    """Asks whether the file is to be written; raises ``UserError`` where that is not to be."""
    outside = os.path.isabs(found.path)
    # A desk from elsewhere may name any file: that this seat means it must be said here.
    is_new_place = outside and found.path not in places.allowed(desk.root) and not args.to
    if is_new_place and not context.interactive:
        raise UserError(
            f"You have not allowed this desk to write {found.path} on this computer; nothing was changed.",
            hint=f"Allow it once: olive-compass deliver {desk.app_name(args.app)} --to {found.path}",
        )
    yes = args.yes and not is_new_place
    confirm(yes, context, "A delivery", f"Write {found.path}?", "The file stays as it is.")
    if outside:
        _allow(desk, found)


def _say_delivered(context: Surroundings, app: App, found: Target, plan: Plan) -> None:
    """Reports the state of the file, and the steps left to do."""
    if found.data == plan.data:
        context.report(
            f"{found.path} has the wanted keys and stays as it is; where it is, is kept."
        )
        return
    backup = ", a new file"
    if found.data is not None:
        backup = f"; as it was before: {found.path}{BEFORE}"
    context.report(f"Delivered into {found.path}{backup}")
    if app.trays:
        context.report(f"Add its trays by hand: olive-compass worklist {app.name}")
    context.report("To undo: olive-compass undo. What changes there: deliver --check")


def _allow(desk: Desk, found: Target) -> None:
    try:
        allow(desk.root, (found.path, found.path + BEFORE))
    except OSError as error:
        raise UserError(
            f"That this desk may write {found.path} cannot be kept: {error.strerror or error}.",
            hint="Name a folder for it: OLIVE_COMPASS_DATA=FOLDER",
        ) from error


def _files(
    to: str | None,
    file_format: str | None,
    context: Surroundings,
    desk: Desk,
    app: App,
    found: Target,
    plan: Plan,
) -> list[FileChange]:
    """All that a delivery writes: the file, the copy of it, what is kept of it, and where it is."""
    changes = changing([FileChange(found.path, found.data, plan.data)])
    backup = found.path + BEFORE
    # The first delivery into a file keeps what it had before.
    is_first = bool(changes) and found.data is not None and found.last is None
    if is_first and not os.path.lexists(os.path.join(desk.root, backup)):
        changes.append(FileChange(backup, None, found.data))
    changes += remembered(to, file_format, desk, app, found.path)
    if changes or found.last is None or found.last.digest != digest(plan.data):
        changes.append(state_of(context, desk, app, found.path, plan.data, plan.keys, plan.deltas))
    return changes


def state_of(
    context: Surroundings,
    desk: Desk,
    app: App,
    path: str,
    data: bytes,
    keys: ByMode,
    deltas: Deltas,
) -> FileChange:
    state = state_path(app.name)
    when = context.now().isoformat(timespec="seconds")
    before = desk.bytes_or_none(state)
    return FileChange(state, before, write_state(path, data, when, keys, deltas))


def _print(context: Surroundings, app: App, found: Target, plan: Plan) -> None:
    there = f"{counted(len(found.content.entries), 'record')} there"
    context.say(
        f"{BOLD}{app.title}{OFF} {DIM}({found.path}, format {found.form.name}; {there}){OFF}"
    )
    print_moved(context, app, plan.changes, "there now", "to be")
    for each in plan.unwritten:
        where = clause(" in {}", each.mode)
        context.say(f"Not written: {each.subject}{where}: {each.why}.")
    for field in dict.fromkeys(each.field for each in plan.unwritten if each.field):
        context.say(f"To say it: olive-compass fileformat set {found.form.name} {field} TEXT")
    width = len(str(max((line.line for line in plan.lines), default=0)))
    for line in plan.lines:
        for sign, colour, text in (("-", RED, line.was), ("+", GREEN, line.now)):
            if text is not None:
                context.say(f"{line.line:>{width}} {colour}{sign} {text.expandtabs()}{OFF}")


def print_moved(context: Surroundings, app: App, changes: list[Moved], was: str, now: str) -> None:
    rows = [
        (app.shown(each.command), each.mode or "-", keys_text(each.was), keys_text(each.now))
        for each in changes[:MOST_SHOWN]
    ]
    if rows:
        print_table(context, ("command", "mode", was, now), rows)
    if len(changes) > MOST_SHOWN:
        context.say(f"and {len(changes) - MOST_SHOWN} more")


def keys_text(keys: tuple[Run, ...]) -> str:
    return ", ".join(map(str, keys)) or "none"
