"""Keys in a row, and patterns of keys: which are in it, and which are just outside."""

import pytest

from olive_compass.core.keys.devices import Device
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.patterns import is_pattern, pattern
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.rows import between, in_a_row
from olive_compass.desk.keyboards import load

PAD = Device(name="pad", title="Pad", rows=(("K1", "K2", "K3"), ("K4", "K5")))
BOARD = load("", "pc", "ansi-104", "us", {"pad": PAD})


@pytest.mark.parametrize(
    ("first", "last", "found"),
    [
        ("Alt+1", "Alt+3", ["Alt+1", "Alt+2", "Alt+3"]),
        ("8", "0", ["8", "9", "0"]),
        ("F5", "F5", ["F5"]),
        ("F1", "F2", ["F1", "F2"]),
        ("Num7", "Num9", ["Num7", "Num8", "Num9"]),
        ("Ctrl+B", "Ctrl+D", ["Ctrl+B", "Ctrl+C", "Ctrl+D"]),
        ("pad:K3", "pad:K5", ["pad:K3", "pad:K4", "pad:K5"]),
        ("G 1", "G 2", ["G 1", "G 2"]),
    ],
)
def test_all_keys_from_one_to_another(first: str, last: str, found: list[str]) -> None:
    assert [str(run) for run in between(read_trigger(first), read_trigger(last))] == found


@pytest.mark.parametrize(
    ("first", "last", "says"),
    [
        ("Alt+1", "Ctrl+3", "the same modifiers"),
        ("3", "1", "cannot be counted"),
        ("A", "3", "cannot be counted"),
        ("F1", "Num3", "cannot be counted"),
        ("pad:K3", "pad:K1", "cannot be counted"),
        ("G 1", "H 2", "the same modifiers"),
        ("F24", "F25", "cannot be counted"),
    ],
)
def test_what_cannot_be_counted_is_refused(first: str, last: str, says: str) -> None:
    with pytest.raises(ValueError, match=says):
        between(read_trigger(first), read_trigger(last))


@pytest.mark.parametrize(
    ("first", "count", "found"),
    [
        ("Alt+9", 2, ["Alt+9", "Alt+0"]),
        ("F11", 2, ["F11", "F12"]),
        ("Ctrl+Q", 3, ["Ctrl+Q", "Ctrl+W", "Ctrl+E"]),
        ("Ctrl+[", 2, ["Ctrl+[", "Ctrl+]"]),
        ("pad:K2", 3, ["pad:K2", "pad:K3", "pad:K4"]),
        ("Num1", 1, ["Num1"]),
    ],
)
def test_so_many_keys_from_one_on(first: str, count: int, found: list[str]) -> None:
    assert [str(run) for run in in_a_row(BOARD, read_trigger(first), count)] == found


def test_a_row_ends() -> None:
    with pytest.raises(ValueError, match="there are 2 keys in the row, and 3 are wanted"):
        in_a_row(BOARD, read_trigger("9"), 3)
    with pytest.raises(ValueError, match="is in no row"):
        in_a_row(BOARD, read_trigger("swipe:N"), 2)


@pytest.mark.parametrize(
    ("text", "fits", "not_"),
    [
        ("Ctrl+*", ["Ctrl+A", "Ctrl+F6"], ["Ctrl+Shift+A", "A", "Alt+A", "Ctrl+A Ctrl+B"]),
        ("Main+*", ["Ctrl+A"], ["Alt+A"]),
        ("*+C", ["Ctrl+C", "Alt+Shift+C"], ["C", "Ctrl+D"]),
        ("*+*", ["Ctrl+C", "Shift+F6"], ["C", "F6"]),
        ("S *", ["S P", "S P Q"], ["S", "P S", "Ctrl+S P"]),
        ("S P *", ["S P Q"], ["S P", "S"]),
        ("* P", ["S P", "G P"], ["P", "S P Q", "S Q"]),
        ("Ctrl++", ["Ctrl+Shift+="], ["Ctrl+="]),
        ("*++", ["Ctrl++"], ["+"]),
    ],
)
def test_a_pattern_fits_what_it_says_and_nothing_beside(
    text: str, fits: list[str], not_: list[str]
) -> None:
    found = pattern(text, BOARD)
    assert [each for each in fits if not found(read_trigger(each))] == []
    assert [each for each in not_ if found(read_trigger(each))] == []


def test_an_asterisk_alone_is_a_key() -> None:
    plain = pattern("*", BOARD)
    assert plain(read_trigger("S"))
    assert not plain(read_trigger("Ctrl+S"))
    assert not plain(read_trigger("S G"))
    assert [is_pattern(each) for each in ("Ctrl+*", "S *", "*", " * ", "Num*", "Ctrl+S")] == [
        True,
        True,
        False,
        False,
        False,
        False,
    ]


@pytest.mark.parametrize(
    "board", [Keyboard("pc", BOARD.layout), Keyboard("pc", None, BOARD.form), Keyboard("pc")]
)
def test_a_board_of_which_too_little_is_known_has_no_rows_of_letters(board: Keyboard) -> None:
    with pytest.raises(ValueError, match="is in no row"):
        in_a_row(board, read_trigger("Ctrl+Q"), 2)
    assert [str(run) for run in in_a_row(board, read_trigger("F11"), 2)] == ["F11", "F12"]
