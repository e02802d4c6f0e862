"""``usage take``: logs down to tallies, each log once."""

import os
from collections.abc import Iterator
from typing import Any, NamedTuple

from olive_compass.cli import pick
from olive_compass.cli.files import open_file
from olive_compass.cli.keeping import keep
from olive_compass.cli.progress import amount
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.tallies import seat_name, whole_tally
from olive_compass.core.apps.naming import command_named
from olive_compass.core.macros.acts import act_of
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.usage.tally import Count, Use, join
from olive_compass.core.wording import counted
from olive_compass.desk import tally_file
from olive_compass.desk.desk import Desk
from olive_compass.desk.importing import read_rows
from olive_compass.desk.records import FileChange
from olive_compass.errors import Refused


class _Taken(NamedTuple):
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
    if args.cluster:
        from olive_compass.cli.usage.cluster import take_whole

        return take_whole(args, around, at, files, seat)
    files = [each for file in files for each in _inside(around, file)]
    before = whole_tally(at, follows=True)
    known = {use.log for use in before}
    backs = takes_back(at)
    found: dict[Use, Count] = {}
    taken = []
    sizes = {file: _size(around, file) for file in files}
    with amount(around, "Counting", sum(sizes.values())) as tell:
        for file in files:
            one, tally = _one(at, around, file, seat, app, backs, known, tell)
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
    return keep(args, around, at, files_, what, tuple(lines), seat=seat, logs=rows)


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
) -> tuple[_Taken, dict[Use, Count]]:
    """The tally of one file: a log, or a list of commands with how often a week."""
    with open_file(around, file, "The log") as stream:
        log = tally_file.log_id(stream, seat)
        again = log in known
        if listed := _listed(at, around, file, stream, log, seat, app):
            return _Taken(file, sum(c.times for c in listed.values()), 0, again), listed
        found = tally_file.count_log(stream, file, log, seat, backs, app, tell)
    if not found.events:
        raise Refused("There is no event in it; nothing was changed.", file=file)
    if strange := sorted({use.app for use in found.tally} - set(at.app_names())):
        named = {at.app(name).title: name for name in at.app_names()}
        unknown = [each for each in strange if each not in named]
        if unknown:
            says = (
                f"It is of “{unknown[0]}”, which is not on this desk"
                if unknown[0]
                else ("It does not say of which application it is")
            )
            raise Refused(f"{says}; nothing was changed.", file=file, hint="Say it: --app APP")
        tally = {use._replace(app=named.get(use.app, use.app)): c for use, c in found.tally.items()}
        return _Taken(file, found.events, found.passed, again), tally
    return _Taken(file, found.events, found.passed, again), dict(found.tally)


def _listed(
    at: Desk, around: Surroundings, file: str, stream: Any, log: str, seat: str, app: str
) -> dict[Use, Count]:
    """A plain list of commands and times a week, for people without logs; empty where it is none."""
    start = stream.tell()
    head = stream.read(400).decode("utf-8", "replace").split("\n")[0].casefold()
    stream.seek(start)
    if "{" in head or not any(word in head for word in ("times", "a week", "per week", "count")):
        return {}
    _, listing = read_rows(file, stream.read())
    rows = [[cell.strip() for cell in row.cells] for row in listing.rows]
    heads = [cell.casefold() for cell in rows[0]] if rows else []
    which = next((n for n, h in enumerate(heads) if h in ("command", "title", "what")), None)
    often = next(
        (n for n, h in enumerate(heads) if any(w in h for w in ("times", "week", "count"))), None
    )
    if which is None or often is None:
        return {}
    if not app:
        raise Refused("A list of commands does not say whose they are.", hint="Say it: --app APP")
    about = at.app(app)
    keymap = Keymap(at.stack(app), at.keyboard)
    today = around.now().date().isoformat()
    found: dict[Use, Count] = {}
    for row, line in zip(rows[1:], listing.rows[1:], strict=True):
        if len(row) <= max(which, often) or not row[which]:
            continue
        named = command_named(about.catalogue.commands, row[which], slots=about.rules.slots)
        if len(named.exact) != 1:
            says = f"{about.title} has no one command “{row[which]}”"
            raise Refused(f"{says}; nothing was changed.", file=file, line=line.line)
        if not row[often].isdecimal():
            says = f"“{row[often]}” is no number of times a week"
            raise Refused(f"{says}; nothing was changed.", file=file, line=line.line)
        command = named.exact[0].id
        how = "key" if live_triggers(keymap, command) else "menu"
        use = Use(log, seat, today, app, "", command, how)
        found[use] = Count(int(row[often]), 0, today, today)
    return found


def takes_back(at: Desk) -> frozenset[tuple[str, str]]:
    """The commands that take back what was done, on the stand-in's word."""
    return frozenset(
        (name, command.id)
        for name in at.app_names()
        for command in at.app(name).catalogue.commands
        if act_of(command).verb in ("undo", "cancel")
    )


def changes(at: Desk, before: dict[Use, Count], after: dict[Use, Count]) -> Iterator[FileChange]:
    """The files of tallies that are other than they were."""
    there = set(at.tally_names())
    old = tally_file.by_file(before)
    for path, tally in tally_file.by_file(after).items():
        if old.get(path) != tally:
            now = at.bytes(path) if path in there else None
            yield FileChange(path, now, tally_file.write(tally))
