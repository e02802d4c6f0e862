"""What is to be seen on an HTML page: its headings, tables and lines, in their order."""

import re
import time
from html.parser import HTMLParser

from olive_compass.core.apps.listing import Row
from olive_compass.core.keys.cells import NO_KEY, read_cell
from olive_compass.core.keys.spellings import MODIFIER_SPELLINGS
from olive_compass.desk.importing.blocks import Block, Heading, Line, Table, plain
from olive_compass.desk.importing.source import MOST_ROWS, too_long
from olive_compass.errors import Refused
from olive_compass.whole import whole

#: How long a page may be read, in seconds.
LONGEST = 6.0

_HEADINGS = frozenset(["h1", "h2", "h3", "h4", "h5", "h6", "caption"])

#: How pages name the parts that are for a Mac, in classes and ids.
_OF_MAC = re.compile(r"(?<![a-z])mac(?:os)?(?![a-z])|MAC")
#: Parts of a page that stand beside what it says.
_APART = frozenset(["nav", "template", "noscript", "select", "textarea"])
#: Elements without an end, and those that begin a new line.
_VOID = frozenset(["br", "img", "hr", "input", "meta", "link", "wbr", "col"])
_BLOCKS = frozenset(
    [
        "p",
        "li",
        "div",
        "ul",
        "ol",
        "br",
        "tr",
        "section",
        "article",
        "header",
        "footer",
        "pre",
        "hr",
        "table",
        "dl",
        "button",
    ]
)


def _between(before: str) -> str:
    """What stands between two keys side by side, each in its own mark-up: pages leave the plus to the style sheet.
    After a modifier it is that; one key after another is a sequence, or another way."""
    if before.strip().lower() in MODIFIER_SPELLINGS:
        return "+"
    return " " if len(before.strip()) == 1 else " or "


class TableParts:
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
        #: What cells of rows above go on saying here: by column, for how many rows, and what.
        self.pending: dict[int, tuple[int, str]] = {}
        self.down = 1

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

    def like(self, other: "TableParts") -> bool:
        mine, theirs = self.rows[0], other.rows[0]
        same_head = mine.heading and mine.cells == theirs.cells
        no_head = not mine.heading and not theirs.heading and len(mine.cells) == len(theirs.cells)
        return self is other or bool(same_head) or (no_head and self.keys() * 2 > len(self.rows))

    def begin_row(self, line: int) -> None:
        self.end_row()
        self.line, self.all_th, self.given, self.widest = line, True, 0, 1

    def begin_cell(self, is_th: bool, span: int, down: int = 1) -> None:
        self.end_cell()
        self._go_on()
        self.down = down
        self.cell = []
        self.given += 1
        self.all_th = self.all_th and is_th
        self.span = span
        self.widest = max(self.widest, span)

    def end_cell(self) -> None:
        if self.cell is not None:
            lines = (" ".join(line.split()) for line in "".join(self.cell).split("\n"))
            text = "\n".join(filter(None, lines))
            if self.down > 1:
                self.pending[len(self.cells)] = (self.down, text)
            self.cells.append(text)
            # A heading that spans the table is one cell of text; the others stay empty.
            self.cells.extend([""] * (self.span - 1))
        self.cell, self.after_kbd = None, False

    def _go_on(self) -> None:
        """Puts what stands over several rows in its column, before the next cell."""
        while self.pending.get(len(self.cells), (0, ""))[0] > 0:
            self.cells.append(self.pending[len(self.cells)][1])

    def end_row(self) -> None:
        self.end_cell()
        if self.given:
            self._go_on()
            self.pending = {
                n: (left - 1, text) for n, (left, text) in self.pending.items() if left > 1
            }
        if any(self.cells):
            # A row with cells of its own for title and keys heads nothing, also where one is empty.
            spans = self.given == 1 and self.widest > 1
            heading = True if self.all_th or spans else False if self.given > 1 else None
            self.rows.append(Row(self.line, tuple(self.cells), heading))
        # The row is done: whoever begins the next one ends no row again.
        self.cells, self.given = [], 0

    def add(self, data: str) -> None:
        """Text of the open cell: line ends of the source are blanks."""
        if self.cell is None:
            return
        if data.strip():
            text = " ".join(data.split())
            apart = data[0].isspace() or (self.after_kbd and data[0].isalpha())
            text = (" " if apart else "") + text + (" " if data[-1].isspace() else "")
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


class PageParser(HTMLParser):
    """Collects tables: ``<br>`` and list items part the lines of a cell, ``<kbd>`` are joined."""

    def __init__(self, file: str, convert_charrefs: bool = True) -> None:
        super().__init__(convert_charrefs=convert_charrefs)
        self.file = file
        self.tables: list[TableParts] = []
        #: All that is to be seen on the page, in its order.
        self.blocks: list[Block] = []
        self.flow: list[str] = []
        self.flow_line = 1
        self.flow_keys = ""
        self.after_kbd = False
        self.hidden: list[str] = []
        self.unseen = ""
        self.unseen_of_mac = False
        self.keys_of_mac = ""
        self.held_before = False
        self.level = 2
        self.open: list[TableParts] = []
        self.heading = ""
        self.in_heading = False
        self.skipping = 0
        self.count = 0
        self.until = time.monotonic() + LONGEST

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        line = self.getpos()[0]
        table = self.open[-1] if self.open else None
        said = dict(attrs)
        if self._is_left_out(tag, said):
            return
        if table is None:
            self._begin(tag, said, line)
        # A heading within a cell is emphasis; that of a table, its caption, stands within it by right.
        if tag in _HEADINGS and (table is None or table.cell is None or tag == "caption"):
            self.heading, self.in_heading = "", True
            self.level = whole(tag[1:]) or 6
        elif tag in ("table", "dl"):
            self.open.append(TableParts(self.heading.strip()))
        elif table is not None:
            self._begin_in(table, tag, said, line)

    def _is_left_out(self, tag: str, said: dict[str, str | None]) -> bool:
        """Whether what begins here is no part of what a person sees on the page; it is kept in mind until it ends."""
        if self.hidden:
            self.hidden += [tag] if tag == self.hidden[-1] else []
            return True
        if tag in ("script", "style"):
            self.skipping += 1
            return True
        unseen = tag in _APART or "hidden" in said or said.get("aria-hidden") == "true"
        if unseen and tag not in _VOID:
            self.hidden.append(tag)
            self.unseen_of_mac = bool(_OF_MAC.search(f"{said.get('class')} {said.get('id')}"))
            return True
        return False

    def _begin_in(
        self, table: TableParts, tag: str, said: dict[str, str | None], line: int
    ) -> None:
        """What begins in a table, or in a list of terms."""
        if tag == "tr":
            self._count()
            table.begin_row(line)
        elif tag in ("td", "th"):
            # A cell over several columns keeps those after it in their places; nobody means a thousand.
            span = said.get("colspan") or "1"
            down = min(whole(said.get("rowspan") or "1"), 1000) or 1
            table.begin_cell(tag == "th", min(whole(span), 50) or 1, down)
        elif tag == "dt":
            self._begin_term(table, line)
        elif tag == "dd":
            table.begin_cell(False, 1)
        elif tag in ("br", "li", "p", "div"):
            table.part("\n")
        # Keys side by side, each in its own mark-up, are one stroke; pages leave the plus to the style
        # sheet.
        elif tag == "kbd" and table.cell is not None and table.after_kbd:
            table.cell.append(_between("".join(table.cell[-1:])))
            table.after_kbd = False

    def _end_hidden(self) -> None:
        """What is hidden is left out, but for keys: a page that shows those of the reader's platform has those
        of both side by side, and hides them until it knows."""
        word, self.unseen = plain(self.unseen), ""
        if any(part.strip().lower() not in MODIFIER_SPELLINGS for part in word.split("+")):
            if self.unseen_of_mac:
                self.keys_of_mac = word
            elif self.keys_of_mac and read_cell(word).triggers:
                self.handle_data(f"{word} (Mac: {self.keys_of_mac})")
            return
        text = f"/{word}" if self.held_before else word
        self.handle_data(text)
        self.held_before = True

    def _begin(self, tag: str, said: dict[str, str | None], line: int) -> None:
        """What begins outside of tables: a line ends where a block of text begins."""
        keys = said.get("aria-keyshortcuts")
        if keys or tag in _BLOCKS:
            self._end_line()
        if keys:
            # Blanks part several keys there, by the standard.
            self.flow_keys = " or ".join(keys.split())
        elif tag == "kbd" and self.after_kbd:
            self.flow.append(_between("".join(self.flow[-1:])))
        if not self.flow:
            self.flow_line = line

    def _end_line(self) -> None:
        text = plain("".join(self.flow))
        if text:
            self.blocks.append(Line(self.flow_line, text, self.flow_keys))
        self.flow, self.flow_keys, self.after_kbd = [], "", False

    def _begin_term(self, table: TableParts, line: int) -> None:
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
        if self.hidden:
            if tag == self.hidden[-1]:
                self.hidden.pop()
            if not self.hidden:
                self._end_hidden()
            return
        if tag in ("script", "style"):
            self.skipping = max(0, self.skipping - 1)
        elif tag in _HEADINGS:
            self.in_heading = False
            if tag == "caption" and table:
                table.heading = self.heading.strip()
            if self.heading.strip() and (table is None or tag == "caption"):
                self.blocks.append(Heading(self.getpos()[0], plain(self.heading), self.level))
        elif table is None:
            if tag in _BLOCKS or self.flow_keys:
                self._end_line()
            self.after_kbd = tag == "kbd"
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
        if self.hidden:
            self.unseen += data
            return
        if data.strip():
            self.held_before, self.keys_of_mac = False, ""
        if self.skipping:
            return
        if self.in_heading:
            self.heading += data
        elif self.open:
            self.open[-1].add(data)
        else:
            if data.strip():
                self.after_kbd = False
            self.flow.append(data)

    def close(self) -> None:
        super().close()
        self._end_line()
        while self.open:
            self._end_table()

    def _end_table(self) -> None:
        table = self.open.pop()
        table.end_row()
        self.tables.append(table)
        self.blocks.append(Table(tuple(table.rows)))
        if self.open:
            # Text after a table within a cell goes on in that cell.
            self.open[-1].part("\n")
