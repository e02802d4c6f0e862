"""Tallies as ``tallies/<seat>-<year>-W<week>.csv``, and a quick way from logs to them."""

import csv
import io
from collections.abc import Callable, Container, Iterable, Iterator, Mapping
from typing import BinaryIO

from olive_compass.core.usage.counting import Counting
from olive_compass.core.usage.tally import FOLLOWS, Count, Tally, Use
from olive_compass.desk import log_file
from olive_compass.errors import Refused
from olive_compass.values import Value

FORMAT = "olive-compass-tally/1"
FOLDER = "tallies"

_HEAD = (*Use._fields, *Count._fields)


#: After how many bytes it is told how far a count is.
_STEP = 4_000_000


class Counted(Value):
    """What came of a log: its tally, how many events it had, and how many lines were none."""

    tally: Mapping[Use, Count]
    events: int
    passed: int


def read(data: bytes, file: str, follows: bool = True) -> dict[Use, Count]:
    """The tally in a file, without what followed what unless ``follows``. Raises ``Refused`` with the
    line that is none."""
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise Refused("This is not UTF-8 text.", file=file) from error
    first, _, rest = text.partition("\n")
    if first.strip() != f"# {FORMAT}":
        raise Refused(f"A tally begins with “# {FORMAT}”.", file=file, line=1)
    lines: Iterable[str] = io.StringIO(rest, newline="")
    if not follows and '"' not in rest:
        # Half of a tally or more: passed over before it is taken apart.
        lines = (line for line in lines if f",{FOLLOWS}," not in line)
    rows = csv.reader(lines)
    head = next(rows, [])
    if tuple(head) != _HEAD:
        raise Refused(f"A tally has the columns {', '.join(_HEAD)}.", file=file, line=2)
    found = {}
    for row in rows:
        number = rows.line_num + 1
        if not row:
            continue
        try:
            times, undone = int(row[9]), int(row[10])
            use, count = Use(*row[:9]), Count(times, undone, row[11], row[12])
        except (ValueError, IndexError, TypeError) as error:
            raise Refused("This line is no count.", file=file, line=number) from error
        if follows or use.how != FOLLOWS:
            found[use] = count
    return found


def write(tally: Tally) -> bytes:
    """The file of a tally, in a fixed order, so that the same counts are the same bytes."""
    text = io.StringIO()
    text.write(f"# {FORMAT}\n")
    writer = csv.writer(text, lineterminator="\n")
    writer.writerow(_HEAD)
    for use in sorted(tally):
        writer.writerow((*use, *tally[use]))
    return text.getvalue().encode()


def by_file(tally: Tally) -> dict[str, dict[Use, Count]]:
    """The tally by the files that it belongs into: a seat and a week each."""
    from datetime import date

    from olive_compass.core.apps.listing import slug

    found: dict[str, dict[Use, Count]] = {}
    for use, count in tally.items():
        try:
            year, week, _ = date.fromisoformat(use.day).isocalendar()
            name = f"{slug(use.seat) or 'seat'}-{year}-W{week:02}"
        except ValueError:
            name = f"{slug(use.seat) or 'seat'}-undated"
        found.setdefault(f"{FOLDER}/{name}.csv", {})[use] = count
    return found


def log_id(stream: BinaryIO, seat: str) -> str:
    """What names a log: its first two lines and the seat. A log that has grown since is the same one."""
    import hashlib

    start = stream.tell()
    lines = stream.readline(100_000) + stream.readline(100_000)
    stream.seek(start)
    return hashlib.sha256(lines + seat.encode()).hexdigest()[:10]


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


def merged(files: Iterable[tuple[bytes, str]]) -> dict[Use, Count]:
    """All tallies of these files as one."""
    from olive_compass.core.usage.tally import joined

    return joined(read(data, file) for data, file in files)
