"""Session logs as JSON Lines: a first line about the log, then a line an event.

Logs that other applications wrote, as tables or JSON Lines, are read by the same eyes that read
catalogues: columns are recognised by their headings, or named.
"""

import io
import json
from collections.abc import Iterator, Mapping
from typing import BinaryIO, Literal

from msgspec import Struct

from olive_compass.core.apps.listing_result import SetAside
from olive_compass.core.apps.listing_row import Row
from olive_compass.core.macros.log_rows import read_log_rows
from olive_compass.core.macros.recording import Event
from olive_compass.core.plain import escaped
from olive_compass.desk.texts.json_text import loads
from olive_compass.desk.texts.schemas import Format
from olive_compass.errors import UserError
from olive_compass.structs import convert, replace, to_builtins

FORMAT = "olive-compass-log/1"

#: The longest line of a log of ours, in bytes.
_LONGEST = 1_000_000


class HeadLine(Format, frozen=True, kw_only=True):
    """The first line of a log: what it is of."""

    format: Literal["olive-compass-log/1"]
    app: str = ""
    version: str = ""
    time: str = ""


class EventLine(Format, frozen=True, kw_only=True, omit_defaults=True):
    """A line of a log: a command that was started, how, with which inputs, and what came of it."""

    time: str = ""
    app: str = ""
    version: str = ""
    mode: str = ""
    command: str
    how: str = ""
    key: str = ""
    inputs: Mapping[str, str] = {}
    outcome: str = ""
    made: tuple[str, ...] = ()


class Log(Struct, frozen=True):
    """The events of a log, what could not be read, and how its columns were told."""

    events: tuple[Event, ...]
    set_aside: tuple[SetAside, ...] = ()
    why: Mapping[str, str] = {}


def head_line(app: str, version: str, time: str) -> str:
    """The first line of a log."""
    return json.dumps({"format": FORMAT, "app": app, "version": version, "time": time}) + "\n"


def event_line(event: Event) -> str:
    """The line of an event."""
    line = convert(event, EventLine, from_attributes=True)
    return escaped(json.dumps(to_builtins(line), ensure_ascii=False)) + "\n"


def read(data: bytes, file: str, columns: Mapping[str, str] | None = None) -> Log:
    """The events of a log of ours or of another application's table.

    ``columns`` names columns by heading or number. Raises ``UserError`` where it is no log.
    """
    return read_stream(io.BytesIO(data), file, columns)


def read_stream(
    stream: BinaryIO,
    file: str,
    columns: Mapping[str, str] | None = None,
    first: int = 1,
    last: int | None = None,
) -> Log:
    """The same of an open file, and only the lines from ``first`` to ``last``.

    A log of ours is read no further than that; of what comes before, nothing is kept.
    """
    head = stream.readline(_LONGEST)
    if FORMAT in head[:400].decode("utf-8", "replace"):
        events: list[Event] = []
        aside: list[SetAside] = []
        for each in entries(stream, first):
            if last is not None and each.line > last:
                break
            (events if isinstance(each, Event) else aside).append(each)  # type: ignore[arg-type]
        return Log(tuple(events), tuple(aside))
    log = _foreign(head + stream.read(), file, columns)
    end = last or max((event.line for event in log.events), default=0)
    return replace(log, events=tuple(e for e in log.events if first <= e.line <= end))


def events(
    stream: BinaryIO, file: str, columns: Mapping[str, str] | None = None
) -> Iterator[Event]:
    """All events of an open log; those of one of ours are never held together."""
    head = stream.readline(_LONGEST)
    if FORMAT in head[:400].decode("utf-8", "replace"):
        yield from (each for each in entries(stream) if isinstance(each, Event))
    else:
        yield from _foreign(head + stream.read(), file, columns).events


def entries(stream: BinaryIO, first: int = 1) -> Iterator[Event | SetAside]:
    """The events of a log of ours behind its first line, one after another, and what is none.

    Lines before ``first`` are passed over unread.
    """
    number = 1
    while line := stream.readline(_LONGEST):
        number += 1
        if len(line) == _LONGEST and not line.endswith(b"\n"):
            while (rest := stream.readline(_LONGEST)) and not rest.endswith(b"\n"):
                pass
            yield SetAside(
                line=number,
                what="event",
                why="the line is too long",
                text=line[:200].decode(errors="replace"),
            )
        elif number >= first and line.strip():
            yield _entry(number, line)


def _foreign(data: bytes, file: str, columns: Mapping[str, str] | None) -> Log:
    from olive_compass.desk.importing import read_rows

    _, read_ = read_rows(file, data)
    rows = [
        Row(line=row.line, cells=tuple(cell.strip() for cell in row.cells)) for row in read_.rows
    ]
    try:
        events, aside, why = read_log_rows(rows, columns or {})
    except LookupError as error:
        raise UserError(
            f"It is not clear which column is which: {error.args[0]}.",
            file=file,
            hint="Name it: --column command=HEADING",
        ) from error
    return Log(events, (*read_.set_aside, *aside), why)


def _entry(number: int, line: bytes) -> Event | SetAside:
    """The event in a line of a log of ours."""
    text = line.decode("utf-8", "replace").rstrip("\r\n")
    try:
        entry = loads(text)
    except ValueError:
        entry = None
    if not isinstance(entry, dict) or not isinstance(entry.get("command"), str):
        return SetAside(line=number, what="event", why="it is no event", text=text[:200])
    inputs = entry.get("inputs", {})
    made = entry.get("made", [])
    return Event(
        time=str(entry.get("time", "")),
        app=str(entry.get("app", "")),
        version=str(entry.get("version", "")),
        mode=str(entry.get("mode", "")),
        command=entry["command"],
        how=str(entry.get("how", "menu")),
        key=str(entry.get("key", "")),
        inputs={str(k): str(v) for k, v in inputs.items()} if isinstance(inputs, dict) else {},
        outcome=str(entry.get("outcome", "done")),
        made=tuple(map(str, made)) if isinstance(made, list) else (),
        line=number,
    )
