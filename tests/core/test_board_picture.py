"""The board as a picture: nothing overlaps or leaves its key, whatever stands on it."""

import io
import itertools
from xml.etree import ElementTree

import pytest
from hypothesis import given
from hypothesis import strategies as st

from olive_compass.desk.keyboards import load_form, names
from olive_compass.drawing import text_metrics
from olive_compass.drawing.board_picture import SIGNS, BoardPage, Box, Key, Panel, drawn, laid_out
from olive_compass.drawing.charts import Bar, bars
from olive_compass.drawing.group_colours import PALETTE
from olive_compass.drawing.text_metrics import CUT, FAMILY, LEADING, bold_width, fit, text_width
from tests.conftest import PICTURES

FORMS = [load_form("", name) for name in names("", "forms")]
WORDS = st.text("aWi.é|ŒЩжαΩ_海—mM%$…", min_size=1, max_size=24)
TEXTS = st.lists(WORDS, max_size=9).map(" ".join)

#: Letters are measured by what they take on the line: a hair of a point is let go.
HAIR = 1e-6

Rectangle = tuple[float, float, float, float]


@st.composite
def panels(draw: st.DrawFn) -> Panel:
    form = draw(st.sampled_from(FORMS))
    pool = draw(
        st.lists(
            st.builds(
                Key,
                label=WORDS,
                state=st.sampled_from(sorted(SIGNS)),
                text=TEXTS,
                group=st.sampled_from(["", *(f"Menu {n}" for n in range(12))]),
                was=st.just("") | TEXTS,
                uses=st.none() | st.integers(0, 5000),
                note=st.just("") | WORDS,
            ),
            min_size=1,
            max_size=12,
        )
    )
    keys = dict(zip(form.seats, itertools.cycle(pool), strict=False))
    return Panel(draw(st.text("abc +", max_size=20)), form, keys)


def written(box: Box) -> list[Rectangle]:
    """Where the letters of a key stand: left, top, right, bottom."""
    found = []
    for n, line in enumerate(box.legend.lines[:1]):
        x, y = box.x + 2.6, box.y + 2.6 + n
        found.append((x, y, x + bold_width(line, box.legend.size), y + box.legend.size))
    sign = box.key.sign
    if sign:
        right = box.x + box.width - 2.6
        found.append((right - bold_width(sign, 8), box.y + 1.6, right, box.y + 9.6))
    for n, line in enumerate(box.does.lines):
        x, y = box.x + 2.6, box.y + 2.6 + 9 + n * box.does.size * LEADING
        found.append((x, y, x + text_width(line, box.does.size), y + box.does.size))
    for line in box.note.lines[:1]:
        x, y = box.x + 2.6, box.y + box.height - 2.6 - box.note.size
        found.append((x, y, x + text_width(line, box.note.size), y + box.note.size))
    return found


def apart(one: Rectangle, other: Rectangle) -> bool:
    return (
        one[2] <= other[0] + HAIR
        or other[2] <= one[0] + HAIR
        or one[3] <= other[1] + HAIR
        or other[3] <= one[1] + HAIR
    )


def context(page: BoardPage) -> list[Rectangle]:
    """The letters that stand outside the keys."""
    return [(t.x, t.y, t.x + t.width, t.y + t.size) for t in (*page.titles, *page.notes)]


@given(TEXTS, TEXTS, st.lists(panels(), min_size=1, max_size=3))
def test_no_two_texts_overlap_and_nothing_leaves_its_key_or_the_page(
    title: str, subtitle: str, boards: list[Panel]
) -> None:
    page = laid_out(title, subtitle, boards)
    outside = context(page)
    outside += [(x, y, x + 10, y + 9) for x, y, _ in page.swatches]
    edges = [(b.x, b.y, b.x + b.width, b.y + b.height) for b in page.boxes]
    for left, top, right, bottom in [*outside, *edges]:
        assert left >= 0
        assert top >= 0
        assert right <= page.width + HAIR
        assert bottom <= page.height + HAIR
    for one, other in itertools.chain(
        itertools.combinations(outside, 2), itertools.product(outside, edges)
    ):
        assert apart(one, other)
    assert len(page.boxes) == sum(len(board.form.seats) for board in boards)
    for box in page.boxes:
        letters = written(box)
        for left, top, right, bottom in letters:
            assert left >= box.x
            assert top >= box.y
            assert right <= box.x + box.width + HAIR
            assert bottom <= box.y + box.height + HAIR
        for one, other in itertools.combinations(letters, 2):
            assert apart(one, other)


@given(TEXTS, st.floats(4, 400), st.floats(3, 200))
def test_a_text_stands_whole_or_says_that_it_was_cut(
    text: str, width: float, height: float
) -> None:
    found = fit(text, width, height)
    assert found.height <= height + HAIR or not found.lines
    assert all(text_width(line, found.size) <= width + HAIR for line in found.lines)
    shown = " ".join(found.lines)
    if shown != " ".join(text.split()) and found.lines:
        assert CUT in shown


def test_a_longer_text_never_gets_larger_letters() -> None:
    sizes = [fit("Spot height " * n, 33, 26).size for n in range(1, 8)]
    assert sizes == sorted(sizes, reverse=True)
    assert sizes[0] > sizes[-1]


def test_letters_are_as_wide_after_a_drawing_as_before() -> None:
    from matplotlib.font_manager import FontProperties, findfont, get_font

    before = {char: text_width(char, 10) for char in "aWö—"}
    # Drawing sets the size of the letters on a face that all of the process shares.
    get_font(findfont(FontProperties(family=FAMILY))).set_size(7, 72)
    text_metrics._advance.cache_clear()
    assert {char: text_width(char, 10) for char in "aWö—"} == before


@pytest.mark.parametrize("name", PICTURES)
def test_a_drawing_is_the_same_bytes_each_time_and_reads_as_what_it_is(name: str) -> None:
    form = FORMS[0]
    key = Key(label="$x$", state="guarded", text="A $10 fence & a <gate>", group="Draw")
    blank = dict.fromkeys(form.seats, Key(label="a", state="free"))
    keys = {**blank, **dict.fromkeys([*form.seats][:9], key)}
    page = laid_out("Quillmap $5", "mine", [Panel("", form, keys)])
    data = drawn(page, name)
    assert data == drawn(page, name)
    if name == "svg":
        assert ElementTree.parse(io.BytesIO(data)).getroot().tag.endswith("svg")
    else:
        assert data.startswith({"png": b"\x89PNG", "pdf": b"%PDF"}[name])


def test_the_first_groups_have_the_colours_and_each_is_named_once() -> None:
    form = FORMS[0]
    codes = list(form.seats)
    keys = {code: Key(label="a", state="free") for code in codes}
    for n in range(10):
        for code in codes[n * 3 : n * 3 + 3 - (n > 7)]:
            keys[code] = Key(label="a", state="used", text="Fence", group=f"Menu {n}")
    groups = ["Not here", *(f"Menu {n}" for n in range(10))]
    page = laid_out("Quillmap", "", [Panel("", form, keys)], groups)
    # What does not occur keeps its colour all the same: it has it on another keyboard.
    assert [paint for _, _, paint in page.swatches] == list(PALETTE[1:])
    lines = [note.line for note in page.notes]
    assert lines[:7] == groups[1:8]


@pytest.mark.filterwarnings("error")
@pytest.mark.parametrize("name", PICTURES)
def test_a_chart_takes_any_title_as_it_stands(name: str) -> None:
    rows = [Bar("Fence at $5 to $x_$", {"key": 4, "menu": 2}, "F"), Bar("\u6d77", {"pen": 1})]
    data = bars("Cost $a", "2026 \u6d77", rows, "times", name)
    assert data == bars("Cost $a", "2026 \u6d77", rows, "times", name)
    assert data != bars("Cost $a", "2026 \u6d77", rows[:1], "times", name)
