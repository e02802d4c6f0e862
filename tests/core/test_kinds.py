"""The kinds of triggers one by one: what reads as one, which press it is, where it sits, and devices."""

from collections.abc import Mapping

import pytest

from olive_compass.core.keys import kinds
from olive_compass.core.keys.devices import Device, device_form
from olive_compass.core.keys.forms import form_from_rows
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.kinds import StrokeQuery, kind_called, kind_of
from olive_compass.core.keys.layouts import latin_places, layout_from_lines
from olive_compass.core.keys.new_words import in_order
from olive_compass.core.keys.patterns import is_pattern
from olive_compass.core.keys.presses import Made, physical_text
from olive_compass.core.keys.reading import canonical, read_trigger
from olive_compass.core.keys.roses import read_bearing
from olive_compass.core.keys.spelling import Spelling
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.keys.triggers import Stroke
from olive_compass.desk.keyboards import load, load_form, load_layout

PAD = Device(
    name="pad",
    title="Pad",
    rows=(("K1", "dial"), ("push",)),
    dials=frozenset({"dial"}),
    faders=frozenset({"push"}),
)


def board(devices: Mapping[str, Device] | None = None, platform: str = "pc") -> Keyboard:
    form, layout = load_form("", "ansi-104"), load_layout("", "us")
    return Keyboard(platform, layout, form, devices=devices or {})


def stroke(text: str) -> Stroke:
    return read_trigger(text).strokes[0]


class Rules:
    """An application that takes what it is told to."""

    modifiers = ("Ctrl", "Shift")
    plain_keys = "named"

    def __init__(self, *takes: str) -> None:
        self.takes = takes


def broken(text: str, *takes: str, alone: bool = True, sizes: Mapping[str, int] = {}) -> list[str]:
    asked = StrokeQuery(
        stroke=stroke(text),
        alone=alone,
        modes=("draw", "everywhere"),
        rose=lambda mode: sizes.get(mode, 0),
        allows=Rules(*takes),
        keyboard=board(),
    )
    return [each.why for each in kind_of(asked.stroke).broken(asked)]


@pytest.mark.parametrize(
    ("text", "press"),
    [
        ("hold:Space", "hold:@Space"),
        ("hold:@KeyQ", "hold:@KeyQ"),
        ("hold:@", "Shift+hold:@Digit2"),
        ("Ctrl+hold:?", "Ctrl+Shift+hold:@Slash"),
        ("tap:Alt", "tap:Alt"),
        ("tap:Main*2", "tap:Ctrl*2"),
        ("Alt+mouse:second*2", "Alt+mouse:second*2"),
        ("wheel:up", "wheel:up"),
        ("@KeyQ", "@KeyQ"),
        ("pad:dial-up", "pad:dial-up"),
    ],
)
def test_the_press_that_a_trigger_is(text: str, press: str) -> None:
    made = board({"pad": PAD}).made(stroke(text))
    assert (physical_text(made.presses[0]), made.missing) == (press, "")


def test_without_a_layout_a_place_is_still_a_place() -> None:
    plain = Keyboard("pc", None, None)
    assert plain.made(stroke("Ctrl+@KeyQ")) == Made(presses=((("Ctrl",), "@KeyQ"),))
    assert plain.made(stroke("Ctrl+Q")) == Made(presses=((("Ctrl",), "Q"),))
    assert physical_text((("Ctrl",), "@KeyQ")) == "Ctrl+@KeyQ"
    assert plain.typed_by(((), "KeyQ")) == ""


def test_what_a_device_of_the_desk_lacks_is_said() -> None:
    few = board(
        {
            "mouse": Device(name="mouse", title="Mouse", rows=(("main", "second"),)),
            "wheel": Device(name="wheel", title="Wheel", rows=(("up", "down"),)),
            "pad": PAD,
        }
    )
    gone = {
        text: few.made(stroke(text)).missing
        for text in ("mouse:main", "mouse:middle", "mouse:second*2", "wheel:up", "wheel:left")
    }
    assert gone == {
        "mouse:main": "",
        "mouse:middle": "the mouse of this desk has no middle button",
        "mouse:second*2": "",
        "wheel:up": "",
        "wheel:left": "the wheel of this desk does not turn left",
    }
    assert kind_called("mouse").there(few) == {"mouse": ("mouse:main", "mouse:second")}
    assert kind_called("wheel").there(few) == {"wheel": ("wheel:up", "wheel:down")}
    # Where none is declared, it is the usual one.
    assert board().made(stroke("mouse:middle")).missing == ""
    assert kind_called("wheel").there(board()) == {"wheel": ("wheel:up", "wheel:down")}
    assert len(kind_called("mouse").there(board())["mouse"]) == 5


@pytest.mark.parametrize(
    ("code", "part", "strokes"),
    [
        ("mouse:main", "mouse", 1.0),
        ("mouse:second", "mouse", 1.0),
        ("mouse:middle", "mouse", 1.5),
        ("mouse:4", "mouse", 2.0),
        ("mouse:main*2", "mouse", 2.0),
        ("mouse:middle*2", "mouse", 3.0),
        ("wheel:up", "wheel", 1.0),
        ("tap:Alt", "", 0.0),
        ("tap:Alt*2", "", 1.0),
        ("hold:Space", "", 0.5),
    ],
)
def test_where_a_press_is_made_and_what_it_costs(code: str, part: str, strokes: float) -> None:
    sits = kind_called(code.partition(":")[0]).sits(code, board())
    assert sits
    assert (sits.part, sits.strokes) == (part, strokes)
    assert sits.code == {"tap": "AltLeft", "hold": "Space"}.get(code.partition(":")[0], "")


def test_what_the_same_finger_starts_with_the_same_part() -> None:
    assert kind_called("hold").twins((("Ctrl",), "hold:Space")) == ((("Ctrl",), "Space"),)
    for kind, code in (("mouse", "mouse:main"), ("tap", "tap:Alt")):
        assert kind_called(kind).twins(((), code)) == (((), f"{code}*2"),)
        assert kind_called(kind).twins(((), f"{code}*2")) == (((), code),)
    assert kind_called("wheel").twins(((), "wheel:up")) == ()


@pytest.mark.parametrize(
    ("words", "key"),
    [
        ("middle mouse button", "mouse:middle"),
        ("mouse button 4", "mouse:4"),
        ("button x2", "mouse:5"),
        ("double click", "mouse:main*2"),
        ("doubleclick", "mouse:main*2"),
        ("double", ""),
        ("mouse button 2", ""),
        ("scroll wheel up", "wheel:up"),
        ("mausrad nach unten", "wheel:down"),
        ("tap alt", "tap:Alt"),
        ("double tap shift", "tap:Shift*2"),
        ("press twice ctrl", "tap:Ctrl*2"),
        ("alt", ""),
        ("tap q", ""),
        ("hold down space", "hold:Space"),
        ("press and hold q", "hold:Q"),
        ("hold the line", ""),
        ("", ""),
    ],
)
def test_what_words_of_a_handbook_name(words: str, key: str) -> None:
    assert kinds.named(words) == key


@pytest.mark.parametrize(
    ("text", "key"),
    [("mouse:x1", "mouse:4"), ("mouse: MAIN * 2", "mouse:main*2"), ("wheel: Up", "wheel:up")],
)
def test_a_kind_is_read_generously(text: str, key: str) -> None:
    name, _, rest = text.partition(":")
    assert kind_called(name).read(rest) == key


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("mouse:main*3", "“*3” is not *2, which is twice"),
        ("mouse:nine", "is no button of a mouse (main, middle, second, 4, 5)"),
        ("wheel:out", "is no turn of the wheel (up, down, left, right)"),
        ("tap:Q", "is no modifier, and only a modifier can be tapped"),
        ("hold:", "is no key"),
        ("swipe:up", "is no direction"),
    ],
)
def test_what_is_none_of_a_kind_is_said(text: str, says: str) -> None:
    with pytest.raises(TriggerError) as error:
        read_trigger(text)
    assert says in str(error.value)


def test_what_an_application_takes_beside_keys_must_be_said() -> None:
    assert broken("tap:Alt") == ["it takes no taps of a modifier, and tap:Alt is one"]
    assert broken("wheel:up") == ["it takes no turns of the wheel, and wheel:up is one"]
    assert broken("hold:Space") == ["it takes no keys that are held, and hold:Space is one"]
    assert broken("mouse:middle", "wheel") == [
        "it takes no buttons of the mouse, and mouse:middle is one"
    ]
    for text in ("tap:Alt", "wheel:up", "hold:Space", "mouse:middle"):
        assert broken(text, "tap", "wheel", "hold", "mouse") == []
    main = ["the main button alone points and draws, in every application"]
    assert broken("mouse:main", "mouse") == main
    assert broken("Ctrl+mouse:main", "mouse") == broken("mouse:main*2", "mouse") == []
    assert broken("mouse:main", "mouse", alone=False) == []


def test_a_swipe_goes_where_the_rose_of_the_mode_goes() -> None:
    assert broken("swipe:N", sizes={"draw": 4, "everywhere": 2}) == [
        "its swipes in everywhere have 2 directions, and no N"
    ]
    assert broken("swipe:NE", sizes={"draw": 8}) == ["it takes no swipes"]
    assert broken("swipe:E", sizes={"everywhere": 2}) == ["it takes no swipes in draw"]
    assert broken("swipe:E", sizes={"draw": 4, "everywhere": 2}) == []
    assert broken("Ctrl+Q", sizes={}) == []
    assert [read_bearing(text) for text in ("0", "360", "361", "359", "0000000090")] == [
        0,
        0,
        None,
        359,
        None,
    ]


def test_a_device_or_control_that_is_not_there_is_said_with_the_nearest() -> None:
    with_pad = board({"pad": PAD})
    gone = {text: with_pad.made(stroke(text)).missing for text in ("pat:K1", "pad:K9", "zzz:K1")}
    assert gone == {
        "pat:K1": "the desk has no device “pat”; did you mean pad?",
        "pad:K9": f"Pad has no control K9 ({PAD.said_controls})",
        "zzz:K1": "the desk has no device “zzz”",
    }


def test_the_controls_of_a_device_and_how_it_is_drawn() -> None:
    assert PAD.controls == ("K1", "dial", "dial-up", "dial-down", "push-up", "push-down")
    assert PAD.said_controls == "K1, dial, dial-up, dial-down, push-up, push-down"
    row = tuple(f"K{n}" for n in range(1, 9))
    assert Device(name="pad", title="Pad", rows=(row,)).said_controls == ", ".join(row)
    assert Device(name="pad", title="Pad", rows=((*row, "K9"),)).said_controls == "K1 to K9"
    form = device_form(PAD)
    sizes = {code: (seat.x, seat.y, seat.width) for code, seat in form.seats.items()}
    assert sizes == {
        "pad:K1": (0.0, 0.0, 1.0),
        "pad:dial": (1.0, 0.0, 1.0),
        "pad:dial-up": (2.0, 0.0, 1.25),
        "pad:dial-down": (3.25, 0.0, 1.5),
        "pad:push-up": (0.0, 1.0, 1.25),
        "pad:push-down": (1.25, 1.0, 1.5),
    }


def test_mistakes_in_forms_and_layouts_are_said_with_their_row() -> None:
    for rows, says in (
        ("0 KeyA KeyB\n1 KeyA", "row 2: KeyA appears twice"),
        ("0 KeyA\n1 KeyB*x", "row 2: a size in “1 KeyB*x” is no number"),
    ):
        with pytest.raises(ValueError, match="row 2") as error:
            form_from_rows("odd", "Odd", rows)
        assert str(error.value) == says
    form = form_from_rows("small", "Small", "0 KeyA*1.5 _0.5 KeyB*1*2\n\n1 KeyC")
    assert [(s.x, s.width, s.height, s.row) for s in form.seats.values()] == [
        (0.0, 1.5, 1.0, 0),
        (2.0, 1.0, 2.0, 0),
        (0.0, 1.0, 1.0, 1),
    ]
    with pytest.raises(ValueError, match="line 2 of the keys: KeyB has more than four levels"):
        layout_from_lines("odd", "Odd", "KeyA a\nKeyB a b c d e")
    assert layout_from_lines("full", "Full", "KeyA a A b none").typed("KeyA", 3) == ""
    # Both letters make it Latin: a board that types one of them only is of another script.
    assert layout_from_lines("full", "Full", "KeyA a A\nKeyB e E").is_latin
    assert not layout_from_lines("full", "Full", "KeyA a A").is_latin
    assert (latin_places()["1"], latin_places()["!"]) == (("Digit1", 0), ("Digit1", 1))


def test_a_character_is_untypable_where_nothing_else_types_it() -> None:
    german = load("", "pc", "iso-105", "german")
    # The euro sign stands on E behind AltGr and nowhere else; a board of the United States has no AltGr.
    assert german.swallows(stroke("Ctrl+Alt+Q")) == "@"
    # AltGr+Shift+E types it as well.
    assert not german.swallows(stroke("Ctrl+Alt+E"))
    assert board().swallows(stroke("Ctrl+Alt+E")) == ""
    assert load("", "mac", "iso-105", "german").swallows(stroke("Ctrl+Alt+E")) == ""
    assert german.typed_by(((), "Space")) == " " == german.typed_by((("Shift",), "Space"))
    assert (
        german.typed_by((("Ctrl", "Alt"), "KeyE")) == "€" == german.typed_by((("AltGr",), "KeyE"))
    )


def test_the_decimal_key_of_the_pad_is_called_by_what_it_types() -> None:
    german, us = load("", "pc", "iso-105", "german"), board()
    assert german.named_code("Num,") == german.named_code("Num.") == "NumpadDecimal"
    assert (us.named_code("Num."), us.named_code("Num,")) == ("NumpadDecimal", "NumpadComma")


@pytest.mark.parametrize(
    ("text", "written"),
    [
        ("Ctrl+Shift+B", "Ctrl+Shift+B"),
        ("Shift+Ctrl+B", None),
        ("Ctrl+Ctrl+B", None),
        ("G D", "G D"),
        ("g", None),
        ("Ctrl++", "Ctrl++"),
        ("deck:K3", "deck:K3"),
        ("ctrl-deck:K3", None),
        ("mouse:nine", None),
        ("Ctrl+", None),
        ("é", None),
    ],
)
def test_our_own_writing_is_known_without_the_words_of_others(
    text: str, written: str | None
) -> None:
    found = canonical(text)
    assert (str(found) if found else None) == written


@pytest.mark.parametrize(
    ("text", "trigger"),
    [
        ("^c", "Ctrl+C"),
        ("^⇧c", "Ctrl+Shift+C"),
        ("^", "^"),
        ("Ctrl + ^", "Ctrl+^"),
        ("Alt Gr+E", "AltGr+E"),
        ("Ctrl  -  Shift  -  B", "Ctrl+Shift+B"),
        ("⌘ -", "Meta+-"),
        ("⌘+ ⌘A", "Meta++ Meta+A"),
        ("Page_Up", "PageUp"),
        ("e\N{COMBINING ACUTE ACCENT}", "É"),
        ("K then S", "K S"),
        ("Num_Lock", "NumLock"),
        ("Double-Click", "mouse:main*2"),
        ("Mouse Button 4", "mouse:4"),
    ],
)
def test_other_writings(text: str, trigger: str) -> None:
    assert str(read_trigger(text)) == trigger


@pytest.mark.parametrize(
    ("text", "span"),
    [
        ("", (0, 0)),
        ("  ", (0, 2)),
        ("Ctrl+\x01B", (5, 6)),
        ("K then", (2, 6)),
        ("Ctrl+Shift+Ctrl+B", (0, 16)),
        ("Ctrl+", (0, 5)),
        ("Ctrl+Qwerty", (5, 11)),
    ],
)
def test_where_a_text_cannot_be_read(text: str, span: tuple[int, int]) -> None:
    with pytest.raises(TriggerError) as error:
        read_trigger(text)
    assert (error.value.start, error.value.end) == span


def test_words_of_an_application_are_read_and_kept_in_order() -> None:
    assert Spelling({}).read("C-M") == "C-M"
    assert Spelling({"C-": "Ctrl+"}).read("S-M") == "S-M"
    assert Spelling({"C-": "Ctrl+", "S-": "Shift+"}).read("S-M") == "Shift+M"
    words = {"Ent": "Enter", "S-": "Shift+", "C-": "Ctrl+", "Bsp": "Backspace"}
    assert list(in_order(words)) == ["C-", "S-", "Bsp", "Ent"]
    assert [is_pattern(text) for text in ("*", " * ", "Num*", "Ctrl+*", "* S")] == [
        False,
        False,
        False,
        True,
        True,
    ]
