"""What is printed: nothing overlaps, nothing leaves the paper, and nothing is lost on the way."""

import itertools
import re
from collections.abc import Sequence

import pytest
from hypothesis import given
from hypothesis import strategies as st

from olive_compass.core.apps.modes import ModeTree
from olive_compass.drawing.documents import Cell, Table
from olive_compass.drawing.faces import Faces
from olive_compass.drawing.key_caps import Piece, Trigger
from olive_compass.drawing.pages import PAPERS, Page, Paper, paper
from olive_compass.drawing.pdf_files import as_pdf
from olive_compass.drawing.print_frame import LEADING, NOTE, Head
from olive_compass.drawing.table_paper import laid_out as table_laid_out
from olive_compass.drawing.text_metrics import CUT
from olive_compass.drawing.wall_sheet import Block, Row, SheetOptions, laid_out

FACES = Faces(["plain"])
HAIR = 1e-6

WORDS = st.text("abcWi.éŒЖΩ—…+", min_size=1, max_size=18)
TITLES = st.lists(WORDS, min_size=1, max_size=7).map(" ".join)
PIECES = st.builds(
    Piece,
    st.sampled_from(["B", "Ctrl+S", "Ctrl+Alt+Shift+Backspace", "⌘⌥⇧⌫", "060"]),
    st.sampled_from([None, None, 0, 60, 225]),
)
MARKS = st.lists(st.sampled_from(["D", "C−V", "Lab"]), max_size=2).map(tuple)
TRIGGERS = st.lists(
    st.builds(Trigger, st.lists(PIECES, min_size=1, max_size=4).map(tuple), MARKS), max_size=3
).map(tuple)
ROWS = st.builds(Row, triggers=TRIGGERS, title=TITLES, marks=MARKS, note=st.just("") | TITLES)
BLOCKS = st.lists(
    st.builds(Block, TITLES, st.lists(ROWS, min_size=1, max_size=14).map(tuple)), max_size=9
)
HEADS = st.builds(Head, TITLES, TITLES, st.lists(WORDS, max_size=6).map(tuple))
SHEETS = st.builds(paper, st.sampled_from(sorted(PAPERS)), st.booleans())

Rectangle = tuple[float, float, float, float]


def boxes(leaf: Page) -> list[Rectangle]:
    """All that stands on a page but the letters and arrows of keys: left, top, right, bottom."""
    found = [
        (w.x, w.y, w.x + FACES.width(w.line, w.size, w.bold), w.y + w.size) for w in leaf.words
    ]
    return found + [(c.x, c.y, c.x + c.width, c.y + c.height) for c in leaf.caps]


def assert_in_order(leaf: Page) -> None:
    found = boxes(leaf)
    for left, top, right, bottom in found:
        assert left >= 0
        assert top >= 0
        assert right <= leaf.width + HAIR
        assert bottom <= leaf.height + HAIR
    for one, other in itertools.combinations(found, 2):
        apart_across = one[2] <= other[0] + HAIR or other[2] <= one[0] + HAIR
        assert apart_across or one[3] <= other[1] + HAIR or other[3] <= one[1] + HAIR, (one, other)
    for cap in leaf.caps:
        words = cap.words
        assert words is not None
        assert words.x >= cap.x
        assert words.x + FACES.width(words.line, words.size) <= cap.x + cap.width + HAIR
        assert cap.y <= words.y
        assert words.y + words.size <= cap.y + cap.height + HAIR


def said(leaves: Sequence[Page]) -> str:
    """All letters of the pages, without the spaces."""
    lines = [w.line for leaf in leaves for w in leaf.words]
    lines += [c.words.line for leaf in leaves for c in leaf.caps if c.words]
    return re.sub(r"\s", "", " ".join(lines))


@given(
    HEADS,
    BLOCKS,
    SHEETS,
    st.builds(
        SheetOptions, st.sampled_from([0, 0, 1, 3, 9]), st.sampled_from([0.0, 0.0, 5, 8, 24])
    ),
)
def test_a_sheet_is_in_order_on_any_paper(
    head: Head, blocks: list[Block], page: Paper, options: SheetOptions
) -> None:
    leaves = laid_out(head, blocks, page, FACES.width, options)
    for leaf in leaves:
        assert (leaf.width, leaf.height) == (page.width, page.height)
        assert_in_order(leaf)
    if options.columns == 9 or options.size == 24:
        return
    keys = [t.pieces for block in blocks for row in block.rows for t in row.triggers]
    caps = [c for leaf in leaves for c in leaf.caps if not c.mark]
    assert len(caps) == sum(map(len, keys))
    arrows = sum(piece.bearing is not None for pieces in keys for piece in pieces)
    assert sum(len(leaf.arrows) for leaf in leaves) == arrows
    letters = said(leaves)
    for block in blocks:
        for row in block.rows:
            assert CUT in letters or re.sub(r"\s", "", row.title) in letters


@given(HEADS, st.data(), SHEETS, st.sampled_from([0.0, 0.0, 6, 10]))
def test_a_table_is_in_order_on_any_paper(
    head: Head, data: st.DataObject, page: Paper, size: float
) -> None:
    wide = data.draw(st.integers(1, 6))
    cells = st.builds(Cell, st.just("") | TITLES, TRIGGERS.map(lambda t: t[:2]))
    rows = data.draw(st.lists(st.lists(cells, min_size=wide, max_size=wide).map(tuple)))
    headings = tuple(f"h{n}" for n in range(wide))
    leaves = table_laid_out(head, Table(headings, tuple(rows)), page, FACES.width, size)
    for leaf in leaves:
        assert_in_order(leaf)
        assert [w.line for w in leaf.words if w.bold and w.line in headings] == list(headings)


def rows_of(n: int) -> tuple[Row, ...]:
    key = Trigger((Piece("Ctrl+B"),))
    return tuple(Row(triggers=(key,), title=f"Draw the quay wall {m}") for m in range(n))


def test_a_group_that_goes_on_says_so_and_a_short_one_stays_whole() -> None:
    blocks = [Block("Long", rows_of(70)), Block("Short", rows_of(6)), Block("Next", rows_of(40))]
    page = paper("a4", False)
    leaves = laid_out(Head("Q", "s"), blocks, page, FACES.width, SheetOptions(2, 9))
    lines = [w for leaf in leaves for w in leaf.words if w.tone == "accent"]
    assert [w.line for w in lines if w.line.startswith("Long")] == ["Long", "Long, continued"]
    assert [w.line for w in lines if w.line.startswith("Short")] == ["Short"]
    for leaf in leaves:
        rows = [w for w in leaf.words if w.line.startswith("Draw")]
        for heading in (w for w in leaf.words if w.tone == "accent"):
            below = [w for w in rows if abs(w.x - heading.x) < 200 and w.y > heading.y]
            assert min(w.y for w in below) - heading.y < 3 * 9


def test_letters_are_as_large_as_one_page_allows_and_larger_on_paper_that_hangs() -> None:
    def size(n: int, name: str) -> tuple[int, float]:
        found = laid_out(
            Head("Q", "s"), [Block("All", rows_of(n))], paper(name, False), FACES.width
        )
        title = next(w for w in found[0].words if w.line.startswith("Draw"))
        return len(found), title.size

    assert size(4, "a4") == (1, 12.0)
    assert size(4, "a3")[1] > 12.0
    sizes = [size(n, "letter") for n in (20, 80, 140, 200)]
    assert [pages for pages, _ in sizes] == [1] * 4
    assert [each for _, each in sizes] == sorted((each for _, each in sizes), reverse=True)
    pages, letters = size(900, "a4")
    assert pages > 1
    assert letters >= 8.0


def test_a_table_is_one_page_where_letters_that_can_be_read_allow_it() -> None:
    def pages(n: int) -> tuple[int, float]:
        table = Table(("key", "command"), ((Cell("Ctrl+B"), Cell("Draw the quay wall")),) * n)
        found = table_laid_out(Head("Q", "s"), table, paper("a4", False), FACES.width)
        return len(found), found[0].words[-2].size

    assert pages(4) == (1, 12.0)
    count, size = pages(48)
    assert count == 1
    assert 6.5 <= size < 8.5
    count, size = pages(90)
    assert count > 1
    assert size >= 8.5


def test_the_foot_leaves_room_for_the_number_of_the_page() -> None:
    notes = tuple(f"M{n} a mode with a long name" for n in range(30))
    leaves = laid_out(
        Head("Q", "s", notes), [Block("All", rows_of(200))], paper("a6", False), FACES.width
    )
    assert len(leaves) > 1
    last = [w for w in leaves[1].words if w.size == NOTE][-1]
    assert last.line == f"2 of {len(leaves)}"
    assert last.y + NOTE * LEADING <= leaves[1].height


@given(st.sets(st.sampled_from(["everywhere", "canvas", "draw", "vertex", "label"])))
def test_the_fewest_modes_that_stand_for_some_stand_for_just_those(modes: set[str]) -> None:
    tree = ModeTree({"vertex": "draw", "canvas": "everywhere", "draw": "canvas", "label": "canvas"})
    stood: set[str] = set()
    spans = tree.spans(modes)
    for mode, without in sorted(spans, key=lambda each: len(tree.path(each[0]))):
        stood |= set(tree.within(mode))
        stood -= {inner for each in without for inner in tree.within(each)}
    assert stood == modes
    assert len({mode for mode, _ in spans}) == len(spans)
    for mode in modes:
        assert mode in tree.phrase(modes) or any(mode in tree.within(each) for each, _ in spans)


def test_letters_that_one_font_lacks_are_taken_from_another_or_said_by_number() -> None:
    faces = Faces(["Καλή", "Ж", "⌘⌥⇧⌃⏎⌫←", "海図", "\U000f0000"])
    assert [font for font, _ in faces.parts("Καλή Ж ⌘⌥⇧⌃⏎⌫←")] == ["DejaVuSans"]
    ((font, letters),) = faces.parts("海図")
    assert font != "DejaVuSans"
    assert letters == "海図"
    assert faces.lacking == "\U000f0000"
    assert faces.parts("a\U000f0000") == [("DejaVuSans", "a[U+F0000]")]
    assert faces.width("海図", 10) > 15


@pytest.mark.parametrize(
    ("text", "language"),
    [("海", "STSong-Light"), ("海へ", "HeiseiKakuGo-W5"), ("바다", "HYGothic")],
)
def test_without_a_font_of_the_machine_those_of_the_standard_are_taken(
    text: str, language: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    from olive_compass.drawing import text_metrics

    monkeypatch.setattr(text_metrics, "fonts_with", lambda letters: iter(()))
    faces = Faces([text])
    assert faces.lacking == ""
    assert faces.borrowed.startswith(language)
    assert faces.parts(text)[0][0].startswith(language)


def test_the_same_pages_are_the_same_bytes() -> None:
    leaves = laid_out(
        Head("Q", "s"), [Block("All", rows_of(9))], paper("letter", True), FACES.width
    )
    assert as_pdf(leaves, FACES, "Q") == as_pdf(leaves, FACES, "Q")


def test_letters_grow_smaller_before_a_row_loses_a_key() -> None:
    keys = tuple(Trigger((Piece("Ctrl+Alt+Shift+Backspace"),) * 4, ("D",)) for _ in range(3))
    block = Block("Harbours", (Row(triggers=keys, title="Draw the quay wall"), *rows_of(60)))
    head = Head("Larkspur", "Keys of the harbour charts", ("a note that takes a line",) * 6)

    def shown(options: SheetOptions) -> int:
        leaves = laid_out(head, [block], paper("a6", True), FACES.width, options)
        return sum(not cap.mark for leaf in leaves for cap in leaf.caps)

    assert shown(SheetOptions()) == 12 + 60
    assert shown(SheetOptions(size=24)) < 12 + 60
