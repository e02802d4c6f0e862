"""Keys as manuals write them: every name of every key, alone, held, in any case, and what no key can be."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from olive_compass.core.apps.listing import read_listing
from olive_compass.core.apps.listing_result import ListingRequest
from olive_compass.core.apps.listing_row import Row
from olive_compass.core.keys.cells import GESTURE, read_cell
from olive_compass.core.keys.codes import CODES
from olive_compass.core.keys.manual_cells import condition
from olive_compass.core.keys.names import NAMED_CODES
from olive_compass.core.keys.spellings import KEY_SPELLINGS

#: Names of keys in words: signs that part keys or modifiers are read with what stands around them.
WORDS = sorted(
    name for name in KEY_SPELLINGS if len(name) > 2 and all(c.isalnum() or c in " _" for c in name)
)


@given(st.sampled_from(WORDS), st.sampled_from(["", "Ctrl+", "Ctrl + ", "Alt-", "⌘"]), st.data())
def test_every_name_of_a_key_is_read_alone_held_and_in_any_case(
    name: str, held: str, data: st.DataObject
) -> None:
    shown = data.draw(st.sampled_from([name, name.upper(), name.title(), name.replace(" ", "-")]))
    cell = read_cell(held + shown)
    assert cell.problem == ""
    (run,) = cell.triggers
    assert len(run.strokes) == 1, "no name is a sequence"
    assert run.strokes[0].key == KEY_SPELLINGS[name]
    assert bool(run.strokes[0].modifiers) == bool(held)


def test_every_named_key_has_a_place_of_the_standard() -> None:
    assert set(NAMED_CODES.values()) <= set(CODES.values())


@pytest.mark.parametrize(
    ("text", "keys"),
    [
        ("Space bar", "Space"),
        ("Command–Shift–4", "Shift+Meta+4"),
        ("Fn+F5", "F5"),
        ("fn + ↓", "PageDown"),
        ("Numeric Enter", "NumEnter"),
        ("Ctrl+Numpad Plus", "Ctrl+Num+"),
        ("Ctrl+forward slash", "Ctrl+/"),
        ("Media Play/Pause", "MediaPlay"),
        ("Plus (+) key", "+"),
        ("Divide (÷) key (number pad)", "Num/"),
        ("Alt + click", "Alt+mouse:main"),
        ("Ctrl + scroll up", "Ctrl+wheel:up"),
        ("Arrow keys", "Up Down Left Right"),
        ("Shift+arrow keys", "Shift+Up Shift+Down Shift+Left Shift+Right"),
        ("Ctrl + 1…3", "Ctrl+1 Ctrl+2 Ctrl+3"),
        ("F2–F4", "F2 F3 F4"),
        ("F2 - F4", "F2 F3 F4"),
        ("Ctrl+1 - 3", "Ctrl+1 Ctrl+2 Ctrl+3"),
        ("Ctrl+1 - Ctrl+3", "Ctrl+1 Ctrl+2 Ctrl+3"),
        ("S, then Enter", "S Enter"),
        ("⌘/Ctrl+S", "Ctrl+S"),
        ("Ctrl+S (Mac: ⌘S)", "Ctrl+S"),
    ],
)
def test_what_manuals_write_is_read_as_they_mean_it(text: str, keys: str) -> None:
    cell = read_cell(text)
    assert cell.problem == ""
    assert " ".join(map(str, cell.triggers)) == keys


def test_each_platform_gets_its_own_of_two() -> None:
    for text in ("⌘/Ctrl+S", "Ctrl+S (Mac: ⌘S)", "Ctrl+S (⌘S on macOS)"):
        assert [str(run) for run in read_cell(text, 0, "mac").triggers] == ["Meta+S"]
        assert [str(run) for run in read_cell(text, 0, "pc").triggers] == ["Ctrl+S"]


@pytest.mark.parametrize(
    "text",
    [
        "Alt+Drag",
        "Hold Space and drag",
        "[number] + Enter",
        "[Ctrl]+[number]",
        "Shift, then drag",
        "Press and hold",
        "Ctrl+mouse wheel",
        "Mouse wheel",
    ],
)
def test_a_gesture_is_no_key_and_can_be_found(text: str) -> None:
    assert read_cell(text).problem == GESTURE
    rows = [
        Row(line=1, cells=("Title", "Keys")),
        Row(line=2, cells=("Pan", text)),
        Row(line=3, cells=("Save", "Ctrl+S")),
    ]
    listing = read_listing(rows, ListingRequest())
    pan, save = listing.catalogue.commands
    assert (pan.keys, pan.does) == ((), text)
    assert [str(run) for run in save.keys] == ["Ctrl+S"]
    assert [(each.what, each.text) for each in listing.set_aside] == [("keys", text)]


@pytest.mark.parametrize(
    ("cell", "keys"),
    [
        ("Umschalttaste+F5", "Shift+F5"),
        ("Umschalt+Befehl/Strg+F9", "Ctrl+Shift+F9"),
        ("Pfeil nach links", "Left"),
        ("Bild nach oben", "PageUp"),
        ("Strg+Multiplikationszeichen (*) (nur auf dem Nummernblock)", "Ctrl+Num*"),
        ("Division (÷) (Ziffernblock)", "Num/"),
        ("Alt+Pfeiltasten", "Alt+Up, Alt+Down, Alt+Left, Alt+Right"),
        ("Super+Bild↑\nund\nSuper+Bild↓", "Meta+PageUp, Meta+PageDown"),
        ("Home+Shift", "Shift+Home"),
        ("Command/Ctrl+Shift+minus sign (-)", "Ctrl+Shift+-"),
        ("U (canvas) or F2 (draw)", "U, F2"),
        ("<Control><Shift>s", "Ctrl+Shift+S"),
        ("<Primary>plus", "Main++"),
        ("<Control-Key-x><Control-Key-Return>", "Ctrl+X Ctrl+Enter"),
        ("[Ctrl]+[C] or [Ctrl]+[Insert]", "Ctrl+C, Ctrl+Insert"),
        ("[⇧][⌘][P]", "Shift+Meta+P"),
        ("<Ctrl>+<,> / <F1>", "Ctrl+,, F1"),
        ("[ / ]", "[, ]"),
        ("`Ctrl` + `+`", "Ctrl++"),
        ("**Ctrl+W**", "Ctrl+W"),
        ("(Ctrl+W)", "Ctrl+W"),
        ("<kbd>Ctrl</kbd>+<kbd class='key'>C</kbd>", "Ctrl+C"),
        ("CmdOrCtrl+Shift+S", "Main+Shift+S"),
        ("Ctrl & C", "Ctrl+C"),
        ("Ctrl and Shift and C", "Ctrl+Shift+C"),
        ("Ctrl &", "Ctrl+&"),
        ("Press F5", "F5"),
        ("hit the Enter key", "Enter"),
        ("<Super>XF86AudioRaiseVolume", "Meta+VolumeUp"),
        ("Mouse wheel click", "mouse:middle"),
        ("Ctrl + mouse wheel up", "Ctrl+wheel:up"),
    ],
)
def test_cells_of_manuals_that_were_met(cell: str, keys: str) -> None:
    assert ", ".join(map(str, read_cell(cell).triggers)) == keys


def test_words_that_are_no_keys_are_none() -> None:
    for text in ("Main Menu", "Home Screen", "Strg beim Ziehen", "multiplication sign"):
        cell = read_cell(text)
        assert cell.triggers == (), text
        assert "S I G N" not in cell.problem


@pytest.mark.parametrize("text", ["F6 ( when it is open )", "F6 (\twhen it is open)"])
def test_blanks_within_the_parentheses_of_a_condition_do_no_harm(text: str) -> None:
    assert list(map(str, read_cell(text).triggers)) == ["F6"]
    assert condition(text) == "when it is open"


def test_what_only_looks_like_a_condition_is_no_key() -> None:
    assert read_cell(":hi[ghlight] ( name | {one,two} | /word/ )").problem


PIECES = st.sampled_from(
    [*"()[]<>{}|/,+-:;.", " ", "\t", "\n", "F6", "Ctrl", "when it is", "a", "or", "num pad"]
)


@given(st.lists(PIECES, max_size=14).map("".join))
def test_any_cell_is_read_or_says_why_not(text: str) -> None:
    cell = read_cell(text)
    # What has no key and no problem says in its own words that there is none.
    assert cell.triggers or cell.problem or not re.search(r"F6|Ctrl|\ba\b", text)
