"""What a document is made of, in the order in which it is read, and the rows of commands in it.

Every form of document (a page, a workbook, a text document, paper) gives headings, tables and lines; here they
become rows of one listing. Nothing visible is lost: what is no command, heading or key is set aside.
"""

import re
from collections.abc import Iterable, Sequence

from msgspec import Struct

from olive_compass.core.apps.columns import find_heading, guess_columns, is_head
from olive_compass.core.apps.double_headings import joined_headings
from olive_compass.core.apps.headings import without_keys
from olive_compass.core.apps.key_columns import gather_keys
from olive_compass.core.apps.key_matrix import as_list
from olive_compass.core.apps.listing_result import SetAside
from olive_compass.core.apps.listing_row import Row, widest
from olive_compass.desk.importing.labelled import title_and_keys
from olive_compass.desk.importing.line_pairs import has_several, in_two_cells, is_keys, pair
from olive_compass.desk.importing.side_by_side import Table, is_key, parallel
from olive_compass.desk.importing.source import Read
from olive_compass.structs import replace

#: The headings under which all rows of a document stand.
FIELDS = ("title", "menu", "keys", "keys_elsewhere", "modes", "id", "kind", "does")
_HEADS = ("Title", "Menu", "Keys", "Keys (Mac)", "Modes", "Id", "Kind", "Description")

#: How the steps of a menu are joined in a cell.
_STEP = " > "


class Heading(Struct, frozen=True):
    """A heading, and how deep it is: 1 is that of the whole."""

    line: int
    text: str
    level: int = 2


class Line(Struct, frozen=True):
    """A paragraph, an item of a list or a line of a page; ``keys`` where its mark-up names them."""

    line: int
    text: str
    keys: str = ""


Block = Heading | Table | Line


def read_blocks(blocks: Sequence[Block], note: str, platform: str = "pc") -> Read:
    """The rows of all tables and lines with keys, each under its headings."""
    rows = [Row(line=0, cells=_HEADS, heading=True)]
    aside: list[SetAside] = []
    path: list[tuple[int, str]] = []
    known = _Known()
    turned = _in_turn(blocks)
    whole = _level_of_whole(turned)
    for block in turned:
        if isinstance(block, Heading):
            path = [step for step in path if step[0] < block.level]
            path.append((block.level, without_keys(block.text.strip().rstrip(":"))))
            continue
        # The heading of the whole document is no menu.
        menu = _STEP.join(text for level, text in path if level > whole and text)
        if isinstance(block, Table):
            for part in parallel(block):
                found, odd = _of_table(part, menu, platform, known)
                rows += found
                aside += odd
        elif block.text.strip():
            found, odd = _of_line(block, menu)
            rows += found
            aside += odd
    return Read(rows=_used_columns(rows), set_aside=tuple(aside), note=note, headed=not known.menus)


def _level_of_whole(blocks: Sequence[Block]) -> int:
    """The level of the title of the whole document: 1, or that of the heading in its first line, where all others
    (two or more) are deeper."""
    levels = [block.level for block in blocks if isinstance(block, Heading)]
    if len(levels) > 2 and isinstance(blocks[0], Heading) and min(levels[1:]) > levels[0]:
        return levels[0]
    return 1


def _used_columns(rows: list[Row]) -> list[Row]:
    """The rows with the columns in which anything stands: titles and keys always."""
    keys, mac = FIELDS.index("keys"), FIELDS.index("keys_elsewhere")
    by_platform = any(row.cells[keys] != row.cells[mac] for row in rows[1:])
    used = [
        n
        for n, field in enumerate(FIELDS)
        if field in ("title", "keys") or any(row.cells[n] for row in rows[1:])
        if n != mac or by_platform
    ]
    return [replace(row, cells=tuple(row.cells[n] for n in used)) for row in rows]


def _in_turn(blocks: Sequence[Block]) -> list[Block]:
    """The blocks with keys and what they do put together where they stand in turn, a line each."""
    found: list[Block] = []
    for block in blocks:
        last = found[-1] if found else None
        if isinstance(block, Line) and not block.text.strip():
            continue
        both = None
        if isinstance(block, Line) and isinstance(last, Heading | Line) and not block.keys:
            both = _of_two(last, block)
        if both is None:
            found.append(block)
        else:
            found[-1] = both
    return found


def _of_two(above: Heading | Line, below: Line) -> Line | None:
    """One line of keys and what they do, where one of two has the keys and the other what they do; else None."""
    if named := title_and_keys(above.text, below.text):
        return Line(above.line, *named)
    first, second = _only_keys(above), _only_keys(below)
    if first and not second and not pair(below.text):
        return Line(above.line, below.text, above.text)
    is_title = isinstance(above, Line) and not above.keys and not pair(above.text)
    if second and not first and is_title:
        return Line(above.line, above.text, below.text)
    return None


def _only_keys(block: Heading | Line) -> bool:
    """Whether a heading or a line is keys and nothing else."""
    if isinstance(block, Line) and block.keys:
        return False
    return is_keys(block.text) and (len(block.text.strip()) > 1 or isinstance(block, Line))


def has_keys(blocks: Iterable[Block]) -> int:
    """How many lines and rows of a document have keys."""
    count = 0
    for block in _in_turn(list(blocks)):
        if isinstance(block, Table):
            count += sum(any(map(is_key, row.cells)) for row in block.rows[:300])
        elif isinstance(block, Line):
            count += bool(block.keys or pair(block.text))
    return count


def _of_line(block: Line, menu: str) -> tuple[list[Row], list[SetAside]]:
    found = (block.text.strip(), block.keys) if block.keys else pair(block.text)
    if found is None:
        why = "it names no key"
        if has_several(block.text):
            why = "it names several keys"
        return [], [SetAside(line=block.line, what="text", why=why, text=block.text.strip()[:500])]
    title, keys = found
    return [_row(block.line, {"title": title, "keys": keys, "menu": menu})], []


class _Known:
    """The columns of the last table with headings: one below it that has as many and no headings goes on."""

    def __init__(self) -> None:
        self.head: tuple[str, ...] = ()
        self.width = 0
        self.fields: dict[str, int] = {}
        #: Whether a table has a column of menus.
        self.menus = False


def _of_table(
    table: Table, menu: str, platform: str, known: _Known
) -> tuple[list[Row], list[SetAside]]:
    """The rows of a table by its own columns; where they cannot be recognised, they are set aside."""
    rows, remarks = as_list(joined_headings([row for row in table.rows if any(row.cells)]))
    at = _heading_at(rows)
    before: list[Row] = []
    head: tuple[str, ...] = ()
    below = rows
    if at is not None:
        before, head, below = rows[:at], rows[at].cells, rows[at + 1 :]
    # A long table repeats its headings.
    body = [row for row in below if row.cells != head]
    gathered = gather_keys(head, body, {}, platform)
    head, body = gathered.head, gathered.rows
    fields = _columns(head, body, platform, known)
    known.menus = known.menus or "menu" in fields
    if "keys" not in fields or "title" not in fields:
        return _of_pairs(rows, menu)
    found, odd = _commands(body, fields, menu)
    odd += remarks
    return found, [*(_aside(row, "it comes before the headings") for row in before), *odd]


def _of_pairs(rows: Sequence[Row], menu: str) -> tuple[list[Row], list[SetAside]]:
    """The rows of a table whose columns are not recognised: a row of a title and keys is a command."""
    found: list[Row] = []
    aside: list[SetAside] = []
    for row in rows:
        known = in_two_cells([cell for cell in row.cells if cell])
        if known:
            title, keys = known
            found.append(_row(row.line, {"title": title, "keys": keys, "menu": menu}))
        else:
            aside.append(_aside(row, "no column of the table has keys"))
    return found, aside


def _heading_at(rows: Sequence[Row]) -> int | None:
    """Which row has the headings, None where none is known for them."""
    heads = [row.cells if row.heading is not False or n == 0 else () for n, row in enumerate(rows)]
    at = find_heading(heads, {})
    # The first is marked as the row of headings, and one of them is known.
    marked = bool(rows) and rows[0].heading
    if at is None and marked and any(map(is_head, rows[0].cells)):
        return 0
    return at


def _columns(
    head: tuple[str, ...], body: Sequence[Row], platform: str, known: _Known
) -> dict[str, int]:
    """The column of each field: by the headings, or those of the table above, or by what the cells look like."""
    width = widest(body)
    if known.fields and (head == known.head if head else width == known.width):
        return known.fields
    texts = [row.cells for row in body if not row.heading]
    try:
        fields = guess_columns(head, texts, {}, platform).fields
    except LookupError:
        fields = {}
    if head and "keys" in fields:
        known.head, known.width, known.fields = head, max(width, len(head)), fields
    elif head:
        known.head, known.width, known.fields = (), 0, {}
    return fields


def _commands(
    body: Sequence[Row], fields: dict[str, int], menu: str
) -> tuple[list[Row], list[SetAside]]:
    """The rows of a table that are commands, under the rows that head them."""
    found: list[Row] = []
    odd: list[SetAside] = []
    group, opened = "", None
    for row in body:
        title = row.cell(fields["title"])
        if heading := _heading(row, title):
            if opened is not None:
                odd.append(
                    SetAside(
                        line=opened.line,
                        what="text",
                        why="it was read as a heading, and no command follows it",
                        text=group,
                    )
                )
            group, opened = heading, row
        elif is_keys(title, alone=False):
            odd.append(_aside(row, "it does not fit its table"))
        else:
            opened = None
            path = _STEP.join(filter(None, (menu, group)))
            found.append(_row(row.line, _fields_of(row, fields, path)))
    if opened is not None:
        odd.append(
            SetAside(
                line=opened.line,
                what="text",
                why="it was read as a heading, and no command follows it",
                text=group,
            )
        )
    return found, odd


def _heading(row: Row, title: str) -> str:
    """What a row says that heads those below it, ``""``: it is none."""
    texts = {cell for cell in row.cells if cell}
    alone = not title and sum(map(bool, row.cells)) == 1
    if len(texts) == 1 and (row.heading or alone):
        return next(iter(texts))
    return ""


def _fields_of(row: Row, fields: dict[str, int], menu: str) -> dict[str, str]:
    """The cells of a row by field; what stands in no column of ours goes to what the command does."""
    cells = {field: row.cell(column) for field, column in fields.items()}
    cells["menu"] = cells.get("menu") or menu
    rest = [cell for n, cell in enumerate(row.cells) if n not in fields.values()]
    cells["does"] = "; ".join(filter(None, (cells.get("does", ""), *rest)))
    return cells


def _aside(row: Row, why: str) -> SetAside:
    return SetAside(line=row.line, what="row", why=why, text=" | ".join(filter(None, row.cells)))


def _row(line: int, cells: dict[str, str]) -> Row:
    # Without a column for each platform, a key is the same on all.
    cells = {"keys_elsewhere": cells.get("keys", ""), **cells}
    return Row(line=line, cells=tuple(cells.get(field, "") for field in FIELDS), heading=False)


def plain(text: str) -> str:
    """Text on one line, with one blank between its words."""
    return re.sub(r"\s+", " ", text).strip()
