"""What is to be seen on an HTML page: its headings, tables and lines, in their order."""

import re
import time
from html.parser import HTMLParser

from olive_compass.core.keys.cells import names_keys
from olive_compass.core.keys.spellings import MODIFIER_SPELLINGS
from olive_compass.counts import parse_count
from olive_compass.desk.importing.blocks import Block, Heading, Line, plain
from olive_compass.desk.importing.line_pairs import MINUS, MINUS_KEY, is_keys, pair
from olive_compass.desk.importing.side_by_side import Table
from olive_compass.desk.importing.source import MOST_ROWS, too_long
from olive_compass.desk.importing.table_parts import TableParts
from olive_compass.desk.importing.text_lines import blocks_of, is_program
from olive_compass.errors import UserError

#: How long a page may be read, in seconds of the processor: whatever else it does takes no time from the page.
LONGEST = 10.0

_HEADINGS = frozenset(["h1", "h2", "h3", "h4", "h5", "h6", "caption"])

#: The level of a heading below those that a page can have.
_DEEPEST = 7

#: How pages name the parts that are for a Mac, in classes and ids.
_OF_MAC = re.compile(r"(?<![a-z])mac(?:os)?(?![a-z])|MAC")
#: Parts of a page that stand beside what it says.
_APART = frozenset(["nav", "template", "noscript", "select", "textarea"])
#: Elements without an end, and those that begin a new line.
_VOID = frozenset(["br", "img", "hr", "input", "meta", "link", "wbr", "col"])
_PARTS = frozenset(["section", "article", "header", "footer", "div", "table", "ul", "ol", "dl"])
_BLOCKS = _PARTS | {"p", "li", "br", "tr", "pre", "hr", "button"}


def _between(before: str) -> str:
    """What stands between two keys side by side, each in its own mark-up: pages leave the plus to the style sheet.
    After a modifier it is that; one key after another is a sequence, or another way."""
    if before.strip().lower() in MODIFIER_SPELLINGS:
        return "+"
    if len(before.strip()) == 1:
        return " "
    return " or "


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
        self.flow_label = ""
        self.after_kbd = False
        #: Where the marked keys of a line begin and end in what was read of it; none by now.
        self.marked: tuple[int, int] | None = None
        self.hidden: list[str] = []
        self.unseen = ""
        self.unseen_of_mac = False
        self.keys_of_mac = ""
        self.held_before = False
        #: What was read of preformatted text, in which the lines and the blanks count; None outside of it.
        self.preformatted: list[str] | None = None
        self.level = 2
        self.open: list[TableParts] = []
        self.heading = ""
        self.in_heading = False
        self.skipping = 0
        self.count = 0
        self.until = time.process_time() + LONGEST

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        line = self.getpos()[0]
        table = None
        if self.open:
            table = self.open[-1]
        said = dict(attrs)
        if self._is_left_out(tag, said):
            return
        if table is None:
            self._begin(tag, said, line)
        # A heading within a cell is emphasis; that of a table, its caption, stands within it by right.
        in_cell = table is not None and table.cell is not None
        if tag == "caption" or (tag in _HEADINGS and not in_cell):
            self.heading, self.in_heading = "", True
            self.level = parse_count(tag[1:]) or 6
        elif tag in ("table", "dl"):
            self.open.append(TableParts(self.heading.strip()))
        elif table is not None:
            self._begin_in(table, tag, said, line)

    def _is_left_out(self, tag: str, said: dict[str, str | None]) -> bool:
        """Whether what begins here is no part of what a person sees on the page; it is kept in mind until it ends."""
        if self.hidden:
            if tag == self.hidden[-1]:
                self.hidden.append(tag)
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
            down = min(parse_count(said.get("rowspan") or "1"), 1000) or 1
            table.begin_cell(tag == "th", min(parse_count(span), 50) or 1, down)
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
            elif self.keys_of_mac and names_keys(word):
                self.handle_data(f"{word} (Mac: {self.keys_of_mac})")
            return
        text = word
        if self.held_before:
            text = f"/{word}"
        self.handle_data(text)
        self.held_before = True

    def _begin(self, tag: str, said: dict[str, str | None], line: int) -> None:
        """What begins outside of tables: a line ends where a block of text begins."""
        keys = said.get("aria-keyshortcuts")
        if self.preformatted is not None:
            if tag == "br":
                self.preformatted.append("\n")
            return
        if keys or tag in _BLOCKS:
            self._end_line()
        if tag == "pre":
            self.preformatted = []
        if keys:
            self._begin_control(tag, said, keys)
        elif tag == "kbd" and self.after_kbd:
            self.flow.append(_between("".join(self.flow[-1:])))
        if tag == "kbd" and self.marked is None:
            self.marked = len(self.flow), len(self.flow)
        if not self.flow:
            self.flow_line = line

    def _begin_control(self, tag: str, said: dict[str, str | None], keys: str) -> None:
        """A control that says its keys."""
        # Blanks part several keys there, by the standard.
        self.flow_keys = " or ".join(keys.split())
        # The name of a control comes before the text on it, by the same standard.
        self.flow_label = said.get("aria-label") or ""
        if tag in _VOID:
            self.flow_label = self.flow_label or said.get("title") or said.get("value") or ""
            self._end_line()

    def _end_line(self) -> None:
        text = plain(self.flow_label or "".join(self.flow))
        keys = self.flow_keys
        if self.marked and not keys and not pair(text):
            text, keys = self._by_marks(text)
        if text:
            self.blocks.append(Line(self.flow_line, text, keys))
        self.flow, self.flow_keys, self.flow_label, self.after_kbd = [], "", "", False
        self.marked = None

    def _by_marks(self, text: str) -> tuple[str, str]:
        """What a line says, and the keys that begin or end it by their mark-up; a remark in brackets may follow."""
        assert self.marked is not None
        start, end = self.marked
        before, keys, after = (
            plain("".join(part))
            for part in (self.flow[:start], self.flow[start:end], self.flow[end:])
        )
        if keys in MINUS:
            # In a table it may say that there is no key; in its own mark-up it is one.
            keys = MINUS_KEY
        # In the middle of a sentence they are part of what it says.
        is_followed = bool(after) and after[0] not in "(.;"
        at_an_end = bool(before) != is_followed
        if not is_keys(keys) or not at_an_end:
            return text, ""
        return f"{before} {after}".strip(), keys

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
        table = None
        if self.open:
            table = self.open[-1]
        if self.hidden:
            if tag == self.hidden[-1]:
                self.hidden.pop()
            if not self.hidden:
                self._end_hidden()
        elif tag in ("script", "style"):
            self.skipping = max(0, self.skipping - 1)
        elif tag in _HEADINGS:
            self._end_heading(tag, table)
        elif table is None:
            self._end(tag)
        else:
            self._end_in_table(tag, table)

    def _end(self, tag: str) -> None:
        """What ends outside of tables."""
        if tag == "pre" and self.preformatted is not None:
            text = "".join(self.preformatted)
            if not is_program(text):
                self.blocks += blocks_of(text, self.flow_line, _DEEPEST)
            self.preformatted = None
            return
        if tag in _BLOCKS or self.flow_keys:
            self._end_line()
        self.after_kbd = tag == "kbd"
        if self.after_kbd and self.marked:
            self.marked = self.marked[0], len(self.flow)

    def _end_heading(self, tag: str, table: TableParts | None) -> None:
        self.in_heading = False
        if tag == "caption" and table:
            table.heading = self.heading.strip()
        if self.heading.strip() and (table is None or tag == "caption"):
            self.blocks.append(Heading(self.getpos()[0], plain(self.heading), self.level))

    def _end_in_table(self, tag: str, table: TableParts) -> None:
        if tag in ("td", "th", "dd"):
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
        if time.process_time() > self.until:
            raise UserError(
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
        elif self.preformatted is not None:
            self.preformatted.append(data)
        else:
            if data.strip():
                self.after_kbd = False
            self.flow.append(data)

    def close(self) -> None:
        super().close()
        self._end("pre")
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
