"""What a terminal passes on of a press: the stroke that it is taken for, and what it cannot be told from."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.triggers import Stroke
from olive_compass.simulator.terminal_keys import cannot_tell, stroke_of


def one(text: str) -> Stroke:
    return read_trigger(text).strokes[0]


@pytest.mark.parametrize(
    ("name", "held", "stroke"),
    [
        ("a", False, "A"),
        ("A", False, "Shift+A"),
        ("c-d", False, "Ctrl+D"),
        ("c-i", False, "Tab"),
        ("c-m", False, "Enter"),
        ("c-h", False, "Backspace"),
        ("c-@", False, "Ctrl+Space"),
        ("s-tab", False, "Shift+Tab"),
        ("c-s-left", False, "Ctrl+Shift+Left"),
        ("f12", False, "F12"),
        ("escape", False, "Escape"),
        ("x", True, "Alt+X"),
        ("c-x", True, "Ctrl+Alt+X"),
        ("ä", False, "Ä"),
        ("+", False, "+"),
    ],
)
def test_a_name_of_the_terminal_is_a_stroke(name: str, held: bool, stroke: str) -> None:
    assert str(stroke_of(name, held)) == stroke


@pytest.mark.parametrize("name", ["<bracketed-paste>", "c-<sigint>", "", "<cursor-position>"])
def test_what_is_no_stroke_is_none(name: str) -> None:
    assert stroke_of(name) is None


KNOWN = ["Tab", "Ctrl+I", "Enter", "Backspace", "Ctrl+H", "Escape", "Ctrl+[", "Ctrl+D", "5", "Num5"]
strokes = st.sampled_from(KNOWN) | st.sampled_from("QWERTY").map(lambda key: f"Ctrl+{key}")


@given(strokes, st.booleans())
def test_what_cannot_be_told_apart_is_so_both_ways(text: str, alt: bool) -> None:
    stroke = one(f"Alt+{text}" if alt else text)
    for other in cannot_tell(stroke):
        assert other != stroke
        assert ("Alt" in other.modifiers) == alt
        # Not every stroke has a name of its own to a terminal, but what it is taken for has.
        assert stroke in cannot_tell(other) or not cannot_tell(other)


@pytest.mark.parametrize("text", ["F5", "Left", "A", "Alt+Q", "Shift+F3", "Ctrl+Left"])
def test_what_a_terminal_tells_apart_is_not_asked_about(text: str) -> None:
    assert cannot_tell(one(text)) == ()
