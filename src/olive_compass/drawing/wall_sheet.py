"""The sheet for the wall: groups of keys in columns, in the largest letters in which they fit the paper.

All of it is worked out in ems, the size of the letters being the last thing chosen; values out, drawn by
``pdf_files``.
"""

import math
from bisect import bisect_left
from collections.abc import Sequence

from msgspec import Struct

from olive_compass.drawing.key_caps import (
    GAP,
    Trigger,
    mark_cap,
    mark_width,
    put_keys,
    trigger_width,
)
from olive_compass.drawing.pages import Arrow, Cap, Measure, Page, Paper, Words
from olive_compass.drawing.print_frame import LEADING, Frame, Head, Piled, cut_lines, fitting, sizes

#: The smallest letters, in points, in which a sheet is made to fit one page; and those that say how many
#: pages it may take, where one does not do.
SMALLEST, ORDINARY = 6.0, 8.0
#: The most columns, the least width of one in ems, and of one that was asked for.
MOST_COLUMNS, LEAST_WIDTH, NARROWEST = 8, 19.0, 10.0
#: In ems: the space between rows, and a heading with the space above it.
ROW, HEADING = 0.3, 2.3
#: In ems: the colour before a heading.
SWATCH = 0.8
#: The most of a column that one key takes, and that several beside each other do; the space between columns in points.
SHARE, BESIDE, GUTTER = 0.5, 0.42, 16.0


class Row(Struct, frozen=True, kw_only=True):
    """A command: its triggers, its title, the marks of its modes, and what is said besides."""

    triggers: tuple[Trigger, ...]
    title: str
    marks: tuple[str, ...] = ()
    note: str = ""


class Block(Struct, frozen=True):
    """Rows under a heading, with its colour on keyboards (``""``: none)."""

    heading: str
    rows: tuple[Row, ...]
    tint: str = ""


class SheetOptions(Struct, frozen=True):
    """What was asked for: columns and the size of letters, 0: as fits best."""

    columns: int = 0
    size: float = 0.0


class _Form(Struct, frozen=True, kw_only=True):
    """Columns of a size: how many, the size of letters, the width and height of a column in ems."""

    columns: int
    size: float
    width: float
    height: float


#: A column: what stands in it, each with its place from the top in ems.
_Column = list[tuple[float, Piled]]


def laid_out(
    head: Head,
    blocks: Sequence[Block],
    paper: Paper,
    measure: Measure,
    options: SheetOptions | None = None,
) -> list[Page]:
    """The pages of a sheet: one, where all of it fits in letters that can be read; else as many as it
    takes."""
    frame = Frame(head, paper, measure)
    form, columns = _chosen(blocks, frame, options or SheetOptions())
    columns = _balanced(blocks, frame, form, columns)
    pages = [
        columns[first : first + form.columns] for first in range(0, len(columns), form.columns)
    ] or [[]]
    step = form.width + GUTTER / form.size
    return [
        frame.leaf(
            form.size,
            [(n * step, y, each) for n, column in enumerate(page) for y, each in column],
            number,
            len(pages),
        )
        for number, page in enumerate(pages, 1)
    ]


def most_columns(paper: Paper, size: float) -> int:
    """How many columns of letters of that size the paper has room for, 1 at the least; 0 is the smallest
    size."""
    least = NARROWEST * (size or SMALLEST)
    return max(1, int((paper.inner + GUTTER) // (least + GUTTER)))


def _form(frame: Frame, columns: int, size: float) -> _Form:
    room = (frame.paper.inner - (columns - 1) * GUTTER) / columns
    return _Form(columns=columns, size=size, width=room / size, height=frame.height(size))


def _chosen(
    blocks: Sequence[Block], frame: Frame, options: SheetOptions
) -> tuple[_Form, list[_Column]]:
    """The largest letters in which all of it is one page; else the largest in which it is no more pages
    than in ordinary ones."""
    if options.size:
        tried = [options.size]
    else:
        tried = sizes(frame.paper, SMALLEST)
    # No row is lower than a line: most sizes need not be tried for a long sheet.
    least = sum(HEADING + len(block.rows) * (LEADING + ROW) for block in blocks)
    for size in tried:
        for form in _forms(frame, options.columns, size):
            if least > form.columns * form.height:
                continue
            columns = _flowed(blocks, form, frame.measure)
            if len(columns) <= form.columns and not _cut(columns):
                return form, columns
    return _on_several_pages(blocks, frame, options, tried)


def _on_several_pages(
    blocks: Sequence[Block], frame: Frame, options: SheetOptions, tried: Sequence[float]
) -> tuple[_Form, list[_Column]]:
    """The largest letters in which it is as few pages as in the smallest that are ordinary. ``tried`` are the sizes,
    the largest first: smaller letters take no more pages, and cut no row that larger ones do not."""
    known: dict[float, tuple[_Form, list[_Column]]] = {}

    def laid(size: float) -> tuple[_Form, list[_Column]]:
        if size not in known:
            form = _forms(frame, options.columns, size)[-1]
            known[size] = form, _flowed(blocks, form, frame.measure)
        return known[size]

    usual = [size for size in tried if size >= ORDINARY]
    if usual and not _cut(laid(usual[-1])[1]):
        whole = usual
    else:
        whole = list(tried)
    fewest = _pages(*laid(whole[-1]))
    is_cut = _cut(laid(whole[-1])[1])

    def does(size: float) -> bool:
        form, columns = laid(size)
        return _pages(form, columns) == fewest and _cut(columns) == is_cut

    return laid(whole[bisect_left(whole, True, key=does)])


def _cut(columns: list[_Column]) -> bool:
    """Whether a row is higher than a page, and has lost what does not fit."""
    return any(row.cut for column in columns for _, row in column)


def _pages(form: _Form, columns: list[_Column]) -> int:
    return math.ceil(len(columns) / form.columns)


def _forms(frame: Frame, columns: int, size: float) -> list[_Form]:
    """The numbers of columns that go with a size: the one that was asked for, or all that are wide
    enough, and one at the least."""
    if columns:
        return [_form(frame, min(columns, most_columns(frame.paper, size)), size)]
    every = [_form(frame, n, size) for n in range(1, MOST_COLUMNS + 1)]
    return [form for form in every if form.width >= LEAST_WIDTH or form.columns == 1]


def _balanced(
    blocks: Sequence[Block], frame: Frame, form: _Form, columns: list[_Column]
) -> list[_Column]:
    """The same columns at one height as far as can be, where they are one page."""
    if len(columns) > form.columns or form.columns == 1:
        return columns
    low, high = 0.0, form.height
    for _ in range(9):
        middle = (low + high) / 2
        found = _flowed(blocks, form, frame.measure, middle)
        fits = len(found) <= form.columns and all(_end(column) <= middle for column in found)
        if fits:
            high, columns = middle, found
        else:
            low = middle
    return columns


def _end(column: _Column) -> float:
    y, last = column[-1]
    return y + last.height


def _flowed(
    blocks: Sequence[Block], form: _Form, measure: Measure, height: float = 0.0
) -> list[_Column]:
    """The blocks down the columns, all of them or ``height`` ems of them. One that is short stays whole; one that goes on has its heading
    again; none has its heading alone at the end of a column."""
    columns: list[_Column] = []
    y = math.inf
    height = height or form.height
    keys = _key_width(blocks, form, measure)
    for block in blocks:
        rows = [_row(each, form, keys, measure) for each in block.rows]
        heading = _heading(block.heading, block.tint, form, measure)
        again = _heading(f"{block.heading}, continued", block.tint, form, measure)
        whole = heading.height + sum(row.height for row in rows)
        first = heading.height + sum(row.height for row in rows[:2])
        stays = whole <= form.height * 0.4 and y + whole > height
        if y + first > height or stays:
            columns.append([])
            y = 0.0
        columns[-1].append((y, heading))
        y += heading.height
        for row in rows:
            if y + row.height > height and y > again.height + 1e-9:
                columns.append([(0.0, again)])
                y = again.height
            columns[-1].append((y, row))
            y += row.height
    return columns


def _heading(text: str, tint: str, form: _Form, measure: Measure) -> Piled:
    left = SWATCH + 0.4 if tint else 0.0
    lines = cut_lines(text, form.width - left, 1.06, True, 2, measure)
    words = [
        Words(
            x=left, y=HEADING - 1.55 + n * LEADING, size=1.06, line=line, bold=True, tone="accent"
        )
        for n, line in enumerate(lines)
    ]
    if tint:
        swatch = [
            Cap(x=0, y=HEADING - 1.55 + 0.13, width=SWATCH, height=SWATCH, words=None, tint=tint)
        ]
    else:
        swatch = []
    return Piled(height=HEADING + (len(lines) - 1) * LEADING, words=words, caps=swatch, arrows=[])


def _key_width(blocks: Sequence[Block], form: _Form, measure: Measure) -> float:
    """How much of a column the keys take: what the widest trigger needs, within a share of it; and what
    several beside each other need, where that is not too much."""
    rows = [
        [trigger_width(trigger, measure) for trigger in row.triggers]
        for block in blocks
        for row in block.rows
    ]
    widest = min(max([0.0, *(max(row, default=0.0) for row in rows)]), form.width * SHARE)
    beside = [sum(row) + 3 * GAP * (len(row) - 1) for row in rows]
    return max([widest, *(each for each in beside if each <= form.width * BESIDE)])


def _row(row: Row, form: _Form, keys: float, measure: Measure) -> Piled:
    """A row: the keys in their part of the column, the title beside them."""
    words: list[Words] = []
    caps: list[Cap] = []
    arrows: list[Arrow] = []
    _, used = put_keys(row.triggers, keys, measure, caps, arrows)
    left = keys + 0.7 if keys else 0.0
    room = form.width - left
    lines = cut_lines(row.title, room, 1.0, False, 6, measure)
    words += [
        Words(x=left, y=0.12 + n * LEADING, size=1.0, line=line) for n, line in enumerate(lines)
    ]
    x = left + (measure(lines[-1], 1.0, False) if lines else 0.0) + 0.35
    y = max(len(lines) - 1, 0) * LEADING
    for mark in row.marks:
        wide = mark_width(mark, measure)
        if x + wide > form.width:
            x, y = left, y + LEADING
        caps.append(mark_cap(mark, x, y, wide))
        x += wide + GAP
    y += LEADING
    if row.note:
        for line in cut_lines(row.note, room, 0.85, False, 6, measure):
            words.append(Words(x=left, y=y + 0.05, size=0.85, line=line, tone="soft"))
            y += LEADING * 0.85
    room = form.height - HEADING - LEADING
    return fitting(Piled(height=max(used, y) + ROW, words=words, caps=caps, arrows=arrows), room)
