"""A quick way from logs to tallies: an event is counted as it is read, and nothing of a log is held."""

from collections.abc import Callable, Container, Iterator, Mapping
from hashlib import sha256
from typing import BinaryIO

from msgspec import Struct

from olive_compass.core.usage.counting import Counting
from olive_compass.core.usage.tally import Count, Use
from olive_compass.desk import log_file

#: After how many bytes it is told how far a count is.
_STEP = 4_000_000


class Counted(Struct, frozen=True):
    """What came of a log: its tally, how many events it had, and how many lines were none."""

    tally: Mapping[Use, Count]
    events: int
    passed: int


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
    takes_back: Container[tuple[str, str]] = frozenset(),
    app: str = "",
    tell: Callable[[int], None] = lambda size: None,
    columns: Mapping[str, str] | None = None,
) -> Counted:
    """The tally of an open log, of ours or of another application; ``app``: whose it is where it does
    not say. ``tell`` is called now and then with the bytes that were read since. ``columns`` names those of
    another application's table by heading or number."""
    counting = Counting(log, seat, takes_back)
    add = counting.add
    passed = [0]
    events = 0
    for time, of, mode, command, how, key, outcome in _fields(stream, file, passed, tell, columns):
        add(time, of or app, mode, command, how, key, outcome)
        events += 1
    return Counted(counting.tally, events, passed[0])


def _fields(
    stream: BinaryIO,
    file: str,
    passed: list[int],
    tell: Callable[[int], None],
    columns: Mapping[str, str] | None,
) -> Iterator[tuple[str, str, str, str, str, str, str]]:
    """The fields of each event that are counted. Nothing of the log is held; ``passed`` counts the
    lines that are no events."""
    start = stream.tell()
    head = stream.readline(100_000)
    if log_file.FORMAT.encode() not in head[:400]:
        stream.seek(start)
        for e in log_file.events(stream, file, columns):
            yield e.time, e.app, e.mode, e.command, e.how, e.key, e.outcome
        return
    import msgspec

    class Line(msgspec.Struct):
        command: str
        time: str = ""
        app: str = ""
        mode: str = ""
        how: str = "menu"
        key: str = ""
        outcome: str = "done"

    decode = msgspec.json.Decoder(Line).decode
    size = 0
    for raw in stream:
        size += len(raw)
        if size > _STEP:
            tell(size)
            size = 0
        try:
            line = decode(raw)
        except (msgspec.MsgspecError, UnicodeDecodeError):
            passed[0] += bool(raw.strip())
            continue
        yield line.time, line.app, line.mode, line.command, line.how, line.key, line.outcome
