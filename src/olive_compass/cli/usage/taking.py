"""``usage take``: logs down to tallies, each log once."""

import os
from collections import Counter
from collections.abc import Callable, Iterator
from functools import partial

from msgspec import Struct

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import keep, writing_of
from olive_compass.cli.files import open_file
from olive_compass.cli.looking.tallies import seat_name
from olive_compass.cli.options import WriteOptions
from olive_compass.cli.pairs import pairs
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.progress import amount
from olive_compass.cli.usage.listed_counts import by_id, listed_counts
from olive_compass.core.apps.modes import joined
from olive_compass.core.usage.tally import Tally, join, moments, times_of
from olive_compass.core.usage.times import Order
from olive_compass.core.wording import by_number, clause, counted
from olive_compass.desk import log_counting
from olive_compass.desk.desk import Desk
from olive_compass.desk.log_counting import Counted, Foreign, UnclearError, undo_hint
from olive_compass.desk.logs_named import logs_named
from olive_compass.desk.storage.plain_file import size_of
from olive_compass.desk.tallies import changed_tallies, whole_tally
from olive_compass.errors import UserError
from olive_compass.structs import replace


class _Taken(Struct, frozen=True, kw_only=True):
    """What came of one file: how many events it had that were not counted before, lines that are none, and
    whether all of it, or a part, had been counted before."""

    file: str
    events: int
    passed: int
    first: str
    again: bool


class UsageTakeOptions(WriteOptions, kw_only=True):
    """The options of ``usage take``."""

    files: list[str]
    app: str | None
    seat: str
    cluster: str | None
    cluster_timeout: float
    dates: Order | None
    columns: list[str]


def take(args: UsageTakeOptions, context: Surroundings) -> int:
    """Runs ``usage take``."""
    desk = pick.desk(args, context)
    named = logs_named(context.folder, args.files)
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
        sizes = {file: size_of(os.path.join(context.folder, file)) for file in named.files}
        with amount(context, "Counting", sum(sizes.values())) as tell:
            for file in named.files:
                logs.add(file, *logs.count(file, tell))
    files_ = list(changed_tallies(desk, logs.before, logs.after))
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
            are = by_number(each.passed, "is no event and was", "are no events and were")
            yield f"{each.file}: {lines} {are} passed over; {each.first}."
    for each in taken:
        if each.again:
            more = ""
            if each.events:
                more = f"; {counted(each.events, 'event')} of it are new"
            yield f"{each.file} had been counted before{more}."
    if left_out:
        yield f"Left out, for they are no logs: {joined(left_out, 3)}."
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
        self._moments = dict(moments(self.before))

    def count(self, file: str, tell: Callable[[int], None]) -> tuple[str, Counted]:
        """The number and the count of one file: a log, or a list of commands with how often a week."""
        with open_file(self.context, file, "The log") as stream:
            log = log_counting.log_id(stream, self.seat)
            listed = listed_counts(
                self.at, self.context, file, stream, log, self.seat, self.foreign
            )
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
            first = clause(": {}", found.first)
            raise UserError(f"There is no event in it{first}; nothing was changed.", file=file)
        tally = by_id(self.at, file, found.tally)
        # A log whose beginning was cut off has other first lines, and is no other log.
        if log in self._known:
            same = log
        else:
            same = self._same_moments(tally)
        if same and same != log:
            tally = {replace(use, log=same): count for use, count in tally.items()}
        before = times_of(self.after)
        self.after = join(self.after, tally)
        if same:
            events = times_of(self.after) - before
        else:
            events = found.events
        self.taken.append(
            _Taken(
                file=file, events=events, passed=found.passed, first=found.first, again=bool(same)
            )
        )
        self._known.add(same or log)
        self._moments.update(moments(tally))

    def _same_moments(self, tally: Tally) -> str:
        """The log in which most of these commands were last done at the very same moments, ``""``: none."""
        logs = Counter(
            self._moments[moment] for moment, _ in moments(tally) if moment in self._moments
        )
        if logs:
            return min(logs, key=lambda log: (-logs[log], log))
        return ""


def _asked_order(context: Surroundings, error: UnclearError) -> Order:
    context.say(f"{error.file}:{error.line}: “{error.example}”")
    answer = context.ask("Does it begin with the day? [y/n]").strip().lower()
    if answer not in ("y", "yes", "n", "no"):
        raise error
    if answer[0] == "y":
        return "day-first"
    return "month-first"
