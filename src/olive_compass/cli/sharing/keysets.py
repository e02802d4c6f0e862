"""The verbs of ``keyset`` that look and edit: list, new, set, clear, show, learn."""

from collections.abc import Sequence
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import Writing, keep, writing_of
from olive_compass.cli.options import Common
from olive_compass.cli.sharing.naming import purpose_named
from olive_compass.cli.sharing.using import same_text, sameness_json, tally_of
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BLUE, BOLD, DIM, GREEN, OFF, RED, YELLOW, wrapped
from olive_compass.cli.terminal.tables import AT_A_TERMINAL, natural_width, print_table
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.sharing.keysets import (
    ABSENT,
    NONE,
    OTHER,
    RESERVED,
    SAME,
    TAKEN,
    Cell,
    Entry,
    KeySet,
    cells,
    consistency,
    pair_consistency,
)
from olive_compass.core.sharing.purposes import Purposes
from olive_compass.core.sharing.sameness import practice
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import keyset_file, purposes_file
from olive_compass.desk.storage.file_names import checked_name
from olive_compass.desk.storage.records import FileChange
from olive_compass.errors import UserError
from olive_compass.structs import replace

#: The sign and the colour of each state.
SIGNS = {
    SAME: ("=", GREEN),
    OTHER: ("~", YELLOW),
    TAKEN: ("!", RED),
    RESERVED: ("x", RED),
    NONE: ("-", BLUE),
    ABSENT: ("", DIM),
}

#: Of more pairs of applications than this those are told that differ most.
MOST_PAIRS = 6

LEGEND = (
    "= has it   ~ has another key   ! something else has it   x the system or the application "
    "keeps it   - has no key   (empty) no such command"
)


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


def keymaps(desk: Desk, named: list[str] | None = None) -> list[Keymap]:
    """The keys of the named applications, or of all."""
    apps = [desk.app_name(name) for name in named] if named else desk.app_names()
    if not apps:
        desk.app_name("")
    return [Keymap(desk.stack(name), desk.keyboard) for name in apps]


class KeysetListOptions(Common, kw_only=True):
    """What ``keyset list`` is told."""

    json: bool


def list_sets(args: KeysetListOptions, context: Surroundings) -> int:
    """Runs ``keyset list``."""
    desk = pick.desk(args, context)
    rows = []
    maps = keymaps(desk) if desk.keyset_names() else []
    for name in desk.keyset_names():
        keyset = keyset_named(desk, name)
        share = consistency(cells(keyset, desk.purposes, maps))
        rows.append(
            {
                "name": name,
                "title": keyset.title,
                "purposes": len(keyset.keys),
                "consistency": share,
            }
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
                (str(r["name"]), str(r["title"]), str(r["purposes"]), percent(r["consistency"]))  # type: ignore[arg-type]
                for r in rows
            ],
        )
    return 0 if rows else 1


class KeysetNewOptions(Common, kw_only=True):
    """What ``keyset new`` is told."""

    name: str
    title: str | None
    dry_run: bool
    json: bool


def new_set(args: KeysetNewOptions, context: Surroundings) -> int:
    """Runs ``keyset new``."""
    desk = pick.desk(args, context)
    keyset = KeySet(new_set_name(desk, args.name), args.title or args.name)
    return save_set(writing_of(args), context, desk, None, keyset, f"Created key set {args.name}")


class KeysetSetOptions(Common, kw_only=True):
    """What ``keyset set`` is told."""

    name: str
    purpose: str
    keys: list[str]
    why: str
    dry_run: bool
    json: bool


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
    lines += [
        f"{longer} begins with {shorter}, so {shorter} would start its command only after a wait."
        for other, each in before.keys.items()
        for run in each.triggers
        for own in entry.triggers
        if other != purpose.id
        for shorter, longer in (sorted((run, own), key=lambda each: len(each.strokes)),)
        if longer.strokes[: len(shorter.strokes)] == shorter.strokes and longer != shorter
    ]
    what = f"Key set {args.name}: {purpose.title} has {keys}"
    return save_set(writing_of(args), context, desk, before, after, what, lines)


class KeysetClearOptions(Common, kw_only=True):
    """What ``keyset clear`` is told."""

    name: str
    purpose: str
    dry_run: bool
    json: bool


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


class KeysetShowOptions(Common, kw_only=True):
    """What ``keyset show`` is told."""

    name: str | None
    apps: list[str] | None
    differ: bool
    limit: int | None
    keys_as: str | None
    json: bool


def show_set(args: KeysetShowOptions, context: Surroundings) -> int:
    """Runs ``keyset show``: purposes down, applications across."""
    desk = pick.desk(args, context)
    pick.show_keys(args.keys_as, context, desk, args.apps or [])
    limit = args.limit or (AT_A_TERMINAL if context.width else 10**9)
    return tell_set(desk, context, args.name, args.apps, args.json, args.differ, limit)


def tell_set(
    desk: Desk,
    context: Surroundings,
    name: str | None,
    apps: list[str] | None,
    as_json: bool,
    differ: bool = False,
    limit: int = 10**9,
) -> int:
    """A set as text or JSON; with ``differ`` only the purposes that are not alike, ``limit`` at most."""
    keyset = keyset_named(desk, name)
    maps = keymaps(desk, apps)
    purposes = purposes_file.load(desk.root)
    found = cells(keyset, purposes, maps)
    pairs = {
        f"{one.app.name} {other.app.name}": pair_consistency(purposes, one, other)
        for n, one in enumerate(maps)
        for other in maps[n + 1 :]
    }
    if as_json:
        context.json(
            {
                "name": keyset.name,
                "title": keyset.title,
                "consistency": consistency(found),
                "sameness": sameness_json(purposes, maps, practice(tally_of(desk, context))),
                "pairs": {
                    name: {"shared": shared, "of": both} for name, (shared, both) in pairs.items()
                },
                "purposes": [
                    {
                        "purpose": id_,
                        "keys": [str(run) for run in entry.triggers],
                        "why": entry.why,
                        "apps": [cell_json(c) for c in found if c.purpose == id_],
                    }
                    for id_, entry in keyset.keys.items()
                ],
            }
        )
        return 0
    context.say(f"{BOLD}{keyset.title}{OFF} {DIM}({keyset_file.keyset_path(keyset.name)}){OFF}")
    tell_cells(context, keyset, purposes, maps, differ, limit, found)
    _print_consistency(context, found, pairs)
    if text := same_text(purposes, maps, practice(tally_of(desk, context))):
        _say_dim(context, text)
    return 0


def tell_cells(
    context: Surroundings,
    keyset: KeySet,
    purposes: Purposes,
    maps: Sequence[Keymap],
    differ: bool = False,
    limit: int = 10**9,
    found: list[Cell] | None = None,
) -> None:
    """Purposes down, applications across; with ``differ`` only the lines that are not alike."""
    if found is None:
        found = cells(keyset, purposes, maps)
    by_purpose: dict[str, list[Cell]] = {}
    for each in found:
        by_purpose.setdefault(each.purpose, []).append(each)
    # An application without such a command is no difference: nothing is to be done about it.
    alike = {id_ for id_, c in by_purpose.items() if {x.state for x in c} <= {SAME, ABSENT}}
    shown = [id_ for id_ in keyset.keys if not (differ and id_ in alike)]
    titles = [keymap.app.title for keymap in maps]
    rows = [_row(context, keyset, purposes, id_, by_purpose.get(id_, [])) for id_ in shown[:limit]]
    headings = ("purpose", "set", *titles)
    if context.width and natural_width(headings, rows) > context.width:
        _print_narrow(context, titles, rows, [by_purpose.get(id_, []) for id_ in shown[:limit]])
    else:
        print_table(context, headings, rows)
    if len(shown) > limit:
        all_of = f"{limit} of {len(shown)} purposes shown; --limit {len(shown)} shows all"
        rest = "" if differ else ", --differ those that are not alike"
        for line in wrapped(f"{all_of}{rest}.", context.width or 10**9):
            context.say(line)
    if differ:
        context.say(f"{DIM}{len(alike)} more are the same wherever there is such a command.{OFF}")
    _say_dim(context, LEGEND)


def _row(
    context: Surroundings, keyset: KeySet, purposes: Purposes, id_: str, own: list[Cell]
) -> tuple[str, ...]:
    purpose = purposes.by_id.get(id_)
    title = purpose.title if purpose else f"{id_} (unknown)"
    keys = ", ".join(context.key(run) for run in keyset.keys[id_].triggers)
    return title, keys, *(cell_text(context, each) for each in own)


def _print_narrow(
    context: Surroundings,
    titles: list[str],
    rows: Sequence[tuple[str, ...]],
    by_row: Sequence[list[Cell]],
) -> None:
    """A column of one sign for each application, and what differs in words at the end."""
    lines = []
    for row, own in zip(rows, by_row, strict=True):
        signs = [
            f"{SIGNS[c.state][1]}{SIGNS[c.state][0]}{OFF}" if SIGNS[c.state][0] else "" for c in own
        ]
        others = [
            f"{n} {', '.join(context.key(run) for run in c.triggers) or 'none'}"
            + (f" ({c.holder})" if c.holder else "")
            for n, c in enumerate(own, 1)
            if c.state not in (SAME, ABSENT)
        ]
        lines.append((row[0], row[1], *signs, "; ".join(others)))
    numbers = tuple(str(n) for n in range(1, len(titles) + 1))
    print_table(context, ("purpose", "set", *numbers, "otherwise"), lines)
    _say_dim(context, ", ".join(f"{n} {title}" for n, title in enumerate(titles, 1)))


def _say_dim(context: Surroundings, text: str) -> None:
    for line in wrapped(text, context.width or 10**9):
        context.say(f"{DIM}{line}{OFF}")


def _print_consistency(
    context: Surroundings, found: list[Cell], pairs: dict[str, tuple[int, int]]
) -> None:
    """How much is alike: on the whole, and between each two applications."""
    states = [each.state for each in found]
    context.say(
        f"{BOLD}Consistency {percent(consistency(found))}{OFF}: "
        f"{states.count(SAME)} of {len(states) - states.count(ABSENT)} commands have the key of the set."
    )
    counts = [(name, *both) for name, both in pairs.items() if both[1]]
    if len(counts) > MOST_PAIRS:
        counts = sorted(counts, key=lambda each: each[1] / each[2])[:MOST_PAIRS]
    parts = [f"{name.replace(' ', ' and ')} {shared} of {both}" for name, shared, both in counts]
    if parts:
        # Of many applications the pairs that differ most say what to look at; JSON has all of them.
        _say_dim(context, f"Purposes on the same key in both: {'; '.join(parts)}.")


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


def cell_text(context: Surroundings, each: Cell) -> str:
    """A cell of the picture: its sign, the keys that the command has, and who has the set's."""
    sign, colour = SIGNS[each.state]
    if each.state == ABSENT:
        return ""
    keys = ", ".join(context.key(run) for run in each.triggers) or "none"
    holder = f" ({each.holder})" if each.holder else ""
    return f"{colour}{sign} {keys}{holder}{OFF}"


def cell_json(each: Cell) -> dict[str, Any]:
    """A cell as JSON (docs/json.md)."""
    return {
        "app": each.app,
        "state": each.state,
        "command": each.command or None,
        "keys": [str(run) for run in each.triggers],
        "holder": each.holder or None,
    }


def percent(share: float | None) -> str:
    """A share as a percentage."""
    if share is None:
        return "none"
    return f"{share * 100:.0f} %"


def new_set_name(desk: Desk, name: str) -> str:
    checked_name(name, "a key set", desk.keyset_names())
    if name in desk.keyset_names():
        raise UserError(
            f"There is a key set “{name}” already; nothing was changed.",
            file=keyset_file.keyset_path(name),
        )
    return name
