"""The verbs of ``purpose`` that look and edit; ``guess`` is in ``guessing``."""

from collections.abc import Iterator, Sequence
from typing import Any

from olive_compass.cli import exit_status, pick
from olive_compass.cli.changing.keeping import Writing, keep, writing_of
from olive_compass.cli.options import Common, WriteOptions
from olive_compass.cli.sharing.keysets import keyset_named
from olive_compass.cli.sharing.naming import purpose_named
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, DIM, OFF
from olive_compass.core.apps.command_ids import slug
from olive_compass.core.apps.modes import joined
from olive_compass.core.sharing.purposes import Purpose, Purposes, joined_purposes
from olive_compass.core.wording import counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import purposes_file
from olive_compass.desk.storage.records import FileChange
from olive_compass.errors import UserError
from olive_compass.structs import in_place, replace


def change_of(desk: Desk, after: Purposes) -> FileChange:
    """The file change that writes ``after``."""
    has = purposes_file.exists(desk.root)
    before = None
    if has:
        before = desk.bytes(purposes_file.PURPOSES_FILE)
    return FileChange(purposes_file.PURPOSES_FILE, before, purposes_file.write(after))


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


class PurposeNewOptions(WriteOptions, kw_only=True):
    """The options of ``purpose new``."""

    title: str
    group: str
    risk: str
    names: list[str]


def new(args: PurposeNewOptions, context: Surroundings) -> int:
    """Runs ``purpose new``."""
    desk = pick.desk(args, context)
    purposes = purposes_file.load(desk.root)
    purpose = replace(
        _fresh(purposes, args.title), group=args.group, risk=args.risk, names=tuple(args.names)
    )
    after = Purposes((*purposes.all, purpose))
    lines = [f"Link commands to it: olive-compass purpose link {purpose.id} APP COMMAND"]
    return save_purposes(
        writing_of(args),
        context,
        desk,
        purposes,
        after,
        f"Created purpose “{purpose.title}”",
        lines,
    )


class PurposeRenameOptions(WriteOptions, kw_only=True):
    """The options of ``purpose rename``."""

    purpose: str
    title: str
    names: list[str]


def rename(args: PurposeRenameOptions, context: Surroundings) -> int:
    """Runs ``purpose rename``."""
    desk = pick.desk(args, context)
    purposes = purposes_file.load(desk.root)
    purpose = purpose_named(purposes, args.purpose)
    title = " ".join(args.title.split())
    if not title:
        raise UserError("A purpose needs a title; nothing was changed.")
    other = next(
        (each for each in purposes.all if each.title.casefold() == title.casefold()), purpose
    )
    if other.id != purpose.id:
        raise UserError(f"“{title}” is what {other.id} is called; nothing was changed.")
    old = []
    if purpose.title != title:
        old = [purpose.title]
    names = tuple(
        name for name in dict.fromkeys((*purpose.names, *old, *args.names)) if name != title
    )
    renamed = replace(purpose, title=title, names=names)
    after = Purposes(in_place(purposes.all, renamed))
    what = f"Renamed “{purpose.title}” to “{title}”; its id stays {purpose.id}"
    return save_purposes(writing_of(args), context, desk, purposes, after, what)


class PurposeMergeOptions(WriteOptions, kw_only=True):
    """The options of ``purpose merge``."""

    purpose: str
    others: list[str]


def merge(args: PurposeMergeOptions, context: Surroundings) -> int:
    """Runs ``purpose merge``: links and names of the others go to the first."""
    desk = pick.desk(args, context)
    purposes = purposes_file.load(desk.root)
    kept = purpose_named(purposes, args.purpose)
    named = {each.id: each for each in (purpose_named(purposes, name) for name in args.others)}
    others = [each for id_, each in named.items() if id_ != kept.id]
    if not others:
        raise UserError(f"“{kept.title}” is one purpose already; nothing was changed.")
    merged = joined_purposes(kept, others)
    gone = {each.id for each in others}
    after = Purposes(each for each in in_place(purposes.all, merged) if each.id not in gone)
    titles = joined(f"“{each.title}”" for each in others)
    twice = [app for app, ids in merged.links.items() if len(ids) > len(kept.commands(app)) > 0]
    lines = [
        f"{app} has {counted(len(merged.commands(app)), 'command')} for it now: "
        f"{', '.join(merged.commands(app))}"
        for app in twice
    ]
    lines += _keys_of_sets(desk, gone)
    what = f"Merged {titles} into “{kept.title}”"
    return save_purposes(writing_of(args), context, desk, purposes, after, what, lines)


class PurposeSplitOptions(WriteOptions, kw_only=True):
    """The options of ``purpose split``."""

    purpose: str
    title: str
    apps: list[str]


def split(args: PurposeSplitOptions, context: Surroundings) -> int:
    """Runs ``purpose split``: the commands of some applications get a purpose of their own."""
    desk = pick.desk(args, context)
    purposes = purposes_file.load(desk.root)
    old = purpose_named(purposes, args.purpose)
    apps = [desk.app_name(name) for name in args.apps]
    if without := [app for app in apps if not old.commands(app)]:
        raise UserError(
            f"No command of {joined(without)} serves “{old.title}”; nothing was changed.",
            hint=f"See who does: olive-compass purpose list {old.id}",
        )
    if len(set(apps)) == len(old.links):
        raise UserError(
            f"Nothing would be left of “{old.title}”; nothing was changed.",
            hint=f"Another title: olive-compass purpose rename {old.id} TITLE",
        )
    own = _fresh(purposes, args.title)
    links = {app: old.commands(app) for app in dict.fromkeys(apps)}
    own = replace(own, group=old.group, risk=old.risk, links=links)
    rest = replace(old, links={app: ids for app, ids in old.links.items() if app not in links})
    all_ = in_place(purposes.all, rest)
    all_.insert(all_.index(rest) + 1, own)
    after = Purposes(all_)
    what = f"Created purpose “{own.title}” for {joined(links)}"
    lines = [
        f"A key for it: olive-compass keyset set {name} {own.id} KEY"
        for name in desk.keyset_names()
    ]
    return save_purposes(writing_of(args), context, desk, purposes, after, what, lines)


def _keys_of_sets(desk: Desk, gone: set[str]) -> list[str]:
    """What to do about key sets that still name purposes that are gone."""
    return [
        f"Key set {name} still has keys for it: olive-compass keyset clear {name} {id_}"
        for name in desk.keyset_names()
        for id_ in keyset_named(desk, name).keys
        if id_ in gone
    ]


def _fresh(purposes: Purposes, written: str) -> Purpose:
    """A purpose with this title; raises ``UserError`` where there is one, or it is no title."""
    title = " ".join(written.split())
    id_ = slug(title)
    if not id_:
        raise UserError(
            f"“{written}” is no title.", hint="Say what a person wants: Measure a slope"
        )
    taken = {name.casefold() for each in purposes.all for name in (each.id, each.title)}
    if {id_, title.casefold()} & taken:
        raise UserError(
            f"There is a purpose “{title}” already; nothing was changed.",
            hint=f"See it: olive-compass purpose list {id_}",
        )
    return Purpose(id=id_, title=title)


class PurposeRemoveOptions(WriteOptions, kw_only=True):
    """The options of ``purpose remove``."""

    purpose: str


def remove(args: PurposeRemoveOptions, context: Surroundings) -> int:
    """Runs ``purpose remove``."""
    desk = pick.desk(args, context)
    purposes = purposes_file.load(desk.root)
    purpose = purpose_named(purposes, args.purpose)
    after = Purposes(each for each in purposes.all if each.id != purpose.id)
    served = ", ".join(f"{app}: {' '.join(ids)}" for app, ids in purpose.links.items())
    lines = []
    if served:
        lines = [f"It was served by {served}."]
    lines += _keys_of_sets(desk, {purpose.id})
    what = f"Purpose “{purpose.title}” removed"
    return save_purposes(writing_of(args), context, desk, purposes, after, what, lines)


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
        files = [change_of(desk, after)]
    return keep(how, context, desk, files + (more or []), what, tuple(lines or ()))
