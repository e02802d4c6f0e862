"""A table on paper, over as many pages as it takes, with its headings on each."""

from collections.abc import Sequence

from olive_compass.drawing.documents import Cell, Table
from olive_compass.drawing.key_caps import LINE, put_keys, trigger_width
from olive_compass.drawing.pages import Arrow, Cap, Measure, Page, Paper, Rule, Words
from olive_compass.drawing.print_frame import LEADING, Frame, Head, Piled, cut_lines, fitting, sizes
from olive_compass.structs import replace

#: The smallest letters, in points, in which a table is made to fit one page; and those that say how many
#: pages it may take, where one does not do.
SMALLEST, ORDINARY = 6.5, 8.5
#: In ems: the space between columns and between rows, the least width of a column, and how much wider
#: than it needs to be one is made where there is room.
BETWEEN, ROW, LEAST, MORE = 1.0, 0.5, 3.0, 6.0


def laid_out(
    head: Head, table: Table, paper: Paper, measure: Measure, size: float = 0.0
) -> list[Page]:
    """The pages of a table: one, where all of it fits, else as few as ordinary letters need; ``size`` is
    that of the letters, 0: as large as can be."""
    frame = Frame(head, paper, measure)
    tried = sizes(paper, SMALLEST)
    if size:
        tried = [size]
    chosen, pages = _fewest([(each, _pages(table, frame, each)) for each in tried])
    return [frame.leaf(chosen, page, n, len(pages)) for n, page in enumerate(pages, 1)]


_Placed = list[tuple[float, float, Piled]]


def _fewest(found: list[tuple[float, list[_Placed]]]) -> tuple[float, list[_Placed]]:
    """The largest letters with one page, or else with the fewest pages of ordinary letters."""
    for size, pages in found:
        if len(pages) == 1:
            return size, pages
    usual = [each for each in found if each[0] >= ORDINARY] or found
    return min(usual, key=lambda each: len(each[1]))


def _pages(table: Table, frame: Frame, size: float) -> list[_Placed]:
    measure = frame.measure
    widths = _widths(table, frame.paper.inner / size, measure)
    heading = _row([Cell(text) for text in table.headings], widths, measure, True)
    height = frame.height(size)
    pages: list[_Placed] = [[(0.0, 0.0, heading)]]
    y = heading.height
    for cells in table.rows:
        row = fitting(_row(cells, widths, measure, False), height - heading.height)
        if y + row.height > height and len(pages[-1]) > 1:
            pages.append([(0.0, 0.0, heading)])
            y = heading.height
        pages[-1].append((0.0, y, row))
        y += row.height
    return pages


def _widths(table: Table, room: float, measure: Measure) -> list[float]:
    """The width of each column in ems: what it needs, the widest made narrower where there is too much."""
    needed = []
    for n, heading in enumerate(table.headings):
        cells = [row[n] for row in table.rows]
        each = [_needs(cell, measure) for cell in cells]
        needed.append(max([measure(heading, 1.0, True), LEAST, *each]))
    room -= BETWEEN * (len(needed) - 1)
    if sum(needed) <= room:
        more = min((room - sum(needed)) / len(needed), MORE)
        return [each + more for each in needed]
    # The most that a column may have, such that all of them fit.
    low, high = 0.0, max(needed)
    for _ in range(30):
        middle = (low + high) / 2
        fits = sum(min(middle, each) for each in needed) <= room
        if fits:
            low = middle
        else:
            high = middle
    return [min(low, each) for each in needed]


def _needs(cell: Cell, measure: Measure) -> float:
    keys = sum(trigger_width(each, measure) + 0.66 for each in cell.triggers)
    words = measure(cell.text, 1.0, False)
    if keys and len(cell.text) < 3:
        return keys + 0.4 + words
    return max(keys, words)


def _row(cells: Sequence[Cell], widths: Sequence[float], measure: Measure, bold: bool) -> Piled:
    words: list[Words] = []
    caps: list[Cap] = []
    arrows: list[Arrow] = []
    x = height = 0.0
    # Headings are bold, and paler than what stands below them.
    tone = "soft" if bold else "ink"
    for cell, wide in zip(cells, widths, strict=True):
        own_caps: list[Cap] = []
        own_arrows: list[Arrow] = []
        end, y = put_keys(cell.triggers, wide, measure, own_caps, own_arrows)
        caps += [_moved_cap(cap, x) for cap in own_caps]
        arrows += [replace(a, x=a.x + x) for a in own_arrows]
        # A word or two have room beside the keys; more go below them.
        beside = 0.0
        if cell.triggers:
            beside = end + 0.4
        if beside and cell.text and beside + measure(cell.text, 1.0, False) <= wide:
            words.append(Words(x=x + beside, y=y - LINE + 0.2, size=1.0, line=cell.text))
        elif cell.text:
            y += 0.0 if cell.triggers else 0.2
            for line in cut_lines(cell.text, wide, 1.0, bold, 6, measure):
                words.append(Words(x=x, y=y, size=1.0, line=line, bold=bold, tone=tone))
                y += LEADING
        height = max(height, y)
        x += wide + BETWEEN
    height += ROW
    rule = Rule(x=0.0, y=height - ROW / 2, width=x - BETWEEN, tone="soft" if bold else "line")
    return Piled(height=height, words=words, caps=caps, arrows=arrows, rules=(rule,))


def _moved_cap(cap: Cap, x: float) -> Cap:
    """A cap so much further to the right, with the words on it."""
    if cap.words is None:
        return replace(cap, x=cap.x + x)
    return replace(cap, x=cap.x + x, words=replace(cap.words, x=cap.words.x + x))
