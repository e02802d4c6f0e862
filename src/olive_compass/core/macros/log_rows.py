"""Events out of the rows of a log that another application wrote."""

import re
from collections.abc import Mapping, Sequence

from olive_compass.core.apps.listing_result import SetAside
from olive_compass.core.apps.listing_row import Row
from olive_compass.core.macros.recording import WAYS, Event
from olive_compass.counts import parse_count

#: Words of headings for each field of an event (lower case), the surest first.
HEADINGS = {
    "command": "command action function operation tool id name title befehl",
    "time": "time when timestamp date zeit",
    "mode": "mode context state",
    "how": "how source via by started origin",
    "key": "key keys shortcut trigger",
    "inputs": "inputs input arguments args parameters params values details",
    "outcome": "outcome result status ended",
    "app": "app application program",
    "version": "version release",
}


def read_log_rows(
    rows: Sequence[Row], named: Mapping[str, str]
) -> tuple[tuple[Event, ...], tuple[SetAside, ...], dict[str, str]]:
    """The events, the rows that give none, and how each column was recognised.

    ``named`` gives columns by field, as a heading or a number from 1. Columns that are no field
    are inputs of that name. Raises ``LookupError`` where no column of commands can be told.
    """
    body = [row for row in rows if any(row.cells)]
    if not body:
        raise LookupError("it has no rows")
    head = [cell.casefold().strip(" :*") for cell in body[0].cells]
    fields = {field: _named(field, given, head) for field, given in named.items()}
    why = dict.fromkeys(fields, "named")
    for field, column in _told(head, fields).items():
        fields[field] = column
        why[field] = f"heading “{body[0].cells[column]}”"
    if "command" not in fields:
        raise LookupError("no heading says which column has the commands")
    # What a log says beside is what the command was given: points, values, names.
    others = {n: text for n, text in enumerate(head) if text and n not in fields.values()}
    events, aside = [], []
    for row in body[1:]:
        event = _event(row, fields, others)
        if event.command:
            events.append(event)
        else:
            aside.append(_unnamed(row))
    return tuple(events), tuple(aside), why


def _unnamed(row: Row) -> SetAside:
    """A row that is set aside because no event can be made of it."""
    text = " | ".join(row.cells)
    return SetAside(line=row.line, what="row", why="it names no command", text=text)


def _named(field: str, given: str, head: Sequence[str]) -> int:
    """The column that a person named for a field, by its heading or its number from 1."""
    if field not in HEADINGS:
        raise LookupError(f"“{field}” is no field of a log; it has {', '.join(HEADINGS)}")
    return column_named(given, head)


def column_named(given: str, head: Sequence[str]) -> int:
    """The column of a small-lettered heading, or of a number from 1; ``LookupError`` where there is none."""
    wanted = given.casefold().strip()
    if 1 <= parse_count(wanted) <= len(head):
        return parse_count(wanted) - 1
    if wanted in head:
        return head.index(wanted)
    raise LookupError(f"there is no column “{given}”")


def _told(head: Sequence[str], fields: Mapping[str, int]) -> dict[str, int]:
    """The columns of the other fields, told by their headings; each is taken once."""
    found: dict[str, int] = {}
    for field, words in HEADINGS.items():
        if field in fields:
            continue
        taken = {*fields.values(), *found.values()}
        columns = (head.index(word) for word in words.split() if word in head)
        column = next((column for column in columns if column not in taken), None)
        if column is not None:
            found[field] = column
    return found


def _event(row: Row, fields: Mapping[str, int], others: Mapping[int, str]) -> Event:
    """The event of a row; without a command where the row names none."""

    def cell(column: int | None) -> str:
        if column is None:
            return ""
        return row.cell(column)

    cells = {field: cell(fields.get(field)) for field in HEADINGS}
    inputs = _inputs(cells["inputs"])
    for column, name in others.items():
        if cell(column):
            inputs[re.sub(r"\W+", "-", name).strip("-")] = cell(column)
    how = cells["how"].casefold()
    return Event(
        time=cells["time"],
        app=cells["app"],
        version=cells["version"],
        mode=cells["mode"].casefold(),
        command=cells["command"],
        how=how if how in WAYS else "key" if cells["key"] else "menu",
        key=cells["key"],
        inputs=inputs,
        outcome=_outcome(cells["outcome"]),
        made=(),
        line=row.line,
    )


def _inputs(cell: str) -> dict[str, str]:
    """The inputs in one cell: ``at=120,80; text=Sule Point``."""
    found = {}
    for part in cell.split(";"):
        name, sign, value = part.partition("=")
        if sign and name.strip():
            found[name.strip()] = value.strip()
    return found


def _outcome(cell: str) -> str:
    word = cell.casefold()
    if word.startswith(("cancel", "abort", "abandon", "escape")):
        return "cancelled"
    if word.startswith(("fail", "error")):
        return "failed"
    return "done"
