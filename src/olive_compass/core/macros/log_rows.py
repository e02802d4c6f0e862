"""Events out of the rows of a log that another application wrote."""

import re
from collections.abc import Mapping, Sequence

from olive_compass.core.apps.listing import Row, SetAside
from olive_compass.core.macros.recording import WAYS, Event

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
    """The events, the rows that give none, and how each column was told.

    ``named`` gives columns by field, as a heading or a number from 1. Columns that are no field
    are inputs of that name. Raises ``LookupError`` where no column of commands can be told.
    """
    body = [row for row in rows if any(row.cells)]
    if not body:
        raise LookupError("it has no rows")
    head = [cell.casefold().strip(" :*") for cell in body[0].cells]
    fields: dict[str, int] = {}
    why: dict[str, str] = {}
    for field, given in named.items():
        if field not in HEADINGS:
            raise LookupError(f"“{field}” is no field of a log; it has {', '.join(HEADINGS)}")
        wanted = given.casefold().strip()
        if wanted.isdigit() and 1 <= int(wanted) <= len(head):
            fields[field] = int(wanted) - 1
        elif wanted in head:
            fields[field] = head.index(wanted)
        else:
            raise LookupError(f"there is no column “{given}”")
        why[field] = "named"
    for field, words in HEADINGS.items():
        for word in words.split():
            if field not in fields and word in head and head.index(word) not in fields.values():
                fields[field] = head.index(word)
                why[field] = f"heading “{body[0].cells[fields[field]]}”"
    if "command" not in fields:
        raise LookupError("no heading says which column has the commands")
    others = {n: head[n] for n in range(len(head)) if n not in fields.values() and head[n]}
    events, aside = [], []
    for row in body[1:]:
        cells = {f: row.cells[n] if n < len(row.cells) else "" for f, n in fields.items()}
        if not cells["command"]:
            aside.append(SetAside(row.line, "row", "it names no command", " | ".join(row.cells)))
            continue
        inputs = _inputs(cells.get("inputs", ""))
        for n, name in others.items():
            if n < len(row.cells) and row.cells[n]:
                inputs[re.sub(r"\W+", "-", name).strip("-")] = row.cells[n]
        how = cells.get("how", "").casefold()
        events.append(
            Event(
                cells.get("time", ""),
                cells.get("app", ""),
                cells.get("version", ""),
                cells.get("mode", "").casefold(),
                cells["command"],
                how if how in WAYS else "key" if cells.get("key") else "menu",
                cells.get("key", ""),
                inputs,
                _outcome(cells.get("outcome", "")),
                (),
                row.line,
            )
        )
    return tuple(events), tuple(aside), why


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
    return "failed" if word.startswith(("fail", "error")) else "done"
