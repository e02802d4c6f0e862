"""HTML pages: the table that has keys in it, with others of the same headings; lists of terms too."""

import time
from html.parser import HTMLParser

from olive_compass.core.apps.listing import Row
from olive_compass.core.keys.cells import NO_KEY, read_cell
from olive_compass.desk.importing.source import MOST_ROWS, Read, Source, too_long
from olive_compass.errors import Refused
from olive_compass.whole import whole

SUFFIXES = (".html", ".htm", ".xhtml")
#: How long a page may be read, in seconds.
LONGEST = 6.0

_HEADINGS = frozenset(["h1", "h2", "h3", "h4", "h5", "h6", "caption"])


def suits(source: Source) -> bool:
    head = source.text[:2000].lower()
    return any(tag in head for tag in ("<html", "<!doctype html", "<table", "<dl"))


def read(source: Source) -> Read:
    """The rows of the best table; tables like it follow, each under its own heading."""
    page = _Page(source.path)
    page.feed(source.text)
    page.close()
    tables = [table for table in page.tables if len(table.rows) > 1]
    if not tables:
        raise Refused("This page has no table.", file=source.path)
    best = max(tables, key=lambda table: (table.keys(), len(table.rows)))
    alike = [table for table in tables if table.like(best)]
    head = alike[0].rows[0] if alike[0].rows[0].heading else None
    # The row of headings comes first, before the first group.
    rows: list[Row] = [head] if head else []
    for table in alike:
        if len(alike) > 1 and table.heading:
            rows.append(Row(table.rows[0].line, (table.heading,), heading=True))
        own = table.rows[1:] if head and table.rows[0].cells == head.cells else table.rows
        rows.extend(own)
    left = len(page.tables) - len(alike)
    note = f"{len(alike)} of {len(page.tables)} tables" + (
        f"; {left} of other headings left out" if left else ""
    )
    return Read(rows, (), note)


class _Table:
    """A table, or a list of terms, while it is read: its rows, and the row and cell that are open."""

    def __init__(self, heading: str) -> None:
        self.heading = heading
        self.rows: list[Row] = []
        self.cells: list[str] = []
        self.cell: list[str] | None = None
        self.line = 0
        self.all_th = True
        #: How many cells the row has of its own, and how many columns they take.
        self.given = 0
        self.span = 1
        self.widest = 1
        self.after_kbd = False

    def keys(self) -> int:
        """How many cells of the fullest column read as keys."""
        width = max(len(row.cells) for row in self.rows)
        return max(
            sum(
                bool(read_cell(row.cells[n]).triggers)
                for row in self.rows[:200]
                if n < len(row.cells) and row.cells[n].strip().lower() not in NO_KEY
            )
            for n in range(width)
        )

    def like(self, other: "_Table") -> bool:
        mine, theirs = self.rows[0], other.rows[0]
        same_head = mine.heading and mine.cells == theirs.cells
        no_head = not mine.heading and not theirs.heading and len(mine.cells) == len(theirs.cells)
        return self is other or bool(same_head) or (no_head and self.keys() * 2 > len(self.rows))

    def begin_row(self, line: int) -> None:
        self.end_row()
        self.line, self.all_th, self.given, self.widest = line, True, 0, 1

    def begin_cell(self, is_th: bool, span: int) -> None:
        self.end_cell()
        self.cell = []
        self.given += 1
        self.all_th = self.all_th and is_th
        self.span = span
        self.widest = max(self.widest, span)

    def end_cell(self) -> None:
        if self.cell is not None:
            lines = (" ".join(line.split()) for line in "".join(self.cell).split("\n"))
            self.cells.append("\n".join(filter(None, lines)))
            # A heading that spans the table is one cell of text; the others stay empty.
            self.cells.extend([""] * (self.span - 1))
        self.cell, self.after_kbd = None, False

    def end_row(self) -> None:
        self.end_cell()
        if any(self.cells):
            # A row with cells of its own for title and keys heads nothing, also where one is empty.
            spans = self.given == 1 and self.widest > 1
            heading = True if self.all_th or spans else False if self.given > 1 else None
            self.rows.append(Row(self.line, tuple(self.cells), heading))
        self.cells = []

    def add(self, data: str) -> None:
        """Text of the open cell: line ends of the source are blanks."""
        if self.cell is None:
            return
        if data.strip():
            text = " ".join(data.split())
            text = (" " if data[0].isspace() else "") + text + (" " if data[-1].isspace() else "")
            self.after_kbd = False
            self.cell.append(text)
        elif not self.after_kbd:
            # Two keys with only space between are one press.
            self.cell.append(" ")

    def part(self, sign: str) -> None:
        """Parts the lines of the open cell."""
        if self.cell is not None:
            self.cell.append(sign)
            self.after_kbd = False


class _Page(HTMLParser):
    """Collects tables: ``<br>`` and list items part the lines of a cell, ``<kbd>`` are joined."""

    def __init__(self, file: str) -> None:
        super().__init__(convert_charrefs=True)
        self.file = file
        self.tables: list[_Table] = []
        self.open: list[_Table] = []
        self.heading = ""
        self.in_heading = False
        self.skipping = 0
        self.count = 0
        self.until = time.monotonic() + LONGEST

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        line = self.getpos()[0]
        table = self.open[-1] if self.open else None
        if tag in ("script", "style"):
            self.skipping += 1
        # A heading within a cell is emphasis; that of a table, its caption, stands within it by right.
        elif tag in _HEADINGS and (table is None or table.cell is None or tag == "caption"):
            self.heading, self.in_heading = "", True
        elif tag in ("table", "dl"):
            self.open.append(_Table(self.heading.strip()))
        elif table is None:
            return
        elif tag == "tr":
            self._count()
            table.begin_row(line)
        elif tag in ("td", "th"):
            # A cell over several columns keeps those after it in their places; nobody means a thousand.
            span = dict(attrs).get("colspan") or "1"
            table.begin_cell(tag == "th", min(whole(span), 50) or 1)
        elif tag == "dt":
            self._begin_term(table, line)
        elif tag == "dd":
            table.begin_cell(False, 1)
        elif tag in ("br", "li", "p", "div"):
            table.part("\n")
        # Keys side by side, each in its own mark-up, are one stroke; pages leave the plus to the style
        # sheet.
        elif tag == "kbd" and table.cell is not None and table.after_kbd:
            table.cell.append("+")

    def _begin_term(self, table: _Table, line: int) -> None:
        """A term of a list: several of them, one after another, share what is said of them."""
        if table.cell is not None and table.given == 1 and not table.cells:
            table.part("\n")
            return
        self._count()
        table.begin_row(line)
        table.begin_cell(False, 1)

    def _count(self) -> None:
        self.count += 1
        if self.count > MOST_ROWS:
            raise too_long(self.file, self.getpos()[0])

    def handle_endtag(self, tag: str) -> None:
        table = self.open[-1] if self.open else None
        if tag in ("script", "style"):
            self.skipping = max(0, self.skipping - 1)
        elif tag in _HEADINGS:
            self.in_heading = False
            if tag == "caption" and table:
                table.heading = self.heading.strip()
        elif table is None:
            return
        elif tag in ("td", "th", "dd"):
            table.end_cell()
        elif tag == "tr":
            table.end_row()
        elif tag in ("table", "dl"):
            self._end_table()
        # What follows at once belongs to the same stroke: see where one begins.
        elif tag == "kbd":
            table.after_kbd = True

    def handle_data(self, data: str) -> None:
        # A tag that never ends is looked for from each of its beginnings, to the end of the page.
        if time.monotonic() > self.until:
            raise Refused(
                f"Reading this page took more than {LONGEST:.0f} s: a tag or a comment in it has no end.",
                file=self.file,
                line=self.getpos()[0],
                hint="Open it in a browser and save it anew.",
            )
        if self.skipping:
            return
        if self.in_heading:
            self.heading += data
        elif self.open:
            self.open[-1].add(data)

    def close(self) -> None:
        super().close()
        while self.open:
            self._end_table()

    def _end_table(self) -> None:
        table = self.open.pop()
        table.end_row()
        self.tables.append(table)
        if self.open:
            # Text after a table within a cell goes on in that cell.
            self.open[-1].part("\n")
