"""The verbs of ``purpose`` that make, rename, merge, split and remove."""

from collections.abc import Iterator

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import writing_of
from olive_compass.cli.options import WriteOptions
from olive_compass.cli.sharing.keysets import keyset_named
from olive_compass.cli.sharing.naming import purpose_named
from olive_compass.cli.sharing.purposes import save_purposes
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.command_ids import slug
from olive_compass.core.apps.modes import joined
from olive_compass.core.sharing.purposes import Purpose, Purposes, joined_purposes
from olive_compass.core.wording import counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import purposes_file
from olive_compass.errors import UserError
from olive_compass.structs import in_place, replace


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
    named = [purpose_named(purposes, name) for name in args.others]
    others = list({each.id: each for each in named if each.id != kept.id}.values())
    if not others:
        raise UserError(f"“{kept.title}” is one purpose already; nothing was changed.")
    merged = joined_purposes(kept, others)
    gone = {each.id for each in others}
    after = Purposes(each for each in in_place(purposes.all, merged) if each.id not in gone)
    titles = joined(f"“{each.title}”" for each in others)
    lines = [*_served_by_more(kept, merged), *_keys_of_sets(desk, gone)]
    what = f"Merged {titles} into “{kept.title}”"
    return save_purposes(writing_of(args), context, desk, purposes, after, what, lines)


def _served_by_more(before: Purpose, after: Purpose) -> Iterator[str]:
    """Which applications have more commands for a purpose than before, where they had one."""
    for app, ids in after.links.items():
        if len(ids) > len(before.commands(app)) > 0:
            commands = counted(len(ids), "command")
            yield f"{app} has {commands} for it now: {', '.join(after.commands(app))}"


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
