"""``keyset show``: purposes down, applications across."""

from collections.abc import Mapping, Sequence

from olive_compass.cli import pick
from olive_compass.cli.options import Common
from olive_compass.cli.sharing.keysets import keyset_named, percent
from olive_compass.cli.sharing.using import practice_of, same_text
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BLUE, BOLD, DIM, GREEN, OFF, RED, YELLOW, wrapped
from olive_compass.cli.terminal.tables import EVERY, most_rows, natural_width, print_table
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.sharing.keysets import (
    ABSENT,
    NONE,
    OTHER,
    RESERVED,
    SAME,
    TAKEN,
    Cell,
    KeySet,
    by_purposes,
    cells,
    consistency,
    pair_consistency,
)
from olive_compass.core.sharing.purposes import Purposes
from olive_compass.core.wording import clause
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import keyset_file, purposes_file
from olive_compass.desk.views import keymaps_of_apps

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


class KeysetShowOptions(Common, kw_only=True):
    """The options of ``keyset show``."""

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
    limit = most_rows(context, args.limit)
    return tell_set(desk, context, args.name, args.apps, args.json, args.differ, limit)


def tell_set(
    desk: Desk,
    context: Surroundings,
    name: str | None,
    apps: list[str] | None,
    as_json: bool,
    differ: bool = False,
    limit: int = EVERY,
) -> int:
    """A set as text or JSON; with ``differ`` only the purposes that differ, ``limit`` at most."""
    keyset = keyset_named(desk, name)
    maps = keymaps_of_apps(desk, apps)
    purposes = purposes_file.load(desk.root)
    found = cells(keyset, purposes, maps)
    pairs = {
        f"{one.app.name} {other.app.name}": pair_consistency(purposes, one, other)
        for n, one in enumerate(maps)
        for other in maps[n + 1 :]
    }
    if as_json:
        from olive_compass.desk.reported.keysets import cell_report
        from olive_compass.desk.reported.sameness import sameness_report

        context.json(
            {
                "name": keyset.name,
                "title": keyset.title,
                "consistency": consistency(found),
                "sameness": sameness_report(purposes, maps, practice_of(desk, context)),
                "pairs": {
                    name: {"shared": shared, "of": both} for name, (shared, both) in pairs.items()
                },
                "purposes": [
                    {
                        "purpose": id_,
                        "keys": list(map(str, entry.triggers)),
                        "why": entry.why,
                        "apps": [cell_report(c) for c in found if c.purpose == id_],
                    }
                    for id_, entry in keyset.keys.items()
                ],
            }
        )
        return 0
    context.say(f"{BOLD}{keyset.title}{OFF} {DIM}({keyset_file.keyset_path(keyset.name)}){OFF}")
    tell_cells(context, keyset, purposes, maps, differ, limit, found)
    _print_consistency(context, found, pairs)
    if text := same_text(purposes, maps, practice_of(desk, context)):
        _say_dim(context, text)
    return 0


def tell_cells(
    context: Surroundings,
    keyset: KeySet,
    purposes: Purposes,
    maps: Sequence[Keymap],
    differ: bool = False,
    limit: int = EVERY,
    found: list[Cell] | None = None,
) -> None:
    """Purposes down, applications across; with ``differ`` only the lines that differ."""
    if found is None:
        found = cells(keyset, purposes, maps)
    by_purpose = by_purposes(found)
    alike = {id_ for id_, each in by_purpose.items() if _are_alike(each)}
    shown = [id_ for id_ in keyset.keys if not (differ and id_ in alike)]
    _print_rows(context, keyset, purposes, maps, {p: by_purpose.get(p, []) for p in shown[:limit]})
    if len(shown) > limit:
        says = f"{limit} of {len(shown)} purposes shown; --limit {len(shown)} shows all"
        if not differ:
            says += ", --differ only the different ones"
        for line in wrapped(f"{says}.", context.width):
            context.say(line)
    if differ:
        context.say(f"{DIM}{len(alike)} more are the same wherever there is such a command.{OFF}")
    _say_dim(context, LEGEND)


def _are_alike(of_one_purpose: list[Cell]) -> bool:
    """Whether all applications have the key of the set."""
    # An application without such a command is no difference: nothing is to be done about it.
    return {cell.state for cell in of_one_purpose} <= {SAME, ABSENT}


def _print_rows(
    context: Surroundings,
    keyset: KeySet,
    purposes: Purposes,
    maps: Sequence[Keymap],
    by_purpose: Mapping[str, list[Cell]],
) -> None:
    """A table of the purposes, or a list where it is wider than the window."""
    titles = [keymap.app.title for keymap in maps]
    headings = ("purpose", "set", *titles)
    rows = [_row(context, keyset, purposes, id_, own) for id_, own in by_purpose.items()]
    if context.width and natural_width(headings, rows) > context.width:
        _print_narrow(context, titles, rows, list(by_purpose.values()))
    else:
        print_table(context, headings, rows)


def _row(
    context: Surroundings, keyset: KeySet, purposes: Purposes, id_: str, own: list[Cell]
) -> tuple[str, ...]:
    purpose = purposes.by_id.get(id_)
    if purpose:
        title = purpose.title
    else:
        title = f"{id_} (unknown)"
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
            + clause(" ({})", c.holder)
            for n, c in enumerate(own, 1)
            if c.state not in (SAME, ABSENT)
        ]
        lines.append((row[0], row[1], *signs, "; ".join(others)))
    numbers = tuple(str(n) for n in range(1, len(titles) + 1))
    print_table(context, ("purpose", "set", *numbers, "otherwise"), lines)
    _say_dim(context, ", ".join(f"{n} {title}" for n, title in enumerate(titles, 1)))


def _say_dim(context: Surroundings, text: str) -> None:
    for line in wrapped(text, context.width):
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


def cell_text(context: Surroundings, each: Cell) -> str:
    """A cell of the picture: its sign, the keys that the command has, and who has the set's."""
    sign, colour = SIGNS[each.state]
    if each.state == ABSENT:
        return ""
    keys = ", ".join(context.key(run) for run in each.triggers) or "none"
    holder = clause(" ({})", each.holder)
    return f"{colour}{sign} {keys}{holder}{OFF}"
