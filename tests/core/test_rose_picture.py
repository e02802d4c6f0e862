"""Roses as a picture: labels never overlap, whatever their number and their titles."""

import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st

from olive_compass.core.keys.roses import SIZES, bearings
from olive_compass.drawing.picture_parts import Text
from olive_compass.drawing.rose_picture import EMPTY, Rose, Way, drawn, laid_out
from tests.conftest import PICTURES

TITLES = st.lists(st.text("aWi.éŒЩ海—m$", min_size=1, max_size=14), max_size=7).map(" ".join)


@st.composite
def roses(draw: st.DrawFn) -> Rose:
    ways = tuple(
        Way(bearing, draw(TITLES), draw(st.booleans()))
        for bearing in bearings(draw(st.sampled_from(SIZES)))
    )
    return Rose(draw(TITLES), ways)


@given(TITLES, TITLES, st.lists(roses(), min_size=1, max_size=5))
def test_no_two_labels_overlap_and_none_leaves_the_page(
    title: str, subtitle: str, found: list[Rose]
) -> None:
    page = laid_out(title, subtitle, found)
    for text in page.texts:
        assert text.x >= 0
        assert text.y >= 0
        assert text.x + text.width <= page.width + 1e-6
        assert text.y + text.size <= page.height
    for one, other in itertools.combinations(page.texts, 2):
        assert apart(one, other), (one, other)
    assert len(page.points) == sum(len(rose.ways) for rose in found)


def apart(one: Text, other: Text) -> bool:
    across = one.x + one.width <= other.x + 1e-6 or other.x + other.width <= one.x + 1e-6
    return across or one.y + one.size <= other.y + 1e-6 or other.y + other.size <= one.y + 1e-6


@pytest.mark.parametrize("form", PICTURES)
def test_empty_places_are_shown_and_the_same_roses_are_the_same_bytes(form: str) -> None:
    ways = (Way(0, "Next $layer", True), Way(180, ""))
    page = laid_out("Quillmap", "", [Rose("draw", ways)])
    lines = [text.line for text in page.texts]
    assert EMPTY in lines
    assert "≠ Next $layer" in lines
    assert "dashed: an empty place" in lines
    assert drawn(page, form) == drawn(page, form)
    whole = laid_out("Quillmap", "", [Rose("draw", (Way(0, "Next"), Way(180, "Last")))])
    assert EMPTY not in [text.line for text in whole.texts]
