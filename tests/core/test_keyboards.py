"""Keyboards: layouts against literal facts, the same press, notations, roses, and effort."""

import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st

from olive_compass.core.effort.reach import effort, run_effort
from olive_compass.core.effort.weights import Weights
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.kinds.swipe import bearing_of
from olive_compass.core.keys.layouts import layout_from_lines
from olive_compass.core.keys.notations import (
    NOTATIONS,
    InexpressibleError,
    read_as,
    show,
    show_or_plain,
)
from olive_compass.core.keys.presses import physical_text
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.roses import SIZES, bearing_name, bearings, nearest, read_bearing
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.keys.triggers import Run
from olive_compass.desk.keyboards import load, load_form, load_layout, names
from olive_compass.structs import replace
from tests.core.test_triggers import runs

LAYOUTS = names("", "layouts")
FORMS = names("", "forms")


def board(layout: str = "us", form: str = "iso-105", platform: str = "pc") -> Keyboard:
    return load("", platform, form, layout)


def made(text: str, **on: str) -> list[str]:
    keyboard = board(**on)
    presses = keyboard.made(read_trigger(text).strokes[0]).presses
    return [physical_text(physical) for physical in presses]


@pytest.mark.parametrize(
    ("layout", "code", "typed"),
    [
        ("us", "KeyQ", "qQ"),
        ("us", "Digit2", "2@"),
        ("uk", "Quote", "'@"),
        ("german", "KeyY", "zZ←¥"),
        ("german", "KeyQ", "qQ@Ω"),
        ("french", "KeyQ", "aA"),
        ("french", "Digit1", "&1"),
        ("swiss", "Semicolon", "öé"),
        ("spanish", "Semicolon", "ñÑ"),
        ("dvorak", "KeyQ", "'\""),
        ("colemak", "KeyE", "fF"),
        ("russian", "KeyC", "сС"),
        ("greek", "KeyA", "αΑ"),
        ("turkish", "KeyI", "ıI"),
        ("swedish", "BracketLeft", "åÅ"),
        ("japanese", "Digit2", '2"'),
        ("brazilian", "Semicolon", "çÇ"),
        ("polish", "KeyA", "aAąĄ"),
        ("czech", "Digit2", "ě2"),
        ("hungarian", "BracketLeft", "őŐ"),
        ("us-intl", "Quote", "´¨"),
        ("italian", "Digit3", "3£"),
    ],
)
def test_layouts_type_what_they_do(layout: str, code: str, typed: str) -> None:
    table = load_layout("", layout)
    for level, char in enumerate(typed):
        assert table.typed(code, level) == char


def test_there_are_enough_layouts_and_forms_and_all_can_be_read() -> None:
    assert len(LAYOUTS) >= 24
    for layout in LAYOUTS:
        assert len(load_layout("", layout).keys) >= 47
    counts = {
        "ansi-104": 104,
        "iso-105": 105,
        "jis-109": 109,
        "abnt2-107": 107,
        "ansi-87": 87,
        "iso-88": 88,
    }
    for form in FORMS:
        seats = load_form("", form).seats
        assert len(seats) == counts.get(form, len(seats))
        assert {"KeyA", "Space", "Enter", "F12", "ArrowUp"} <= set(seats)
        boxes = sorted((s.row, s.x, s.x + s.width) for s in seats.values())
        for (row, _, end), (next_row, start, _) in itertools.pairwise(boxes):
            assert row != next_row or end <= start, form


@pytest.mark.parametrize(
    ("text", "on", "presses"),
    [
        ("Ctrl+Shift+=", {}, "Ctrl+Shift+@Equal"),
        ("Ctrl++", {}, "Ctrl+Shift+@Equal"),
        ("Ctrl+Shift++", {}, "Ctrl+Shift+@Equal"),
        ("Ctrl+?", {}, "Ctrl+Shift+@Slash"),
        ("Ctrl+C", {"layout": "dvorak"}, "Ctrl+@KeyI"),
        ("Ctrl+@KeyC", {"layout": "dvorak"}, "Ctrl+@KeyC"),
        ("Ctrl+Z", {"layout": "german"}, "Ctrl+@KeyY"),
        ("Ctrl++", {"layout": "german"}, "Ctrl+@BracketRight"),
        ("Ctrl+1", {"layout": "french"}, "Ctrl+Shift+@Digit1"),
        ("Ctrl+Num1", {}, "Ctrl+@Numpad1"),
        ("Ctrl+@", {"layout": "german"}, "Ctrl+Alt+@KeyQ"),
        ("Ctrl+@", {"layout": "german", "platform": "linux"}, "Ctrl+AltGr+@KeyQ"),
        ("Main+S", {"platform": "mac"}, "Meta+@KeyS"),
        ("Ctrl+C", {"layout": "russian"}, "Ctrl+@KeyC"),
        ("Ctrl+[", {"layout": "greek"}, "Ctrl+@BracketLeft"),
        ("swipe:NE", {}, "swipe:NE"),
        ("<", {"layout": "german"}, "@IntlBackslash"),
    ],
)
def test_what_makes_a_stroke(text: str, on: dict[str, str], presses: str) -> None:
    assert " ".join(made(text, **on)) == presses


def test_what_is_to_be_said_of_a_stroke() -> None:
    german, russian, laptop = board("german"), board("russian"), board(form="ansi-laptop")
    stroke = read_trigger("Ctrl+[").strokes[0]
    assert german.made(stroke).level == 2
    for text, level in {"A": 0, "F6": 0, "?": 1, "Num5": 0, "mouse:4": 0, "@KeyY": 0}.items():
        assert german.made(read_trigger(text).strokes[0]).level == level, text
    assert russian.made(read_trigger("Ctrl+C").strokes[0]).borrowed
    for letter in "ABCDEFGHIJKLMNOPQRSTUVWXYZ":
        assert made(f"Ctrl+{letter}", layout="russian") == [f"Ctrl+@Key{letter}"], letter
    assert german.made(read_trigger("Ctrl+^").strokes[0]).dead
    assert "no Numpad3" in laptop.made(read_trigger("Num3").strokes[0]).missing
    assert "“Ж”" in board().made(read_trigger("Ctrl+Ж").strokes[0]).missing
    assert board(form="ansi-104").made(read_trigger("<").strokes[0]).presses == (
        (("Shift",), "Comma"),
    )
    two = Keyboard("pc", layout_from_lines("", "", "KeyA a\nKeyB x\nKeyC x"))
    assert len(two.presses_of(read_trigger("X X"))) == 4
    # A key that types it with AltGr is no second way, where another types it by itself.
    three = Keyboard("pc", layout_from_lines("", "", "KeyA a A x\nKeyB x\nKeyC c x"))
    assert [press[0][1] for press in three.presses_of(read_trigger("X"))] == ["KeyB", "KeyC"]
    assert german.swallows(read_trigger("Ctrl+Alt+Q").strokes[0]) == "@"
    assert german.swallows(read_trigger("Ctrl+Shift+E").strokes[0]) == ""
    assert board("german", platform="linux").swallows(read_trigger("Ctrl+Alt+E").strokes[0]) == ""
    # A capital has a way where its small letter has one.
    twice = Keyboard("pc", layout_from_lines("", "", "KeyA a A å Å\nKeyB å"))
    once = Keyboard("pc", layout_from_lines("", "", "KeyA a A å Å\nKeyB b"))
    typing = read_trigger("Ctrl+Alt+Shift+@KeyA").strokes[0]
    assert (twice.swallows(typing), once.swallows(typing)) == ("", "Å")
    folded = board().folded()
    assert folded.press_of(read_trigger("Num3")) == folded.press_of(read_trigger("3"))
    assert german.typed_by(((), "KeyY")) == "z"


@given(
    runs, st.sampled_from(LAYOUTS), st.sampled_from(FORMS), st.sampled_from(("pc", "linux", "mac"))
)
def test_every_run_has_a_press_on_every_keyboard(
    run: Run, layout: str, form: str, platform: str
) -> None:
    keyboard = board(layout, form, platform)
    for press in keyboard.presses_of(run):
        assert len(press) == len(run.strokes)
    assert keyboard.press_of(run) in keyboard.presses_of(run)
    cost = run_effort(keyboard, run, Weights())
    assert cost is None or cost.strokes > 0


@given(runs, st.sampled_from(NOTATIONS))
def test_each_notation_reads_back(run: Run, notation: str) -> None:
    keyboard = board()
    try:
        text = show(run, notation, keyboard)
    except InexpressibleError:
        return
    (back,) = read_as(text, notation)
    if notation == "mac":
        assert load("", "mac", "iso-105", "us").press_of(back)
        plain = Run(
            tuple(
                replace(s, modifiers=tuple(m for m in s.modifiers if m != "AltGr"))
                for s in run.strokes
            )
        )
        if plain != run or any("Main" in s.modifiers for s in run.strokes):
            return
    if any("Main" in stroke.modifiers for stroke in run.strokes):
        assert keyboard.press_of(back) == keyboard.press_of(run)
    elif notation == "code":
        if not any(keyboard.made(stroke).missing for stroke in run.strokes):
            assert keyboard.press_of(back) == keyboard.press_of(run)
    else:
        assert back == run


@given(st.text(max_size=20), st.sampled_from(NOTATIONS))
def test_no_text_breaks_a_notation(text: str, notation: str) -> None:
    try:
        read_as(text, notation)
    except ValueError:
        pass


@pytest.mark.parametrize(
    ("trigger", "notation", "text"),
    [
        ("Ctrl+Shift+B", "aria", "Control+Shift+B"),
        ("Ctrl++", "aria", "Control+Plus"),
        ("Meta+Space", "aria", "Meta+Space"),
        ("AltGr+E", "aria", "AltGraph+E"),
        ("Up", "aria", "ArrowUp"),
        ("Ctrl+Shift+B", "xdg", "CTRL+SHIFT+b"),
        ("Meta+Enter", "xdg", "LOGO+Return"),
        ("Ctrl++", "xdg", "CTRL+plus"),
        ("PageDown", "xdg", "Page_Down"),
        ("É", "xdg", "U00E9"),
        ("Ctrl+Shift+Meta+B", "mac", "⌃⇧⌘B"),
        ("Main+S", "mac", "⌘S"),
        ("Meta+E", "pc", "Win+E"),
        ("Ctrl+Z", "code", "Ctrl+@KeyZ"),
        ("G D", "code", "@KeyG @KeyD"),
    ],
)
def test_notations_are_as_the_standards_have_them(trigger: str, notation: str, text: str) -> None:
    assert show(read_trigger(trigger), notation, board()) == text
    if notation in ("aria", "xdg"):
        assert read_as(text, notation) == (read_trigger(trigger),)


@pytest.mark.parametrize(
    ("text", "trigger"),
    [
        ("CTRL+U00E9", "Ctrl+É"),
        ("U0416", "Ж"),
        ("SHIFT+u1F600", "Shift+😀"),
        ("LOGO+Return", "Meta+Enter"),
        ("ALT+Page_Up", "Alt+PageUp"),
        ("KP_0", "Num0"),
        ("KP_9", "Num9"),
        # A variation selector: in another base than sixteen it would be no character.
        ("UE0100", "\U000e0100"),
    ],
)
def test_names_of_the_desktop_are_read(text: str, trigger: str) -> None:
    assert read_as(text, "xdg") == (read_trigger(trigger),)
    with pytest.raises(TriggerError, match="no character") as found:
        read_as("CTRL+U110000", "xdg")
    assert (found.value.start, found.value.end) == (5, 12)
    with pytest.raises(ValueError, match="is no key"):
        read_as("KP_10", "xdg")


def test_roses() -> None:
    assert [bearing_name(b) for b in bearings(6)] == ["N", "060", "120", "S", "240", "300"]
    assert nearest(45, 6) == (60, 0)
    for size in SIZES:
        assert len(set(bearings(size))) == size
        for bearing in bearings(size):
            assert read_bearing(bearing_name(bearing)) == bearing
            assert nearest(bearing, size)[0] == bearing
            assert bearing_of(read_trigger(f"SWIPE:{bearing}").strokes[0]) == bearing
    # More digits than anybody writes are no bearing, and are not even made a number.
    assert (read_bearing("000000045"), read_bearing("0000000045")) == (45, None)


def test_effort_grows_with_reach_and_modifiers() -> None:
    form = load_form("", "ansi-104")

    def cost(text: str) -> float:
        found = effort(
            form, board(form="ansi-104").made(read_trigger(text).strokes[0]).presses[0], Weights()
        )
        assert found is not None
        return found.strokes

    assert cost("J") == 1.0
    assert cost("J") < cost("F") < cost("A") < cost("Q") < cost("Ctrl+Q") < cost("Ctrl+Shift+Q")
    assert cost("F4") < cost("Ctrl+F4") < cost("Ctrl+Alt+Shift+F4")
    keyboard = board(form="ansi-104")
    alone = {
        text: run_effort(keyboard, read_trigger(text), Weights()).alone
        for text in ("S", "Ctrl+S", "Ctrl+P", "P", "G D")
    }
    assert alone["S"] == alone["G D"] == {"left"}
    assert "left" in alone["Ctrl+S"]
    assert "left" not in alone["Ctrl+P"]
    assert alone["P"] == {"right"}


@pytest.mark.parametrize("name", FORMS)
def test_no_key_of_a_form_lies_on_another(name: str) -> None:
    seats = list(load_form("", name).seats.values())
    for one, other in itertools.combinations(seats, 2):
        across = one.x + one.width <= other.x or other.x + other.width <= one.x
        assert across or one.y + one.height <= other.y or other.y + other.height <= one.y, (
            one,
            other,
        )


def test_only_aria_cannot_write_the_numeric_pad() -> None:
    pad, board = read_trigger("Ctrl+Num5"), load("", "pc", "ansi-104", "us")
    for notation in NOTATIONS:
        if notation == "aria":
            with pytest.raises(InexpressibleError, match="numeric pad"):
                show(pad, notation, board)
        else:
            (back,) = read_as(show(pad, notation, board), notation)
            assert board.press_of(back) == board.press_of(pad)
    assert show(read_trigger("NumLock"), "aria", board) == "NumLock"


@pytest.mark.parametrize(
    ("trigger", "says"),
    [("Ctrl+@KeyC", "by what they type, not by where they sit"), ("wheel:up", "has no ")],
)
def test_what_a_notation_cannot_write_is_written_as_ours(trigger: str, says: str) -> None:
    run, board = read_trigger(trigger), Keyboard("pc")
    for notation in ("aria", "xdg"):
        with pytest.raises(InexpressibleError, match=says):
            show(run, notation, board)
        assert show_or_plain(run, notation, board) == trigger
    assert show_or_plain(run, "mac", board) == show(run, "mac", board)
    assert show_or_plain(run, None, board) == show_or_plain(run, "", board) == trigger


def test_a_number_of_a_character_has_two_digits_at_least() -> None:
    assert read_as("U41", "xdg") == read_as("u0041", "xdg") == (read_trigger("A"),)
    with pytest.raises(ValueError, match="“U1” is no key"):
        read_as("U1", "xdg")
    # The last one that there can be, which no key types.
    with pytest.raises(ValueError, match="control character"):
        read_as("U10FFFF", "xdg")


def test_what_stays_down_or_is_pressed_twice_costs_more_than_a_press() -> None:
    keyboard = load("", "pc", "iso-105", "us")
    cost = {
        text: run_effort(keyboard, read_trigger(text), Weights())
        for text in ("Space", "hold:Space", "Ctrl+A", "Ctrl+hold:A", "tap:Shift", "tap:Shift*2")
    }
    strokes = {text: each.strokes for text, each in cost.items() if each}
    assert strokes["hold:Space"] > strokes["Space"]
    assert strokes["Ctrl+hold:A"] > strokes["Ctrl+A"]
    assert strokes["tap:Shift*2"] == pytest.approx(strokes["tap:Shift"] + 1)
