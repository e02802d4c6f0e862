"""The verbs of ``purpose`` that list and link; the others are in ``purpose_edits``, ``guess`` is in ``guessing``."""

from collections.abc import Iterator, Sequence
from typing import Any

from olive_compass.cli import exit_status, pick
from olive_compass.cli.changing.keeping import Writing, keep, writing_of
from olive_compass.cli.options import Common, WriteOptions
from olive_compass.cli.sharing.naming import purpose_named
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, DIM, OFF
from olive_compass.core.sharing.purposes import Purpose, Purposes
from olive_compass.core.wording import counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import purposes_file
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.writing.changed_files import changed_purposes
from olive_compass.errors import UserError


class PurposeListOptions(Common, kw_only=True):
    """The options of ``purpose list``."""

    words: list[str]
    app: str | None
    unlinked: bool
    json: bool


def list_purposes(args: PurposeListOptions, context: Surroundings) -> int:
    """Runs ``purpose list``."""
    desk = pick.desk(args, context)
    purposes = purposes_file.load(desk.root)
    apps, shown = desk.app_names(), list(purposes.all)
    if args.words:
        shown = [purpose for purpose, _ in purposes.named(" ".join(args.words))]
    if args.app:
        app = desk.app_name(args.app)
        apps, shown = [app], [p for p in shown if bool(p.commands(app)) is not args.unlinked]
    if args.json:
        context.json({"purposes": [_as_json(each, apps) for each in shown]})
    elif not shown:
        context.say("No purpose fits.")
    else:
        _print(context, shown, purposes, apps)
    return exit_status.found(shown)


def _as_json(purpose: Purpose, apps: list[str]) -> dict[str, Any]:
    """A purpose as JSON (docs/json.md)."""
    return {
        "purpose": purpose.id,
        "title": purpose.title,
        "group": purpose.group,
        "risk": purpose.risk,
        "names": list(purpose.names),
        "links": {a: list(purpose.commands(a)) for a in apps if purpose.commands(a)},
    }


def _print(
    context: Surroundings, shown: Sequence[Purpose], purposes: Purposes, apps: list[str]
) -> None:
    """The purposes by group, with the commands that serve them."""
    group = ""
    for purpose in shown:
        if purpose.group != group:
            group = purpose.group
            context.say(f"{BOLD}{group.capitalize()}{OFF}")
        links = ", ".join(
            f"{app}: {' '.join(purpose.commands(app))}" for app in apps if purpose.commands(app)
        )
        risk = ""
        if purpose.risk != "harmless":
            risk = f" [{purpose.risk}]"
        context.say(f"  {purpose.id:<18} {purpose.title}{risk} {DIM}{links}{OFF}".rstrip())
    parts = [f"{app} {sum(bool(p.commands(app)) for p in purposes.all)}" for app in apps]
    served = ", ".join(parts) or "no application yet"
    context.say(f"{counted(len(purposes.all), 'purpose')}; served by {served}.")


class PurposeLinkOptions(WriteOptions, kw_only=True):
    """The options of ``purpose link``."""

    purpose: str
    app: str
    command: str | None
    beside: bool
    remove: bool


def link(args: PurposeLinkOptions, context: Surroundings) -> int:
    """Runs ``purpose link``."""
    desk = pick.desk(args, context)
    purposes = purposes_file.load(desk.root)
    purpose = purpose_named(purposes, args.purpose)
    app = desk.app(desk.app_name(args.app))
    if args.remove:
        if args.command:
            raise UserError(
                "--remove removes all links of the application, so that no COMMAND is named with it."
            )
        after = purposes.linked(purpose.id, app.name, ())
        what = f"{app.title}: no command serves “{purpose.title}”"
        return save_purposes(writing_of(args), context, desk, purposes, after, what)
    if not args.command:
        raise UserError(
            "Command missing.",
            hint=f"For example: olive-compass purpose link {purpose.id} {app.name} COMMAND",
        )
    command = pick.command(app, args.command, context)
    had = purpose.commands(app.name)
    commands: tuple[str, ...] = (command.id,)
    if args.beside and command.id not in had:
        commands = (*had, command.id)
    after = purposes.linked(purpose.id, app.name, commands)
    what = f"{app.title}: {command.title} serves “{purpose.title}”"
    # A command serves one purpose, so a new link takes it from the old one; that must not go unsaid.
    lines = list(_served_before(purposes, app.name, command.id, purpose))
    if had and not args.beside and had != commands:
        lines.append(f"{', '.join(had)} no longer serves it; to keep both: --beside")
    return save_purposes(writing_of(args), context, desk, purposes, after, what, lines)


def _served_before(purposes: Purposes, app: str, command: str, now: Purpose) -> Iterator[str]:
    """That a command loses its old purpose, where it had another."""
    old = purposes.by_command.get((app, command))
    if old and old.id != now.id:
        yield f"It no longer serves “{old.title}”."


def save_purposes(
    how: Writing,
    context: Surroundings,
    desk: Desk,
    before: Purposes,
    after: Purposes,
    what: str,
    lines: list[str] | None = None,
    more: list[FileChange] | None = None,
) -> int:
    """Saves purposes, and ``more`` files with them; with ``--dry-run`` only says what would be."""
    files = []
    if before.all != after.all:
        files = [changed_purposes(desk, after)]
    return keep(how, context, desk, files + (more or []), what, tuple(lines or ()))
