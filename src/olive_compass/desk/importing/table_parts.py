"""A table of a page, or a list of terms, while it is read."""

from olive_compass.core.apps.listing_row import Row, widest
from olive_compass.core.keys.cells import NO_KEY, names_keys


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
        width = widest(self.rows)
        return max(
            sum(
                names_keys(row.cell(n))
                for row in self.rows[:200]
                if row.cell(n).strip().lower() not in NO_KEY
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
            if self.all_th or spans:
                heading = True
            elif self.given > 1:
                heading = False
            else:
                heading = None
            self.rows.append(Row(line=self.line, cells=tuple(self.cells), heading=heading))
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
