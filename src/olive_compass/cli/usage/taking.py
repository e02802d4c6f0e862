"""``usage take``: logs down to tallies, each log once."""

import os
from collections.abc import Iterator, Mapping, Sequence
from typing import Any

from msgspec import Struct

from olive_compass.cli import pick
from olive_compass.cli.files import open_file
from olive_compass.cli.keeping import keep, writing_of
from olive_compass.cli.pairs import pairs
from olive_compass.cli.progress import amount
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.tallies import seat_name, whole_tally
from olive_compass.core.apps.app import App
from olive_compass.core.apps.naming import command_named, logged
from olive_compass.core.macros.acts import act_of
from olive_compass.core.macros.log_rows import column_named
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.usage.tally import SLIP, Count, Tally, Use, added, join
from olive_compass.core.wording import counted
from olive_compass.desk import log_counting, tally_file
from olive_compass.desk.desk import Desk
from olive_compass.desk.importing import read_rows
from olive_compass.desk.records import FileChange
from olive_compass.errors import Refused
from olive_compass.structs import replace


class _Taken(Struct, frozen=True):
    """What came of one file."""

    file: str
    events: int
    passed: int
    again: bool


def take(args: Any, around: Surroundings, files: list[str]) -> int:
    """Runs ``usage take``."""
    at = pick.desk(args, around)
    seat = seat_name(at, args.seat)
    app = at.app_name(args.app) if args.app else ""
    columns = pairs(args.columns, "FIELD")
    if args.cluster and columns:
        raise Refused(
            "Whole logs on a cluster are our own, and have no columns to name.",
            hint="Count this one by itself, without --cluster.",
        )
    if args.cluster:
        from olive_compass.cli.usage.cluster import take_whole

        return take_whole(writing_of(args), around, at, files, seat, args.cluster)
    # A folder or an archive stands for the logs in it.
    files = [each for file in files for each in _inside(around, file)]
    before = whole_tally(at, follows=True)
    # A log is known by its first lines: taken twice it counts once, whatever its file is called.
    known = {use.log for use in before}
    backs = takes_back(at)
    found: dict[Use, Count] = {}
    taken = []
    sizes = {file: _size(around, file) for file in files}
    with amount(around, "Counting", sum(sizes.values())) as tell:
        for file in files:
            one, tally = _one(at, around, file, seat, app, backs, known, tell, columns)
            found = join(found, tally)
            taken.append(one)
    after = join(before, found)
    files_ = list(changes(at, before, after))
    events = sum(each.events for each in taken)
    what = f"Usage: counted {counted(events, 'event')} of {counted(len(files), 'log')} at {seat}"
    lines = [
        f"{each.file}: {counted(each.passed, 'line')} that are no events were passed over."
        for each in taken
        if each.passed
    ]
    lines += [f"{each.file} had been counted before." for each in taken if each.again]
    lines.append("What it says: olive-compass usage APP, and olive-compass worth APP")
    rows = [
        {"file": e.file, "events": e.events, "passed-over": e.passed, "again": e.again}
        for e in taken
    ]
    return keep(writing_of(args), around, at, files_, what, tuple(lines), seat=seat, logs=rows)


def _inside(around: Surroundings, file: str) -> list[str]:
    """A file, the logs in a folder, or those of a pattern that the shell left as it is."""
    folder = os.path.join(around.folder, file)
    if not os.path.isdir(folder):
        if "*" not in file:
            return [file]
        import glob

        found = sorted(glob.glob(file, root_dir=around.folder))
        return found or [file]
    names = sorted(name for name in os.listdir(folder) if name.endswith((".jsonl", ".csv")))
    if not names:
        raise Refused("There is no log in this folder.", file=file)
    return [os.path.join(file, name) for name in names]


def _size(around: Surroundings, file: str) -> int:
    try:
        return os.path.getsize(os.path.join(around.folder, file))
    except OSError:
        return 0


def _one(
    at: Desk,
    around: Surroundings,
    file: str,
    seat: str,
    app: str,
    backs: frozenset[tuple[str, str]],
    known: set[str],
    tell: Any,
    columns: dict[str, str],
) -> tuple[_Taken, dict[Use, Count]]:
    """The tally of one file: a log, or a list of commands with how often a week."""
    with open_file(around, file, "The log") as stream:
        log = log_counting.log_id(stream, seat)
        # By what is in it and not by its name: the same log copied twice counts once.
        again = log in known
        if listed := _listed(at, around, file, stream, log, seat, app, columns):
            return _Taken(file, sum(c.times for c in listed.values()), 0, again), listed
        found = log_counting.count_log(stream, file, log, seat, backs, app, tell, columns)
    if not found.events:
        raise Refused("There is no event in it; nothing was changed.", file=file)
    return _Taken(file, found.events, found.passed, again), _by_id(at, file, found.tally)


def _by_id(at: Desk, file: str, tally: Tally) -> dict[Use, Count]:
    """What another application's log calls by titles, by our names for it. A command that the catalogue
    does not have stays as the log has it."""
    apps = {name: name for name in at.app_names()}
    # A name of ours wins over a title that is spelt like it.
    apps = {**{at.app(name).title: name for name in apps}, **apps}
    unknown = sorted({use.app for use in tally} - set(apps))
    if unknown:
        says = (
            f"It is of “{unknown[0]}”, which is not on this desk"
            if unknown[0]
            else "It does not say of which application it is"
        )
        raise Refused(f"{says}; nothing was changed.", file=file, hint="Say it: --app APP")
    named: dict[tuple[str, str], str] = {}

    def ours(app: str, command: str) -> str:
        if command and (app, command) not in named:
            named[app, command] = logged(at.app(app).catalogue.by_id, command)
        return named.get((app, command), "")

    found: dict[Use, Count] = {}
    for use, count in tally.items():
        app = apps[use.app]
        after = use.after if use.how == SLIP else ours(app, use.after)
        home = replace(use, app=app, command=ours(app, use.command), after=after)
        one = found.get(home)
        found[home] = count if one is None else added(one, count)
    return found


def _listed(
    at: Desk,
    around: Surroundings,
    file: str,
    stream: Any,
    log: str,
    seat: str,
    app: str,
    columns: dict[str, str],
) -> dict[Use, Count]:
    """A plain list of commands and times a week, for people without logs; empty where it is none."""
    start = stream.tell()
    head = stream.read(400).decode("utf-8", "replace").split("\n")[0].casefold()
    stream.seek(start)
    # A log has a line an event: only a list of sums says so in its headings.
    told = any(word in head for word in ("times", "a week", "per week", "count"))
    if "times" not in columns and ("{" in head or not told):
        return {}
    _, listing = read_rows(file, stream.read())
    rows = [(row.line, [cell.strip() for cell in row.cells]) for row in listing.rows]
    found_columns = _columns_of(rows[0][1] if rows else [], columns, file)
    if found_columns is None:
        return {}
    if not app:
        raise Refused("A list of commands does not say whose they are.", hint="Say it: --app APP")
    which, often = found_columns
    keymap = Keymap(at.stack(app), at.keyboard)
    today = around.now().date().isoformat()
    found: dict[Use, Count] = {}
    for line, row in rows[1:]:
        if len(row) <= max(which, often) or not row[which]:
            continue
        command = _one_command(keymap.app, row[which], file, line)
        if not row[often].isdecimal():
            says = f"“{row[often]}” is no number of times a week"
            raise Refused(f"{says}; nothing was changed.", file=file, line=line)
        # Such a list does not say how: who has a key is taken to use it, which claims too little worth rather
        # than too much.
        how = "key" if live_triggers(keymap, command) else "menu"
        use = Use(log, seat, today, app, "", command, how)
        found[use] = Count(int(row[often]), 0, today, today)
    return found


def _columns_of(
    head: Sequence[str], columns: Mapping[str, str], file: str
) -> tuple[int, int] | None:
    """The columns of the commands and of their times, as they were named or else by their headings; None:
    there are none. Raises ``Refused`` where a named one is not there."""
    heads = [cell.casefold() for cell in head]
    which = next((n for n, h in enumerate(heads) if h in ("command", "title", "what")), None)
    often = next(
        (n for n, h in enumerate(heads) if any(w in h for w in ("times", "week", "count"))), None
    )
    try:
        which = column_named(columns["command"], heads) if "command" in columns else which
        often = column_named(columns["times"], heads) if "times" in columns else often
    except LookupError as error:
        raise Refused(f"The columns cannot be told: {error.args[0]}.", file=file) from error
    if "times" in columns and which is None:
        raise Refused(
            "No heading says which column has the commands.",
            file=file,
            hint="Name it: --column command=HEADING",
        )
    return None if which is None or often is None else (which, often)


def _one_command(app: App, called: str, file: str, line: int) -> str:
    """The id of the one command that a list calls so; raises ``Refused`` with the line."""
    named = command_named(app.catalogue.commands, called, slots=app.rules.slots)
    if len(named.exact) != 1:
        says = f"{app.title} has no one command “{called}”"
        raise Refused(f"{says}; nothing was changed.", file=file, line=line)
    return named.exact[0].id


def takes_back(at: Desk) -> frozenset[tuple[str, str]]:
    """The commands that take back what was done, on the stand-in's word, as any log may call them."""
    return frozenset(
        (app, called)
        for name in at.app_names()
        for command in at.app(name).catalogue.commands
        if act_of(command).verb in ("undo", "cancel")
        for app in (name, at.app(name).title)
        for called in (command.id, command.title)
    )


def changes(at: Desk, before: dict[Use, Count], after: dict[Use, Count]) -> Iterator[FileChange]:
    """The files of tallies that are other than they were."""
    there = set(at.tally_names())
    old = tally_file.by_file(before)
    for path, tally in tally_file.by_file(after).items():
        if old.get(path) != tally:
            now = at.bytes(path) if path in there else None
            yield FileChange(path, now, tally_file.write(tally))
