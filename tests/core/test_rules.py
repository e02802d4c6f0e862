"""What an application's rules say of a trigger: which rule, why in words, where, and what is nearest."""

import pytest
from msgspec.structs import astuple

from olive_compass.core.apps.rules import Rules
from olive_compass.core.schemes.traits import broken_rules
from olive_compass.structs import replace
from tests.core.test_schemes import APP, BOARD, key

RULES = Rules(
    longest_sequence=2, modifiers=("Ctrl",), plain_keys="named", swipes={"draw": 6, "label": 4}
)


def broken(
    text: str, modes: tuple[str, ...] = ("draw",), rules: Rules = RULES
) -> list[tuple[object, ...]]:
    return [
        astuple(each) for each in broken_rules(replace(APP, rules=rules), BOARD, key(text), modes)
    ]


@pytest.mark.parametrize(
    ("text", "rule", "why"),
    [
        ("A B C", "longest-sequence", "it takes sequences of at most 2 strokes, and A B C has 3"),
        ("Alt+A", "modifiers", "it takes no Alt in a key"),
        (
            "A",
            "plain-keys",
            "it accepts no letter, digit or sign without a modifier, so A cannot be used",
        ),
        ("mouse:4", "takes", "it takes no buttons of the mouse, and mouse:4 is one"),
        ("wheel:up", "takes", "it takes no turns of the wheel, and wheel:up is one"),
        ("tap:Alt", "takes", "it takes no taps of a modifier, and tap:Alt is one"),
        ("hold:Space", "takes", "it takes no keys that are held, and hold:Space is one"),
        ("pen:barrel", "takes", "it takes no buttons of a pen, and pen:barrel is one"),
        ("pedal:left", "takes", "it takes no controls of devices, and pedal:left is one"),
    ],
)
def test_a_rule_that_is_broken_says_which_and_why(text: str, rule: str, why: str) -> None:
    assert broken(text) == [(rule, why, "", ())]


def test_a_run_where_none_is_taken() -> None:
    assert broken("A B", rules=Rules()) == [
        ("longest-sequence", "it takes no sequences, and A B has 2", "", ())
    ]
    assert broken("A B", rules=Rules(longest_sequence=2)) == []


def test_a_swipe_off_the_rose_names_the_bearing_and_the_nearest_there_are() -> None:
    assert broken("swipe:N") == broken("Ctrl+swipe:060") == []
    assert broken("swipe:NE") == [
        (
            "swipes",
            "its swipes in draw have 6 directions, and no NE",
            "draw",
            ("swipe:060", "swipe:N"),
        )
    ]
    ((_, why, mode, near),) = broken("swipe:E", ("draw", "label"))
    assert (why, mode) == ("its swipes in draw have 6 directions, and no E", "draw")
    assert near == ("swipe:060", "swipe:120")
    # What lies inside a mode has its rose, and each mode is judged by its own.
    assert [each[2] for each in broken("swipe:E", ("vertex", "label"))] == ["vertex"]
    ((_, why, mode, near),) = broken("swipe:N", ("everywhere",))
    assert (why, mode, near) == ("it takes no swipes", "everywhere", ())
    ((_, why, _, _),) = broken("swipe:N", ("draw",), Rules(swipes={"label": 4}))
    assert why == "it takes no swipes in draw"


def test_a_trigger_can_break_several_rules_at_once() -> None:
    rules = [each[0] for each in broken("Alt+A swipe:NE Alt+B")]
    assert rules == ["longest-sequence", "modifiers", "swipes", "modifiers"]
