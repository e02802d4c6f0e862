"""Text in columns: Markdown tables, lists separated by blanks, tabs or dots, and lines of a page.

Lines are parted in the way that parts most of them: by the strokes of a Markdown table, by two blanks
or more, tabs or leading dots, by a sign between title and key, or before the keys that end a line.
"""

import re
from collections import Counter
from collections.abc import Callable
from statistics import median

from olive_compass.core.apps.listing_row import Row
from olive_compass.core.keys.cells import names_keys
from olive_compass.core.plain import lines_of
from olive_compass.desk.importing.cutting import Cells, before_keys, cut
from olive_compass.desk.importing.line_pairs import pair
from olive_compass.desk.importing.list_items import BULLET, bulleted_lines, listed_items
from olive_compass.desk.importing.side_by_side import Table, parallel
from olive_compass.desk.importing.source import Read, Source
from olive_compass.structs import replace

SUFFIXES = (".md", ".markdown")

#: The share of lines that must be parted for a text to be taken for one in columns.
LEAST = 0.5

_RULE = re.compile(r"[\s|+:=_*~─-╿-]{3,}")
_SIGNS = (" : ", ": ", " = ", " – ", " — ", " - ", " -> ", " → ")
_MENU = re.compile(r"(?i)(^|\s)(men[uü]|меню)$|:$")


class _Line:
    """A line with something in it: its number, its text, how far it is indented, and how it is cut into cells."""

    def __init__(self, number: int, text: str) -> None:
        self.number = number
        self.text = text.strip()
        self.indent = len(text) - len(text.lstrip())
        self.raw = text.rstrip()
        self.is_heading = False
        #: Whether nothing stands right above and below it.
        self.is_alone = False
        #: Whether it is the item of a list among other things: a sign stood before it.
        self.is_item = False
        #: Where the columns of its table begin, as the rules of the table say; none where there are no rules.
        self.starts: tuple[int, ...] = ()

    def cells(self, part: "Part", keys_first: bool = False) -> Cells:
        """Its cells: between the rules of its table, or as ``part`` cuts its text. An item that it does not cut has
        a title and keys, in the order of the columns around it."""
        if self.starts and (ruled := self._between_rules()):
            return ruled
        cells = part(self.text)
        if self.is_item and len(cells) == 1 and (found := pair(_undressed(self.text))):
            return found[::-1] if keys_first else found
        return cells

    def _between_rules(self) -> Cells:
        """The cells where a gap stands before each column; none where a text goes over one."""
        if any(self.raw[at - 1 : at].strip() for at in self.starts if at):
            return ()
        ends = (*self.starts[1:], len(self.raw))
        return tuple(self.raw[at:end].strip() for at, end in zip(self.starts, ends, strict=True))


#: A way to cut the text of a line into cells.
Part = Callable[[str], Cells]


def suits(source: Source) -> bool:
    """Whether enough of the lines are split into cells of which some are keys."""
    return not source.pattern and _best(_lines(source.text[:200_000])) is not None


def read(source: Source) -> Read:
    """A row a line; rules are passed over, and lines that head others are headings."""
    lines = _lines(source.text)
    found = _best(lines)
    assert found is not None
    name, part = found
    keys_first = _keys_come_first(lines, part)
    if name == "columns":
        rows = _aligned(lines, keys_first)
        if more := _beside_each_other(rows):
            return Read(rows=more, set_aside=(), note=f"{source.encoding}, columns side by side")
    else:
        rows = [
            Row(line=line.number, cells=line.cells(part, keys_first), heading=_heads(line, part))
            for line in lines
        ]
    return Read(
        rows=_with_commands(rows, lines, part),
        set_aside=(),
        note=f"{source.encoding}, separated by {name}",
    )


def _keys_come_first(lines: list[_Line], part: Part) -> bool:
    """Whether the first column has the keys."""
    first = [cells[0] for cells in (line.cells(part) for line in lines) if len(cells) > 1]
    return _are_keys(first)


def _lines(text: str) -> list[_Line]:
    """The lines that say something; one that is underlined, or begins with ``#``, is a heading."""
    raw_lines = lines_of(text.replace("\x0c", "\n"))
    bulleted = bulleted_lines(raw_lines)
    items = listed_items(raw_lines)
    found: list[_Line] = []
    starts: tuple[int, ...] = ()
    for number, raw in enumerate(raw_lines, 1):
        if not raw.strip():
            starts = ()
            continue
        if number in bulleted or number in items:
            raw = BULLET.sub("", raw)
        if _RULE.fullmatch(raw.strip()):
            starts = _ruled_columns(raw)
            _underline(found[-1] if found else None, number, raw, starts)
            continue
        line = _Line(number, raw.expandtabs(8) if raw[:1] == "\t" else raw)
        line.starts = starts
        line.is_item = number in items and number not in bulleted
        if line.text.startswith("#"):
            line.text, line.is_heading = line.text.strip("# "), True
        elif bulleted and number not in bulleted:
            line.is_heading = _names_no_key(line.text)
        found.append(line)
    _mark_alone(found, raw_lines)
    return found


def _ruled_columns(rule: str) -> tuple[int, ...]:
    """Where the columns begin that a rule says by its gaps; none where it is one stroke."""
    parts = tuple(found.start() for found in re.finditer(r"\S+", rule))
    if len(parts) > 1 and not set(rule) & {"|", "+", ":"}:
        return parts
    return ()


def _underline(above: _Line | None, number: int, rule: str, starts: tuple[int, ...]) -> None:
    """Makes the line right above a rule a heading, unless it is a row of a table."""
    if above is None or above.number != number - 1:
        return
    if starts:
        # The headings of a table stand above its first rule.
        above.starts = starts
    elif "|" not in rule and not cut(above.text)[1:]:
        above.is_heading = True


def _names_no_key(text: str) -> bool:
    return pair(text) is None


def _mark_alone(found: list[_Line], raw_lines: list[str]) -> None:
    """Marks the lines with nothing right above and below them; where all stand apart, it says nothing."""
    last = len(raw_lines)
    blank = {n for n, raw in enumerate(raw_lines, 1) if not raw.strip() or _RULE.fullmatch(raw)}
    blank |= {0, last + 1}
    alone = [
        line for line in found if line.number < last and {line.number - 1, line.number + 1} <= blank
    ]
    if len(alone) * 3 < len(found):
        for line in alone:
            line.is_alone = True


def _best(lines: list[_Line]) -> tuple[str, Part] | None:
    """The way that parts most lines, where it gives keys; None: none parts enough of them."""
    body = [line for line in lines if not line.is_heading]
    ways: dict[str, Part] = {"strokes": _stroked, "columns": cut}
    ways |= {f"“{sign.strip()}”": _by_sign(sign) for sign in _SIGNS}
    ways["the keys at its end"] = before_keys
    for name, part in ways.items():
        parted = [cells for cells in (line.cells(part) for line in body) if len(cells) > 1]
        if len(parted) >= max(2, LEAST * len(body)) and any(map(_are_keys, _columns(parted))):
            return name, part
    return None


def _columns(rows: list[Cells]) -> list[list[str]]:
    """The cells of rows one below the other; a row may have fewer than another."""
    width = max(map(len, rows))
    return [[row[n] for row in rows if n < len(row)] for n in range(width)]


def _are_keys(cells: list[str]) -> bool:
    """Whether enough cells of a column read as keys, some with a modifier or of more than a letter."""
    some = [cell for cell in cells[:200] if cell]
    keys = [cell for cell in some if names_keys(cell)]
    return len(keys) * 2 >= len(some) > 0 and any(len(cell) > 1 for cell in keys)


def _stroked(text: str) -> Cells:
    """The cells of a line of a Markdown table, without its emphasis."""
    if text.count("|") < 1 or not text.startswith("|"):
        return (text,)
    cells = re.split(r"(?<!\\)\|", text.strip().strip("|"))
    return tuple(_undressed(cell) for cell in cells)


def _undressed(cell: str) -> str:
    cell = re.sub(r"</?kbd>|</?code>|`|\*\*|__", "", cell).replace("\\|", "|")
    return re.sub(r"<br\s*/?>", "\n", cell).strip()


def _by_sign(sign: str) -> Part:
    def parted(text: str) -> Cells:
        one, found, other = text.partition(sign)
        if found and other.strip():
            return (one.strip(), other.strip())
        return (text,)

    return parted


def _aligned(lines: list[_Line], keys_first: bool) -> list[Row]:
    """The rows of columns: a line with fewer cells has them where the others of a column begin."""
    spans = {line.number: _spans(line.raw) for line in lines}
    starts = _starts(list(spans.values()))
    rows = []
    for line in lines:
        cells, own = line.cells(cut, keys_first), spans[line.number]
        if len(cells) < len(starts) and cells == tuple(cell for _, cell in own):
            cells = _placed(own, starts)
        rows.append(Row(line=line.number, cells=cells, heading=_heads(line, cut)))
    return rows


def _beside_each_other(rows: list[Row]) -> list[Row]:
    """The rows of lists that stand side by side, one list after another; none where it is one list."""
    parts = parallel(Table(tuple(rows)))
    if len(parts) < 2:
        return []
    return [
        replace(row, heading=True) if sum(map(bool, row.cells)) == 1 and row.cells[0] else row
        for part in parts
        for row in part.rows
    ]


def _spans(raw: str) -> list[tuple[int, str]]:
    """The pieces of a line that two blanks part, and where each begins."""
    return [(found.start(), found[0]) for found in re.finditer(r"\S+(?: \S+)*", raw)]


def _starts(spans: list[list[tuple[int, str]]]) -> list[float]:
    """Where the columns begin; nothing where the lines are not set one below the other."""
    plain = [s for s in spans if not any(re.search(r"\.{3}|…|\t", cell) for _, cell in s)]
    widths = Counter(len(s) for s in plain if len(s) > 1)
    if not widths:
        return []
    ((usual, _),) = widths.most_common(1)
    columns = zip(*([at for at, _ in s] for s in plain if len(s) == usual), strict=True)
    starts = []
    for column in columns:
        start = float(median(column))
        even = sum(abs(at - start) < 2 for at in column)
        if even * 5 <= 4 * len(column):
            return []
        starts.append(start)
    return starts


def _placed(own: list[tuple[int, str]], starts: list[float]) -> Cells:
    """The pieces of a line, each in the column that begins nearest to it."""
    placed = [""] * len(starts)
    for at, cell in own:
        nearest = min(range(len(starts)), key=lambda n: abs(starts[n] - at))
        placed[nearest] = f"{placed[nearest]} {cell}".strip()
    return tuple(placed)


def _heads(line: _Line, part: Part) -> bool | None:
    if line.is_heading:
        return True
    cells = line.cells(part)
    if len(cells) > 1 or line.is_item:
        return False
    if cells and (line.is_alone or _MENU.search(line.text)):
        return True
    return None


def _with_commands(rows: list[Row], lines: list[_Line], part: Part) -> list[Row]:
    """Rows of one cell that stand as far in as the commands do are commands without a key."""
    indents = Counter(line.indent for line in lines if len(line.cells(part)) > 1)
    usual = indents.most_common(1)[0][0]
    outside = any(line.indent < usual for line in lines)
    return [
        replace(row, heading=line.indent < usual)
        if row.heading is None and outside and sum(map(bool, row.cells)) == 1
        else row
        for row, line in zip(rows, lines, strict=True)
    ]
