"""``usage take``: logs down to tallies, each log once."""

import os
from collections import Counter
from collections.abc import Callable, Iterator, Mapping, Sequence
from functools import partial
from typing import Any

from msgspec import Struct

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import keep, writing_of
from olive_compass.cli.files import open_file
from olive_compass.cli.looking.tallies import seat_name
from olive_compass.cli.options import Common
from olive_compass.cli.pairs import pairs
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.progress import amount
from olive_compass.cli.usage.logs_named import logs_named
from olive_compass.core.apps.app import App
from olive_compass.core.apps.naming import command_named, logged
from olive_compass.core.macros.acts import act_of
from olive_compass.core.macros.log_rows import column_named
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.usage.tally import SLIP, Count, Tally, Use, added, join, uses
from olive_compass.core.usage.times import Order
from olive_compass.core.wording import counted
from olive_compass.counts import parse_count
from olive_compass.desk import log_counting
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import tally_file
from olive_compass.desk.importing import read_rows
from olive_compass.desk.log_counting import Counted, Foreign, UnclearError
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.tallies import whole_tally
from olive_compass.errors import UserError
from olive_compass.structs import replace

#: The most times a week that anybody does one thing: a hundred thousand is three a second, all day.
MOST_A_WEEK = 100_000


class _Taken(Struct, frozen=True, kw_only=True):
    """What came of one file: how many events it had that were not counted before, lines that are none, and
    whether all of it, or a part, had been counted before."""

    file: str
    events: int
    passed: int
    first: str
    again: bool


class UsageTakeOptions(Common, kw_only=True):
    """What ``usage take`` is told."""

    files: list[str]
    app: str | None
    seat: str
    cluster: str | None
    cluster_timeout: float
    dates: Order | None
    columns: list[str]
    dry_run: bool
    json: bool


def take(args: UsageTakeOptions, context: Surroundings) -> int:
    """Runs ``usage take``."""
    desk = pick.desk(args, context)
    named = logs_named(context, args.files)
    logs = _Logs(
        desk,
        context,
        seat_name(desk, args.seat),
        undo_hint(desk),
        Foreign(
            desk.app_name(args.app) if args.app else "", pairs(args.columns, "FIELD"), args.dates
        ),
    )
    if args.cluster:
        for file, found in logs.count_whole(named.files, args.cluster, args.cluster_timeout):
            logs.add(file, *found)
    else:
        sizes = {file: _size(context, file) for file in named.files}
        with amount(context, "Counting", sum(sizes.values())) as tell:
            for file in named.files:
                logs.add(file, *logs.count(file, tell))
    files_ = list(changes(desk, logs.before, logs.after))
    events = counted(sum(each.events for each in logs.taken), "event")
    new = sum(not each.again for each in logs.taken)
    what = f"Usage: counted {events} of {counted(new, 'log')} at {logs.seat}"
    rows = [
        {"file": e.file, "events": e.events, "passed-over": e.passed, "again": e.again}
        for e in logs.taken
    ]
    lines = tuple(_lines(logs.taken, named.left_out))
    if not files_ and not args.json:
        for line in lines[:-1]:
            context.report(line)
    return keep(writing_of(args), context, desk, files_, what, lines, seat=logs.seat, logs=rows)


def _lines(taken: list[_Taken], left_out: list[str]) -> Iterator[str]:
    for each in taken:
        if each.passed:
            lines = counted(each.passed, "line")
            are = "is no event and was" if each.passed == 1 else "are no events and were"
            yield f"{each.file}: {lines} {are} passed over; {each.first}."
    for each in taken:
        if each.again:
            more = f"; {counted(each.events, 'event')} of it are new" if each.events else ""
            yield f"{each.file} had been counted before{more}."
    if left_out:
        more = f" and {len(left_out) - 3} more" if len(left_out) > 3 else ""
        yield f"Left out, for they are no logs: {', '.join(left_out[:3])}{more}."
    yield "What it says: olive-compass usage APP, and olive-compass savings APP"


class _Logs:
    """Logs of one seat that are counted, one after another, on top of what the desk has."""

    def __init__(
        self,
        desk: Desk,
        context: Surroundings,
        seat: str,
        backs: frozenset[tuple[str, str]],
        foreign: Foreign,
    ) -> None:
        self.at, self.context, self.seat, self.backs, self.foreign = (
            desk,
            context,
            seat,
            backs,
            foreign,
        )
        self.before = whole_tally(desk, follows=True)
        self.after = self.before
        self.taken: list[_Taken] = []
        # A log is known by its first lines: taken twice it counts once, whatever its file is called.
        self._known = {use.log for use in self.before}
        self._moments = dict(_moments(self.before))

    def count(self, file: str, tell: Callable[[int], None]) -> tuple[str, Counted]:
        """The number and the count of one file: a log, or a list of commands with how often a week."""
        with open_file(self.context, file, "The log") as stream:
            log = log_counting.log_id(stream, self.seat)
            listed = _listed(self.at, self.context, file, stream, log, self.seat, self.foreign)
            if listed:
                return log, Counted(
                    tally=listed, events=sum(c.times for c in listed.values()), passed=0
                )
            start = stream.tell()
            arguments = (file, log, self.seat, self.backs)
            try:
                return log, log_counting.count_log(stream, *arguments, self.foreign, tell)
            except UnclearError as error:
                if not self.context.interactive:
                    raise
                order = _asked_order(self.context, error)
            stream.seek(start)
            self.foreign = replace(self.foreign, order=order)
            return log, log_counting.count_log(stream, *arguments, self.foreign, tell)

    def count_whole(
        self, files: list[str], cluster: str, patience: float
    ) -> Iterator[tuple[str, tuple[str, Counted]]]:
        """The same of all files, by other processes or machines."""
        from olive_compass.cli.usage.cluster import count_all, count_file

        paths = {os.path.abspath(os.path.join(self.context.folder, file)): file for file in files}
        of = self.foreign
        work = partial(
            count_file,
            seat=self.seat,
            backs=self.backs,
            app=of.app,
            columns=dict(of.columns),
            order=of.order,
        )
        found = count_all(self.context, list(paths), work, cluster, patience)
        for path, count in found.items():
            yield paths[path], count

    def add(self, file: str, log: str, found: Counted) -> None:
        """Takes what was counted of a file. Raises ``UserError`` where there is nothing in it."""
        if not found.events:
            first = f": {found.first}" if found.first else ""
            raise UserError(f"There is no event in it{first}; nothing was changed.", file=file)
        tally = _by_id(self.at, file, found.tally)
        # A log whose beginning was cut off has other first lines, and is no other log.
        same = log if log in self._known else self._same_moments(tally)
        if same and same != log:
            tally = {replace(use, log=same): count for use, count in tally.items()}
        before = _times(self.after)
        self.after = join(self.after, tally)
        events = _times(self.after) - before if same else found.events
        self.taken.append(
            _Taken(
                file=file, events=events, passed=found.passed, first=found.first, again=bool(same)
            )
        )
        self._known.add(same or log)
        self._moments.update(_moments(tally))

    def _same_moments(self, tally: Tally) -> str:
        """The log in which most of these commands were last done at the very same moments, ``""``: none."""
        logs = Counter(
            self._moments[moment] for moment, _ in _moments(tally) if moment in self._moments
        )
        if logs:
            return min(logs, key=lambda log: (-logs[log], log))
        return ""


def _times(tally: Tally) -> int:
    return sum(count.times for _, count in uses(tally))


def _moments(tally: Tally) -> Iterator[tuple[tuple[str, ...], str]]:
    """When each command was last done in each way, to the second, and the log that says so."""
    for use, count in uses(tally):
        # A plain list of sums has days, and no moments.
        if len(count.last) > len("2026-11-02T09:00"):
            yield (use.seat, use.app, use.mode, use.command, use.how, use.key, count.last), use.log


def _asked_order(context: Surroundings, error: UnclearError) -> Order:
    context.say(f"{error.file}:{error.line}: “{error.example}”")
    answer = context.ask("Does it begin with the day? [y/n]").strip().lower()
    if answer not in ("y", "yes", "n", "no"):
        raise error
    return "day-first" if answer[0] == "y" else "month-first"


def _size(context: Surroundings, file: str) -> int:
    try:
        return os.path.getsize(os.path.join(context.folder, file))
    except OSError:
        return 0


def _by_id(desk: Desk, file: str, tally: Tally) -> dict[Use, Count]:
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
        app = apps[use.app]
        after = use.after if use.how == SLIP else ours(app, use.after)
        home = replace(use, app=app, command=ours(app, use.command), after=after)
        one = found.get(home)
        found[home] = count if one is None else added(one, count)
    return found


def _listed(
    desk: Desk,
    context: Surroundings,
    file: str,
    stream: Any,
    log: str,
    seat: str,
    foreign: Foreign,
) -> dict[Use, Count]:
    """A plain list of commands and times a week, for people without logs; empty where it is none."""
    start = stream.tell()
    head = stream.read(400).decode("utf-8", "replace").split("\n")[0].casefold()
    stream.seek(start)
    # A log has a line an event: only a list of sums says so in its headings.
    told = any(word in head for word in ("times", "a week", "per week", "count"))
    app, columns = foreign.app, foreign.columns
    if "times" not in columns and ("{" in head or not told):
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
        if row[often] != "0" and not 0 < parse_count(row[often]) <= MOST_A_WEEK:
            says = f"“{row[often][:40]}” is no number of times a week (at most {MOST_A_WEEK:,})"
            raise UserError(f"{says}; nothing was changed.", file=file, line=line)
        # Such a list does not say how: what nobody saw pressed is taken for chosen from the menu.
        how = "menu"
        use = Use(log=log, seat=seat, day=today, app=app, mode="", command=command, how=how)
        found[use] = Count(times=int(row[often]), undone=0, first=today, last=today)
    return found


def _columns_of(
    head: Sequence[str], columns: Mapping[str, str], file: str
) -> tuple[int, int] | None:
    """The columns of the commands and of their times, as they were named or else by their headings; None:
    there are none. Raises ``UserError`` where a named one is not there."""
    heads = [cell.casefold() for cell in head]
    which = next((n for n, h in enumerate(heads) if h in ("command", "title", "what")), None)
    often = next(
        (n for n, h in enumerate(heads) if any(w in h for w in ("times", "week", "count"))), None
    )
    try:
        which = column_named(columns["command"], heads) if "command" in columns else which
        often = column_named(columns["times"], heads) if "times" in columns else often
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


def _one_command(app: App, called: str, file: str, line: int) -> str:
    """The id of the one command that a list calls so; raises ``UserError`` with the line."""
    named = command_named(app.catalogue.commands, called, slots=app.rules.slots)
    if len(named.exact) != 1:
        says = f"{app.title} has no one command “{called}”"
        raise UserError(f"{says}; nothing was changed.", file=file, line=line)
    return named.exact[0].id


def undo_hint(desk: Desk) -> frozenset[tuple[str, str]]:
    """The commands that take back what was done, on the stand-in's word, as any log may call them."""
    return frozenset(
        (app, called)
        for name in desk.app_names()
        for command in desk.app(name).catalogue.commands
        if act_of(command).verb in ("undo", "cancel")
        for app in (name, desk.app(name).title)
        for called in (command.id, command.title)
    )


def changes(desk: Desk, before: dict[Use, Count], after: dict[Use, Count]) -> Iterator[FileChange]:
    """The files of tallies that are other than they were."""
    there = set(desk.tally_names())
    old = tally_file.by_file(before)
    for path, tally in tally_file.by_file(after).items():
        if old.get(path) != tally:
            now = desk.bytes(path) if path in there else None
            if now is not None:
                # A line that is none would be lost when the file is written anew.
                tally_file.read(now, path)
            yield FileChange(path, now, tally_file.write(tally))
