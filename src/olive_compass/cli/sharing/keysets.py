"""The verbs of ``keyset`` that look and edit: list, new, set, clear, show, learn."""

from collections.abc import Iterable, Iterator
from itertools import product
from typing import Any

from olive_compass.cli import exit_status, pick
from olive_compass.cli.changing.keeping import Writing, keep, writing_of
from olive_compass.cli.options import Common, WriteOptions
from olive_compass.cli.sharing.naming import purpose_named
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.tables import print_table
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.sharing.keysets import Entry, KeySet, cells, consistency
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import keyset_file, purposes_file
from olive_compass.desk.reported.keysets import KeysetRow
from olive_compass.desk.storage.file_names import checked_name
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.views import keymaps_of_apps
from olive_compass.errors import UserError
from olive_compass.structs import replace


def keyset_named(desk: Desk, name: str | None) -> KeySet:
    """The key set of that name, or where None is given the only one; raises ``UserError``."""
    names = desk.keyset_names()
    if name is None and len(names) == 1:
        name = names[0]
    if name is None:
        has = ", ".join(names)
        raise UserError(
            f"The desk has {len(names)} key sets; say which."
            if names
            else "The desk has no key set yet.",
            hint=f"There are {has}." if names else "Make one: olive-compass keyset learn NAME",
        )
    if name not in names:
        from olive_compass.near import did_you_mean

        hint = did_you_mean(name, names) or "Make one: olive-compass keyset new NAME"
        raise UserError(f"There is no key set “{name}” here.", hint=hint)
    path = keyset_file.keyset_path(name)
    return keyset_file.read(desk.bytes(path), path, name)


class KeysetListOptions(Common, kw_only=True):
    """The options of ``keyset list``."""

    json: bool


def list_sets(args: KeysetListOptions, context: Surroundings) -> int:
    """Runs ``keyset list``."""
    desk = pick.desk(args, context)
    rows = []
    maps = []
    if desk.keyset_names():
        maps = keymaps_of_apps(desk)
    for name in desk.keyset_names():
        keyset = keyset_named(desk, name)
        share = consistency(cells(keyset, desk.purposes, maps))
        rows.append(
            KeysetRow(name=name, title=keyset.title, purposes=len(keyset.keys), consistency=share)
        )
    if args.json:
        context.json({"keysets": rows})
    elif not rows:
        context.say("No key set yet. Learn one: olive-compass keyset learn NAME")
    else:
        print_table(
            context,
            ("key set", "title", "purposes", "consistency"),
            [
                (each.name, each.title, str(each.purposes), percent(each.consistency))
                for each in rows
            ],
        )
    return exit_status.found(rows)


class KeysetNewOptions(WriteOptions, kw_only=True):
    """The options of ``keyset new``."""

    name: str
    title: str | None


def new_set(args: KeysetNewOptions, context: Surroundings) -> int:
    """Runs ``keyset new``."""
    desk = pick.desk(args, context)
    keyset = KeySet(new_set_name(desk, args.name), args.title or args.name)
    return save_set(writing_of(args), context, desk, None, keyset, f"Created key set {args.name}")


class KeysetSetOptions(WriteOptions, kw_only=True):
    """The options of ``keyset set``."""

    name: str
    purpose: str
    keys: list[str]
    why: str


def _waits(entry: Entry, others: Iterable[Entry]) -> Iterator[str]:
    """The sequences among these keys and those of other purposes that one of the others begins."""
    for each in others:
        for pair in product(each.triggers, entry.triggers):
            shorter, longer = sorted(pair, key=lambda run: len(run.strokes))
            if longer != shorter and longer.strokes[: len(shorter.strokes)] == shorter.strokes:
                yield (
                    f"{longer} begins with {shorter}, so {shorter} would start its command only after a wait."
                )


def set_key(args: KeysetSetOptions, context: Surroundings) -> int:
    """Runs ``keyset set``: the triggers of a purpose, the wished-for one first."""
    desk = pick.desk(args, context)
    before = keyset_named(desk, args.name)
    purpose = purpose_named(purposes_file.load(desk.root), args.purpose)
    runs = tuple(read_trigger(text, typed=0) for text in args.keys)
    entry = Entry(tuple(dict.fromkeys(runs)), args.why)
    after = replace(before, keys={**before.keys, purpose.id: entry})
    keys = ", else ".join(map(str, entry.triggers))
    lines = [
        f"Note that {other} has {run} in this set as well."
        for other, each in before.keys.items()
        for run in each.triggers
        if other != purpose.id and run in entry.triggers
    ]
    lines += _waits(entry, (each for other, each in before.keys.items() if other != purpose.id))
    what = f"Key set {args.name}: {purpose.title} has {keys}"
    return save_set(writing_of(args), context, desk, before, after, what, lines)


class KeysetClearOptions(WriteOptions, kw_only=True):
    """The options of ``keyset clear``."""

    name: str
    purpose: str


def clear_key(args: KeysetClearOptions, context: Surroundings) -> int:
    """Runs ``keyset clear``."""
    desk = pick.desk(args, context)
    before = keyset_named(desk, args.name)
    id_ = args.purpose
    if id_ not in before.keys:
        id_ = purpose_named(purposes_file.load(desk.root), args.purpose).id
    keys = {key: entry for key, entry in before.keys.items() if key != id_}
    what = f"Key set {args.name}: {id_} has no key any more"
    return save_set(writing_of(args), context, desk, before, replace(before, keys=keys), what)


def save_set(
    how: Writing,
    context: Surroundings,
    desk: Desk,
    before: KeySet | None,
    after: KeySet,
    what: str,
    lines: list[str] | None = None,
    more: list[FileChange] | None = None,
    **fields: Any,
) -> int:
    """Saves a key set, and ``more`` files with it; with ``--dry-run`` only says what would be."""
    path = keyset_file.keyset_path(after.name)
    if before is None:
        change = FileChange(path, None, keyset_file.new_text(after))
    else:
        old = desk.bytes(path)
        change = FileChange(path, old, keyset_file.edited(old, before, after))
    return keep(
        how,
        context,
        desk,
        [*(more or []), change],
        what,
        tuple(lines or ()),
        name=after.name,
        **fields,
    )


def new_set_name(desk: Desk, name: str) -> str:
    checked_name(name, "a key set", desk.keyset_names())
    if name in desk.keyset_names():
        raise UserError(
            f"There is a key set “{name}” already; nothing was changed.",
            file=keyset_file.keyset_path(name),
        )
    return name


def percent(share: float | None) -> str:
    """A share as a percentage."""
    if share is None:
        return "none"
    return f"{share * 100:.0f} %"
