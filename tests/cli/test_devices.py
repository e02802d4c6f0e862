"""Triggers beside the keyboard through the program: devices declared, given, checked, drawn, free."""

from pathlib import Path

import pytest

from tests.conftest import Ask, ask_in

PEDAL = ("desk", "device", "new", "pedal", "--controls", "left,middle,right", "--hand", "foot")
PAD = ("desk", "device", "new", "pad", "--grid", "2x3", "--dials", "D1", "--hand", "left")


@pytest.fixture
def studio(ask: Ask) -> Ask:
    """A desk with a pedal and a pad, and Quillmap taking all that hands can do."""
    assert ask(*PEDAL).status == ask(*PAD).status == 0
    rule = "takes=tap,hold,mouse,wheel,pen,device"
    assert ask("app", "rules", "quillmap", "--set", rule).status == 0
    return ask


def test_a_device_is_declared_shown_and_dropped(ask: Ask, desk: Path) -> None:
    made = ask(*PEDAL, "--json")
    assert made.json["device"]["controls"] == ["left", "middle", "right"]
    assert made.json["files"] == ["devices/pedal.toml"]
    assert ask("desk", "device", "--json").json["devices"][0]["hand"] == "foot"
    assert "2 home strokes" in ask("desk", "device", "show", "pedal").out
    again = ask(*PEDAL)
    assert (again.status, "remove pedal" in again.err) == (2, True)
    assert ask("desk", "device", "remove", "pedal").status == 0
    assert not (desk / "devices/pedal.toml").exists()
    assert ask("undo").status == 0
    assert (desk / "devices/pedal.toml").exists()


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("new", "hold", "--controls", "a"), "cannot be the name"),
        (("new", "Big Pad", "--controls", "a"), "cannot be the name"),
        (("new", "pad"), "--grid"),
        (("new", "pad", "--grid", "3"), "no grid"),
        (("new", "pad", "--controls", "a,a"), "appears twice"),
        (("new", "pad", "--controls", "a", "--reach", "-1"), "home strokes"),
        (("show", "pad"), "no device"),
        (("remove",), "Name a device"),
    ],
)
def test_what_cannot_be_declared_is_refused(
    untouched: Path, words: tuple[str, ...], says: str
) -> None:
    refused = ask_in(untouched, "desk", "device", *words)
    assert (refused.status, says in refused.err) == (2, True), refused.err


def test_a_rule_must_allow_it_and_the_way_out_works(ask: Ask) -> None:
    ask(*PAD)
    refused = ask("assign", "quillmap", "Hatch", "pad:k1")
    assert (refused.status, "takes no controls of devices" in refused.err) == (2, True)
    way_out = refused.err.rsplit("olive-compass ", 1)[1].split()
    assert ask(*way_out).status == 0
    assert ask("assign", "quillmap", "Hatch", "pad:k1", "--mode", "draw").status == 0
    assert "Hatch" in ask("press", "quillmap", "PAD:K1", "--mode", "draw").out


def test_the_pad_and_the_pedal_count_like_keys(studio: Ask) -> None:
    for title, key in (("Hatch", "pad:K1"), ("Scree", "pedal:left"), ("Marsh", "Alt+wheel:up")):
        assert studio("assign", "quillmap", title, key, "--mode", "draw").status == 0
    taken = studio("assign", "quillmap", "Wood", "pad:K1", "--mode", "draw")
    assert (taken.status, "already starts Hatch" in taken.out) == (2, True)
    free = studio("free", "quillmap", "--mode", "draw", "--json").json["free"]
    assert "pad:K2" in free[""]
    assert "pad:K1" not in free[""]
    assert "Ctrl+pad:K1" in free["Ctrl"]
    assert "Alt+wheel:up" not in free["Alt"]
    board = studio("board", "quillmap", "--mode", "draw")
    assert "pad K1  Hatch (draw)" in board.out
    assert "D1-down" in board.out
    sheet = studio("sheet", "quillmap").out
    assert "pedal:left" in sheet
    gone = studio("assign", "quillmap", "Wood", "pad:K9")
    assert (gone.status, "no control K9" in gone.err) == (2, True)
    near = studio("assign", "quillmap", "Wood", "pedel:left")
    assert "did you mean pedal?" in near.err
    studio("desk", "device", "remove", "pad")
    found = studio("check", "quillmap", "--json").json["findings"]
    assert [f["keys"] for f in found if f["id"] == "not-on-keyboard"] == [["pad:K1"]]


def test_what_one_finger_does_in_two_ways_is_said(studio: Ask) -> None:
    said = studio("assign", "quillmap", "Hatch", "hold:T", "--mode", "draw").out
    assert "The same finger starts Track with T" in said
    assert "press-and-hold" in studio("check", "quillmap").out
    assert "main button alone points" in studio("assign", "quillmap", "Wood", "mouse:main").err
    assert "has no pen" in studio("assign", "quillmap", "Wood", "pen:barrel").err
    studio("desk", "device", "new", "mouse", "--controls", "main,middle,second")
    assert "no 4 button" in studio("assign", "quillmap", "Wood", "mouse:4").err
    assert studio("app", "rules", "foldpress", "--set", "takes=tap").status == 0
    assert studio("scheme", "new", "foldpress/mine").status == 0
    pressed = studio("press", "foldpress", "tap:Alt").out
    assert "opens the bar of menus" in pressed
    said = studio("assign", "foldpress", "Save", "tap:Alt", "--if-taken", "replace").out
    assert "no longer opens the bar of menus" in said


def test_a_listing_with_every_kind_of_trigger(ask: Ask, tmp_path: Path, desk: Path) -> None:
    ask(*PEDAL)
    listing = tmp_path / "all.csv"
    listing.write_text(
        "Command,Keys\nZoom in,Ctrl+Wheel Up\nPan,MMB\nEdit,Double-click\nBack,Button 4\n"
        "Glide,Hold Space\nMenus,tap Alt\nFoot,pedal:left\nOdd,plodal:x\nSave,Ctrl+S\n"
    )
    answer = ask("app", "import", "Wheely", "--from", str(listing))
    assert answer.status == 0
    assert "the desk has no device “plodal”" in answer.out
    about = (desk / "apps/wheely/app.toml").read_text()
    assert 'takes = ["tap", "hold", "mouse", "wheel", "device"]' in about
    keys = {
        c["title"]: c["factory-keys"]
        for c in ask("app", "show", "wheely", "--json").json["commands"]
    }
    assert keys["Zoom in"] == ["Ctrl+wheel:up"]
    assert keys["Foot"] == ["pedal:left"]
    assert keys["Odd"] == []
    assert "against-rules" not in ask("check", "wheely").out
