"""Counts from plain lists of commands and times."""

from collections.abc import Callable, Mapping, Sequence
from typing import Any

from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import App
from olive_compass.core.apps.naming import command_named, logged
from olive_compass.core.macros.log_rows import column_named
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.usage.tally import SLIP, Count, Tally, Use, added
from olive_compass.counts import parse_count
from olive_compass.desk.desk import Desk
from olive_compass.desk.importing import read_rows
from olive_compass.desk.log_counting import Foreign
from olive_compass.errors import UserError
from olive_compass.structs import replace

#: The most times a week that anybody does one thing: a hundred thousand is three a second, all day.
MOST_A_WEEK = 100_000


def by_id(desk: Desk, file: str, tally: Tally) -> dict[Use, Count]:
    """What another application's log calls by titles, by our names for it. A command that the catalogue
    does not have stays as the log has it."""
    apps = {name: name for name in desk.app_names()}
    # A name of ours wins over a title that is spelt like it.
    apps = {**{desk.app(name).title: name for name in apps}, **apps}
    unknown = sorted({use.app for use in tally} - set(apps))
    if unknown:
        says = "It does not say of which application it is"
        if unknown[0]:
            says = f"It is of “{unknown[0]}”, which is not on this desk"
        raise UserError(f"{says}; nothing was changed.", file=file, hint="Set it: --app APP")
    named: dict[tuple[str, str], str] = {}

    def ours(app: str, command: str) -> str:
        if command and (app, command) not in named:
            named[app, command] = logged(desk.app(app).catalogue.by_id, command)
        return named.get((app, command), "")

    found: dict[Use, Count] = {}
    for use, count in tally.items():
        app, after = apps[use.app], use.after
        # Of a slip, that is a key.
        if use.how != SLIP:
            after = ours(app, after)
        home = replace(use, app=app, command=ours(app, use.command), after=after)
        found[home] = added(found[home], count) if home in found else count
    return found


def _has_sums(stream: Any) -> bool:
    """Whether the first line says that sums follow: a log has a line an event."""
    start = stream.tell()
    head = stream.read(400).decode("utf-8", "replace").split("\n")[0].casefold()
    stream.seek(start)
    told = any(word in head for word in ("times", "a week", "per week", "count"))
    return told and "{" not in head


def listed_counts(
    desk: Desk,
    context: Surroundings,
    file: str,
    stream: Any,
    log: str,
    seat: str,
    foreign: Foreign,
) -> dict[Use, Count]:
    """A plain list of commands and times a week, for people without logs; empty where it is none."""
    app, columns = foreign.app, foreign.columns
    if "times" not in columns and not _has_sums(stream):
        return {}
    _, listing = read_rows(file, stream.read())
    rows = [(row.line, [cell.strip() for cell in row.cells]) for row in listing.rows]
    found_columns = _columns_of(rows[0][1] if rows else [], columns, file)
    if found_columns is None:
        return {}
    if not app:
        raise UserError("A list of commands does not say whose they are.", hint="Set it: --app APP")
    which, often = found_columns
    keymap = Keymap(desk.stack(app), desk.keyboard)
    today = context.now().date().isoformat()
    found: dict[Use, Count] = {}
    for line, row in rows[1:]:
        if len(row) <= max(which, often) or not row[which]:
            continue
        command = _one_command(keymap.app, row[which], file, line)
        times = _times(row[often], file, line)
        # Such a list does not say how: what nobody saw pressed is taken for chosen from the menu.
        how = "menu"
        use = Use(log=log, seat=seat, day=today, app=app, mode="", command=command, how=how)
        found[use] = Count(times=times, undone=0, first=today, last=today)
    return found


def _times(text: str, file: str, line: int) -> int:
    """How many times a week; raises ``UserError`` where it is no such number."""
    if text == "0":
        return 0
    times = parse_count(text)
    if 0 < times <= MOST_A_WEEK:
        return times
    says = f"“{text[:40]}” is no number of times a week (at most {MOST_A_WEEK:,})"
    raise UserError(f"{says}; nothing was changed.", file=file, line=line)


def _columns_of(
    head: Sequence[str], columns: Mapping[str, str], file: str
) -> tuple[int, int] | None:
    """The columns of the commands and of their times, as they were named or else by their headings; None:
    there are none. Raises ``UserError`` where a named one is not there."""
    heads = [cell.casefold() for cell in head]
    try:
        which = _column(heads, columns.get("command"), _heads_commands)
        often = _column(heads, columns.get("times"), _heads_times)
    except LookupError as error:
        raise UserError(
            f"It is not clear which column is which: {error.args[0]}.", file=file
        ) from error
    if "times" in columns and which is None:
        raise UserError(
            "No heading says which column has the commands.",
            file=file,
            hint="Name it: --column command=HEADING",
        )
    if which is None or often is None:
        return None
    return (which, often)


def _column(heads: list[str], named: str | None, fits: Callable[[str], bool]) -> int | None:
    """The column that a person named, or else the first whose heading fits. Raises ``LookupError``."""
    if named is not None:
        return column_named(named, heads)
    return next((n for n, head in enumerate(heads) if fits(head)), None)


def _heads_commands(head: str) -> bool:
    return head in ("command", "title", "what")


def _heads_times(head: str) -> bool:
    return any(word in head for word in ("times", "week", "count"))


def _one_command(app: App, called: str, file: str, line: int) -> str:
    """The id of the one command that a list calls so; raises ``UserError`` with the line."""
    named = command_named(app.catalogue.commands, called, slots=app.rules.slots)
    if len(named.exact) != 1:
        says = f"{app.title} has no one command “{called}”"
        raise UserError(f"{says}; nothing was changed.", file=file, line=line)
    return named.exact[0].id
