"""HTML pages: the table that has keys in it, with others of the same headings."""

from html.parser import HTMLParser

from olive_compass.core.apps.listing import Row
from olive_compass.core.keys.cells import NO_KEY, read_cell
from olive_compass.desk.importing.source import MOST_ROWS, Read, Source, too_long
from olive_compass.errors import Refused
from olive_compass.whole import whole

SUFFIXES = (".html", ".htm", ".xhtml")


def suits(source: Source) -> bool:
    head = source.text[:2000].lower()
    return "<html" in head or "<!doctype html" in head or "<table" in head


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
    rows: list[Row] = []
    for table in alike:
        if len(alike) > 1 and table.heading:
            rows.append(Row(table.rows[0].line, (table.heading,), heading=True))
        rows.extend(table.rows)
    if len(alike) > 1:
        # The row of headings comes first, before the first group.
        rows.remove(best_head := alike[0].rows[0])
        rows.insert(0, best_head)
    return Read(rows, (), f"{len(alike)} of {len(page.tables)} tables")


class _Table:
    def __init__(self, heading: str) -> None:
        self.heading = heading
        self.rows: list[Row] = []

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
        return self is other or same_head or (no_head and self.keys() * 2 > len(self.rows))


class _Page(HTMLParser):
    """Collects tables: ``<br>`` and list items part the lines of a cell, ``<kbd>`` are joined."""

    def __init__(self, file: str) -> None:
        super().__init__(convert_charrefs=True)
        self.file = file
        self.count = 0
        self.tables: list[_Table] = []
        self.open: list[_Table] = []
        self.heading = ""
        self.in_heading = False
        self.cells: list[str] = []
        self.cell: list[str] | None = None
        self.row_line = 0
        self.all_th = True
        self.span = 1
        self.after_kbd = False
        self.skipping = 0

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        if tag in ("script", "style"):
            self.skipping += 1
        elif tag in ("h1", "h2", "h3", "h4", "h5", "h6", "caption"):
            self.heading, self.in_heading = "", True
        elif tag == "table":
            self.open.append(_Table(self.heading))
        elif tag == "tr":
            self._end_row()
            self.row_line, self.all_th = self.getpos()[0], True
        elif tag in ("td", "th"):
            self._end_cell()
            self.cell = []
            self.all_th = self.all_th and tag == "th"
            span = dict(attrs).get("colspan") or "1"
            self.span = min(whole(span), 50) or 1
        elif tag in ("br", "li", "p", "div") and self.cell is not None:
            self.cell.append("\n")
            self.after_kbd = False
        elif tag == "kbd" and self.cell is not None and self.after_kbd:
            self.cell.append("+")

    def handle_endtag(self, tag: str) -> None:
        if tag in ("script", "style"):
            self.skipping = max(0, self.skipping - 1)
        elif tag in ("h1", "h2", "h3", "h4", "h5", "h6", "caption"):
            self.in_heading = False
            if tag == "caption" and self.open:
                self.open[-1].heading = self.heading.strip()
        elif tag in ("td", "th"):
            self._end_cell()
        elif tag == "tr":
            self._end_row()
        elif tag == "table" and self.open:
            self._end_row()
            self.tables.append(self.open.pop())
        elif tag == "kbd":
            self.after_kbd = True

    def handle_data(self, data: str) -> None:
        if self.skipping:
            return
        if self.in_heading:
            self.heading += data
        if self.cell is not None:
            # Line ends of the source are spaces; two keys with only space between are one press.
            text = " ".join(data.split()) if data.strip() else " "
            if data.strip():
                text = (" " if data[0].isspace() else "") + text
                text += " " if data[-1].isspace() else ""
                self.after_kbd = False
                self.cell.append(text)
            elif not self.after_kbd:
                self.cell.append(" ")

    def close(self) -> None:
        super().close()
        self._end_row()
        while self.open:
            self.tables.append(self.open.pop())

    def _end_cell(self) -> None:
        if self.cell is not None:
            lines = (" ".join(line.split()) for line in "".join(self.cell).split("\n"))
            self.cells.append("\n".join(filter(None, lines)))
            # A heading that spans the table is one cell of text; the others stay empty.
            self.cells.extend([""] * (self.span - 1))
        self.cell, self.after_kbd = None, False

    def _end_row(self) -> None:
        self._end_cell()
        if self.cells and self.open and any(self.cells):
            self.count += 1
            if self.count > MOST_ROWS:
                raise too_long(self.file, self.row_line)
            self.open[-1].rows.append(Row(self.row_line, tuple(self.cells), self.all_th))
        self.cells = []
