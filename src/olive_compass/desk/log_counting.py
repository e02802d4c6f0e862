"""A quick way from logs to tallies: an event is counted as it is read, and nothing of a log is held."""

from collections.abc import Callable, Container, Iterator, Mapping
from datetime import datetime
from hashlib import sha256
from types import MappingProxyType
from typing import Annotated, BinaryIO

import msgspec
from msgspec import Struct

from olive_compass.core.macros.acts import act_of
from olive_compass.core.usage.counting import Counting
from olive_compass.core.usage.tally import Count, Use
from olive_compass.core.usage.times import (
    AmbiguousError,
    NoTimeError,
    Order,
    is_ours,
    iso_time,
    order_of,
)
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import log_file
from olive_compass.errors import UserError
from olive_compass.structs import uninterrupted

#: After how many bytes it is told how far a count is.
_STEP = 4_000_000


#: The longest field of an event, in characters: what is longer is no name of anything.
LONGEST = 1_000


class Counted(Struct, frozen=True, kw_only=True):
    """What came of a log: its tally, how many events it had, how many lines were none, and what is wrong
    with the first of those (``line 7: …``)."""

    tally: Mapping[Use, Count]
    events: int
    passed: int
    first: str = ""


class Foreign(Struct, frozen=True):
    """How the log of another application is read: whose it is where it does not say, which columns hold
    what, and which comes first in its dates."""

    app: str = ""
    columns: Mapping[str, str] = MappingProxyType({})
    order: Order | None = None


_OURS = Foreign()


class _Passed:
    """The lines that are no events: how many, and the first of them."""

    def __init__(self) -> None:
        self.count = 0
        self.first = ""

    def add(self, line: int, why: str) -> None:
        self.count += 1
        self.first = self.first or f"line {line}: {why}"


def log_id(stream: BinaryIO, seat: str) -> str:
    """What names a log: its first two lines and the seat. A log that has grown since is the same one."""
    start = stream.tell()
    lines = stream.readline(100_000) + stream.readline(100_000)
    stream.seek(start)
    return sha256(lines + seat.encode()).hexdigest()[:10]


def count_log(
    stream: BinaryIO,
    file: str,
    log: str,
    seat: str,
    undo_hint: Container[tuple[str, str]] = frozenset(),
    foreign: Foreign = _OURS,
    tell: Callable[[int], None] = lambda _size: None,
) -> Counted:
    """The tally of an open log, of ours or of another application. ``tell`` is called now and then with
    the bytes that were read since. Raises ``UserError`` where it is no log, or nothing tells its dates."""
    counting = Counting(log, seat, undo_hint)
    passed = _Passed()
    events = 0
    for time, app, mode, command, how, key, outcome in _fields(stream, file, passed, tell, foreign):
        counting.add(time, app or foreign.app, mode, command, how, key, outcome)
        events += 1
    return Counted(tally=counting.tally, events=events, passed=passed.count, first=passed.first)


_Fields = tuple[str, str, str, str, str, str, str]


def _fields(
    stream: BinaryIO,
    file: str,
    passed: _Passed,
    tell: Callable[[int], None],
    foreign: Foreign,
) -> Iterator[_Fields]:
    """The fields of each event that are counted. Nothing of a log of ours is held."""
    start = stream.tell()
    head = stream.readline(100_000)
    if log_file.FORMAT.encode() in head[:400]:
        yield from _of_ours(stream, passed, tell)
    else:
        stream.seek(start)
        yield from _of_others(
            log_file.read(stream.read(), file, foreign.columns), passed, foreign.order, file
        )


def _of_ours(stream: BinaryIO, passed: _Passed, tell: Callable[[int], None]) -> Iterator[_Fields]:
    # Made here: its checks are worked out when it is first used, and only counting uses it.
    text = Annotated[str, msgspec.Meta(max_length=LONGEST)]

    class Line(msgspec.Struct, kw_only=True):
        command: text
        time: str = ""
        app: text = ""
        mode: text = ""
        how: text = "menu"
        key: text = ""
        outcome: str = "done"

    with uninterrupted():
        decode = msgspec.json.Decoder(Line).decode
    days: dict[str, bool] = {}
    size = 0
    for number, raw in enumerate(stream, 2):
        size += len(raw)
        if size > _STEP:
            tell(size)
            size = 0
        try:
            line = decode(raw)
        except (msgspec.MsgspecError, UnicodeDecodeError, RecursionError) as error:
            if raw.strip():
                too_long = isinstance(error, msgspec.ValidationError) and "length" in str(error)
                passed.add(number, "a field is too long" if too_long else "it is no event")
            continue
        if not is_ours(line.time, days):
            passed.add(number, f"“{line.time[:40]}” is no time as logs of ours have it (ISO 8601)")
            continue
        yield line.time, line.app, line.mode, line.command, line.how, line.key, line.outcome


def _of_others(
    log: log_file.Log, passed: _Passed, order: Order | None, file: str
) -> Iterator[_Fields]:
    for each in log.set_aside:
        passed.add(each.line, each.why)
    zone = datetime.now().astimezone().tzinfo
    try:
        order = order or order_of(event.time for event in log.events)
    except AmbiguousError as error:
        (example,) = error.args
        line = next(event.line for event in log.events if event.time == example)
        raise UnclearError(example, file, line) from error
    for e in log.events:
        try:
            time = iso_time(e.time, order, zone)
        except NoTimeError as error:
            passed.add(e.line, str(error))
            continue
        fields = (e.app, e.mode, e.command, e.how, e.key, e.outcome)
        if max(map(len, fields)) > LONGEST:
            passed.add(e.line, "a field is too long")
            continue
        yield time, *fields


class UnclearError(UserError):
    """A log whose dates can be read in two ways: an example of them."""

    def __init__(self, example: str, file: str, line: int) -> None:
        super().__init__(
            f"“{example}” may begin with the day or with the month, and no date of this log tells; "
            "nothing was changed.",
            file=file,
            line=line,
            hint="Say which: --dates day-first, or --dates month-first.",
        )
        self.example = example


def undo_hint(desk: Desk) -> frozenset[tuple[str, str]]:
    """The commands that take back what was done, on the simulator's word, as any log may call them."""
    return frozenset(
        (app, called)
        for name in desk.app_names()
        for command in desk.app(name).catalogue.commands
        if act_of(command).verb in ("undo", "cancel")
        for app in (name, desk.app(name).title)
        for called in (command.id, command.title)
    )
