"""Distinguishes group headings from commands among the rows of a listing."""

import re
from collections.abc import Collection, Sequence

from msgspec import Struct

from olive_compass.core.apps.listing_row import Row
from olive_compass.structs import replace

_DECORATED = re.compile(r"^\s*(?:[-=#*_~\[(]{1,}\s*)(.*?)(?:\s*[-=#*_~\])]{0,})\s*$")


#: What stands between the steps of a menu path.
_PATH = " > "


def group_rows(rows: Sequence[Row], fields: dict[str, int], how: str) -> dict[int, str]:
    """The rows that are group headings, by their place among ``rows``, with the group's name.

    A heading has one cell with text in it. It is recognised by its mark-up, by a colon or dashes
    around it, by standing outside the title column, by being in capitals, or a path of menus, where the
    titles of full rows are not, or by being followed by a full row each time; the first row is one too where a
    heading follows it, being the title of the whole. ``how`` is ``guess``, ``yes`` (every
    row with one cell is a heading) or ``no`` (only marked ones are).
    """
    alone = _alone(rows, fields.get("keys", -1))
    # Of rows that all have one cell none heads another.
    wide = any(sum(map(bool, row.cells)) > 1 for row in rows)
    signs = _signs(rows, alone, fields)
    found: dict[int, str] = {}
    for n, (column, text) in alone.items():
        heads = rows[n].heading
        if heads is None and wide:
            may = how == "guess" and signs.tell(column, text, n + 1 == len(rows))
            heads = how == "yes" or may
        if heads:
            found[n] = _undecorated(text)
    if how == "guess" and 0 in alone and 1 in found:
        found[0] = _undecorated(alone[0][1])
    return found


def _alone(rows: Sequence[Row], keys: int) -> dict[int, tuple[int, str]]:
    """The rows with text in one cell, by their place: that cell, unless it is in the column of the keys."""
    found = {}
    for n, row in enumerate(rows):
        # Asked of every row of a listing, and of most the answer is no.
        if len(row.cells) - row.cells.count("") == 1:
            only = _only_cell(row.cells, keys)
            if only is not None:
                found[n] = only
    return found


def filled_down(rows: Sequence[Row], fields: dict[str, int]) -> "tuple[Sequence[Row], int]":
    """The rows with the menu of the row above where they have none, and how many these were; the rows as they are, and 0,
    where the list is not written so.

    It is, where the menus stand before the titles, each once and at the first of its rows: the rest of them is empty.
    """
    menu, title = fields.get("menu", -1), fields.get("title", -1)
    if not 0 <= menu < title:
        return rows, 0
    told = [(row.cell(menu), row.cell(title)) for row in rows if row.heading is None]
    named = [above for above, _ in told if above]
    if not _names_each_once(told, named):
        return rows, 0
    found, above = [], ""
    for row in rows:
        above = row.cell(menu) or above
        if _may_lie_in_a_menu(row, title, menu):
            cells = list(row.cells)
            cells[menu] = above
            row = replace(row, cells=tuple(cells))
        found.append(row)
    return found, len(told) - len(named)


def _may_lie_in_a_menu(row: Row, title: int, menu: int) -> bool:
    return bool(row.heading is None and row.cell(title) and not row.cell(menu))


def _names_each_once(told: Sequence[tuple[str, str]], named: Sequence[str]) -> bool:
    """Whether a list, told as menu and title by row, names each menu once, at the first of several rows."""
    if not len(named) == len(set(named)) >= LEAST_MENUS or len(told) < 2 * len(named):
        return False
    begins = bool(told[0][0])
    heads = any(menu and not title for menu, title in told)
    return begins and not heads


#: How many menus a list has at the least that names each of them once.
LEAST_MENUS = 3


class _Signs(Struct, frozen=True, kw_only=True):
    """What tells a heading in this listing: its title column, and which signs mean something in it."""

    titled: bool
    title: int
    capitals: bool
    paths: bool
    spaced: bool

    def tell(self, column: int, text: str, last: bool) -> bool:
        """Whether a lone cell looks like a heading; the ``last`` row has nothing to head."""
        if text.endswith(":") or _undecorated(text) != text:
            return True
        if self.titled and self.title != column == 0:
            return True
        if self.capitals and text.isupper() and len(text) > 2:
            return True
        if self.paths and _PATH in text:
            return True
        return self.spaced and not last


def _signs(rows: Sequence[Row], alone: Collection[int], fields: dict[str, int]) -> _Signs:
    """What may tell a heading, where the rows with one cell are those ``alone``."""
    full = [row for n, row in enumerate(rows) if n not in alone]
    loud = sum(_title(row, fields).isupper() for row in full)
    followed = not any(n + 1 in alone for n in alone)
    return _Signs(
        titled="title" in fields,
        title=fields.get("title", 0),
        capitals=loud * 5 < len(full),
        paths=bool(full) and not any(_PATH in _title(row, fields) for row in full),
        spaced=len(alone) > 1 and followed and len(alone) * 2 <= len(rows),
    )


def _only_cell(cells: Sequence[str], keys: int) -> tuple[int, str] | None:
    """The one cell with text in it and its column, unless it is the cell of the keys."""
    full = [(n, cell) for n, cell in enumerate(cells) if cell]
    if len(full) == 1 and full[0][0] != keys:
        return full[0]
    return None


def _title(row: Row, fields: dict[str, int]) -> str:
    return row.cell(fields.get("title", 0))


def _undecorated(text: str) -> str:
    match = _DECORATED.match(text)
    return (match.group(1) if match and match.group(1) else text).rstrip(": ").strip()
