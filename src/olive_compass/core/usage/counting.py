"""Counts events, one after another: what is held is as large as what differs, not as the log."""

from collections.abc import Container, Iterable

from msgspec import Struct

from olive_compass.core.macros.recording import Event
from olive_compass.core.usage.tally import FOLLOWS, SLIP, Count, Use, monday_of

#: Within how many seconds what takes a press back makes it a slip. Our own choice: who meant a press
#: looks at what it did before taking it back.
AT_ONCE = 2.0

#: The words that commands which take back have at the end of their ids.
_TAKE_BACK = ("undo", "cancel", "abandon", "stop")


class _Sum(Struct, kw_only=True):
    """A count that still grows."""

    times: int
    undone: int
    first: str
    last: str


class Counting:
    """A count under way: of one log of one seat.

    ``undo_hint`` are the commands that take back, as ``(app, command)``; those whose id ends in
    such a word count as well.
    """

    def __init__(
        self, log: str, seat: str, undo_hint: Container[tuple[str, str]] = frozenset()
    ) -> None:
        self.log, self.seat = log, seat
        self.undo_hint = undo_hint
        self._counts: dict[tuple[str, ...], _Sum] = {}
        self._follows: dict[tuple[str, ...], int] = {}
        self._slips: dict[tuple[str, ...], int] = {}
        self._before: tuple[str, str, str, str, str, str] | None = None
        self._slipped: tuple[str, str, str, str] | None = None
        self._known: dict[tuple[str, str], bool] = {}
        self._weeks: dict[str, str] = {}

    def add(
        self, time: str, app: str, mode: str, command: str, how: str, key: str, outcome: str
    ) -> None:
        """Counts one event. What a macro did itself was not reached for, and is left out."""
        if how == "macro":
            return
        before = self._before
        if before is not None and (outcome == "cancelled" or self._is_back(app, command)):
            back = None
            if outcome != "cancelled" or before[2] == command:
                back = before
            if back and back[1] == app and _seconds(back[0], time) <= AT_ONCE:
                self._undo(back)
        elif self._slipped is not None:
            self._after_a_slip(app, key)
        self._count((time[:10], app, mode, command, how, key), time)
        if before is not None and before[1] == app:
            pair = (self._week(time[:10]), app, command, before[2])
            self._follows[pair] = self._follows.get(pair, 0) + 1
        self._before = (time, app, command, mode, how, key)

    def _count(self, use: tuple[str, str, str, str, str, str], time: str) -> None:
        """One use more; the first and the last are those by the clock, in whatever order events come."""
        count = self._counts.get(use)
        if count is None:
            self._counts[use] = _Sum(times=1, undone=0, first=time, last=time)
            return
        count.times += 1
        if time > count.last:
            count.last = time
        elif time < count.first:
            count.first = time

    def _week(self, day: str) -> str:
        """The day on which the week of ``day`` begins: what followed what is counted by the week."""
        known = self._weeks.get(day)
        if known is None:
            try:
                known = monday_of(day)
            except ValueError:
                known = day
            self._weeks[day] = known
        return known

    def _is_back(self, app: str, command: str) -> bool:
        known = self._known.get((app, command))
        if known is None:
            last = command.replace("-", ".").rpartition(".")[2].casefold()
            known = (app, command) in self.undo_hint or last in _TAKE_BACK
            self._known[app, command] = known
        return known

    def _undo(self, before: tuple[str, str, str, str, str, str]) -> None:
        time, app, command, mode, how, key = before
        count = self._counts.get((time[:10], app, mode, command, how, key))
        if count is not None and not self._is_back(app, command):
            count.undone += 1
            if key:
                self._slipped = (time, app, command, key)
            else:
                self._slipped = None

    def _after_a_slip(self, app: str, key: str) -> None:
        """What was pressed once a slip was taken back: that it was meant is likely."""
        assert self._slipped is not None
        when, where, command, wrong = self._slipped
        self._slipped = None
        if key and key != wrong and where == app:
            slip = (when[:10], app, command, wrong, key)
            self._slips[slip] = self._slips.get(slip, 0) + 1

    @property
    def tally(self) -> dict[Use, Count]:
        """What was counted so far."""
        found: dict[Use, Count] = {}
        for (day, app, mode, command, how, key), count in self._counts.items():
            use = Use(
                log=self.log,
                seat=self.seat,
                day=day,
                app=app,
                mode=mode,
                command=command,
                how=how,
                key=key,
            )
            found[use] = Count(
                times=count.times, undone=count.undone, first=count.first, last=count.last
            )
        for (day, app, command, before), times in self._follows.items():
            use = Use(
                log=self.log,
                seat=self.seat,
                day=day,
                app=app,
                mode="",
                command=command,
                how=FOLLOWS,
                key="",
                after=before,
            )
            found[use] = Count(times=times, undone=0, first="", last="")
        for (day, app, command, wrong, key), times in self._slips.items():
            use = Use(
                log=self.log,
                seat=self.seat,
                day=day,
                app=app,
                mode="",
                command=command,
                how=SLIP,
                key=wrong,
                after=key,
            )
            found[use] = Count(times=times, undone=times, first="", last="")
        return found


def tally_of(
    events: Iterable[Event],
    log: str,
    seat: str,
    undo_hint: Container[tuple[str, str]] = frozenset(),
) -> dict[Use, Count]:
    """The tally of the events of one log."""
    counting = Counting(log, seat, undo_hint)
    for e in events:
        counting.add(e.time, e.app, e.mode, e.command, e.how, e.key, e.outcome)
    return counting.tally


def _seconds(before: str, after: str) -> float:
    """The seconds between two times of a log; far apart where one cannot be read."""
    from datetime import datetime

    try:
        return abs((datetime.fromisoformat(after) - datetime.fromisoformat(before)).total_seconds())
    except (ValueError, TypeError):
        return 1e9
