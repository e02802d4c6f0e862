"""Session logs as JSON Lines: a first line about the log, then a line an event.

Logs that other applications wrote, as tables or JSON Lines, are read by the same eyes that read
catalogues: columns are told by their headings, or named.
"""

import json
from collections.abc import Mapping
from typing import Any, NamedTuple

from olive_compass.core.apps.listing import Row, SetAside
from olive_compass.core.macros.log_rows import read_log_rows
from olive_compass.core.macros.recording import Event
from olive_compass.core.plain import escaped
from olive_compass.desk.json_text import loads
from olive_compass.errors import Refused

FORMAT = "olive-compass-log/1"


class Log(NamedTuple):
    """The events of a log, what could not be read, and how its columns were told."""

    events: tuple[Event, ...]
    set_aside: tuple[SetAside, ...] = ()
    why: Mapping[str, str] = {}


def head_line(app: str, version: str, time: str) -> str:
    """The first line of a log."""
    return json.dumps({"format": FORMAT, "app": app, "version": version, "time": time}) + "\n"


def event_line(event: Event) -> str:
    """The line of an event."""
    fields: dict[str, Any] = {
        "time": event.time,
        "app": event.app,
        "version": event.version,
        "mode": event.mode,
        "command": event.command,
        "how": event.how,
        "key": event.key,
        "inputs": dict(event.inputs),
        "outcome": event.outcome,
        "made": list(event.made),
    }
    kept = {name: value for name, value in fields.items() if value}
    return escaped(json.dumps(kept, ensure_ascii=False)) + "\n"


def read(data: bytes, file: str, columns: Mapping[str, str] | None = None) -> Log:
    """The events of a log of ours or of another application's table.

    ``columns`` names columns by heading or number. Raises ``Refused`` where it is no log.
    """
    if FORMAT in data[:400].split(b"\n", 1)[0].decode("utf-8", "replace"):
        return _own(data, file)
    from olive_compass.desk.importing import read_rows

    _, read_ = read_rows(file, data)
    rows = [Row(row.line, tuple(cell.strip() for cell in row.cells)) for row in read_.rows]
    try:
        events, aside, why = read_log_rows(rows, columns or {})
    except LookupError as error:
        raise Refused(
            f"The columns cannot be told: {error.args[0]}.",
            file=file,
            hint="Name it: --column command=HEADING",
        ) from error
    return Log(events, (*read_.set_aside, *aside), why)


def _own(data: bytes, file: str) -> Log:
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise Refused("This is not UTF-8 text.", file=file) from error
    events, aside = [], []
    for number, line in enumerate(text.splitlines(), 1):
        if number == 1 or not line.strip():
            continue
        try:
            entry = loads(line)
        except ValueError:
            entry = None
        if not isinstance(entry, dict) or not isinstance(entry.get("command"), str):
            aside.append(SetAside(number, "event", "it is no event", line[:200]))
            continue
        inputs = entry.get("inputs", {})
        made = entry.get("made", [])
        events.append(
            Event(
                str(entry.get("time", "")),
                str(entry.get("app", "")),
                str(entry.get("version", "")),
                str(entry.get("mode", "")),
                entry["command"],
                str(entry.get("how", "menu")),
                str(entry.get("key", "")),
                {str(k): str(v) for k, v in inputs.items()} if isinstance(inputs, dict) else {},
                str(entry.get("outcome", "done")),
                tuple(map(str, made)) if isinstance(made, list) else (),
                number,
            )
        )
    return Log(tuple(events), tuple(aside))
