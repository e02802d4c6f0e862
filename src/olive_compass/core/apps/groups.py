"""Tells the rows that are group headings from those that are commands."""

import re
from collections.abc import Sequence
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from olive_compass.core.apps.listing import Row

_DECORATED = re.compile(r"^\s*(?:[-=#*_~\[(]{1,}\s*)(.*?)(?:\s*[-=#*_~\])]{0,})\s*$")


def group_rows(rows: Sequence["Row"], fields: dict[str, int], how: str) -> dict[int, str]:
    """The lines that are group headings, with the group's name.

    A heading has one cell with text in it. It is told by its mark-up, by a colon or dashes
    around it, by standing outside the title column, by being in capitals where titles are
    not, or by being followed by a full row each time; ``how`` is ``guess``, ``yes`` (every
    row with one cell is a heading) or ``no`` (only marked ones are).
    """
    single = {n: _only_cell(row.cells, fields.get("keys", -1)) for n, row in enumerate(rows)}
    alone = [n for n, cell in single.items() if cell is not None]
    wide = any(sum(map(bool, row.cells)) > 1 for row in rows)
    found: dict[int, str] = {}
    capitals = sum(_title(row, fields).isupper() for row in rows) * 5 < len(rows)
    runs = sum(1 for n in alone if single.get(n + 1) is not None)
    spaced = wide and len(alone) > 1 and runs == 0 and len(alone) * 2 <= len(rows)
    for n in alone:
        row = rows[n]
        column, text = single[n] or (0, "")
        if row.heading or (wide and how == "yes"):
            found[row.line] = _undecorated(text)
        elif wide and how == "guess":
            decorated = text.endswith(":") or _undecorated(text) != text
            outside = "title" in fields and column != fields["title"] and column == 0
            loud = capitals and text.isupper() and len(text) > 2
            if decorated or outside or loud or (spaced and n + 1 < len(rows)):
                found[row.line] = _undecorated(text)
    return found


def _only_cell(cells: Sequence[str], keys: int) -> tuple[int, str] | None:
    """The one cell with text in it and its column, unless it is the cell of the keys."""
    full = [(n, cell) for n, cell in enumerate(cells) if cell]
    return full[0] if len(full) == 1 and full[0][0] != keys else None


def _title(row: "Row", fields: dict[str, int]) -> str:
    column = fields.get("title", 0)
    return row.cells[column] if column < len(row.cells) else ""


def _undecorated(text: str) -> str:
    match = _DECORATED.match(text)
    return (match.group(1) if match and match.group(1) else text).rstrip(": ").strip()
