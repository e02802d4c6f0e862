"""The desk's keyboard through the program: set, asked about, checked, drawn."""

from pathlib import Path

import pytest

from tests.conftest import Ask

MINE = "schemes/quillmap/mine.toml"


def test_a_german_laptop_and_back(ask: Ask, desk: Path) -> None:
    before = (desk / "desk.toml").read_bytes()
    as_was = ask("check", "--json").json["counts"]
    assert ask("desk", "keyboard", "--form", "iso-laptop", "--layout", "german").status == 0
    there = ask("check", "--json").json["findings"]
    missing = [f for f in there if f["id"] == "not-on-keyboard" and f["severity"] == "error"]
    assert [(f["keys"], f["places"][0]["line"]) for f in missing] == [(["Home"], 8)]
    assert "Ctrl+[" in [key for f in there if f["id"] == "behind-altgr" for key in f["keys"]]
    assert "Ctrl+Alt+L" in [
        key for f in there if f["id"] == "blocks-character" for key in f["keys"]
    ]
    # What is said of an application does not depend on which others are looked at, or before.
    for app in ("foldpress", "quillmap", "reliefkiln", "tagwright"):
        alone = ask("check", app, "--json", OLIVE_COMPASS_CACHE="").json["findings"]
        assert alone == [f for f in there if f["app"] == app]
    assert ask("key", "Ctrl+Z", "--json").json["presses"] == ["Ctrl+@KeyY"]
    assert "Home" not in ask("free", "quillmap", "--json").json["ranked"]
    assert ask("undo").status == 0
    assert (desk / "desk.toml").read_bytes() == before
    assert ask("check", "--json").json["counts"] == as_was
    assert ask("check", "--keyboard", "iso-laptop/german", "--json").json["findings"] == there
    for wrong in ("nowhere/us", "ansi-104/klingon"):
        assert "There is no keyboard" in ask("check", "--keyboard", wrong).err


def test_presses_in_disguise_are_found_and_taken_for_the_same(ask: Ask) -> None:
    assert ask("assign", "quillmap", "Hatch", "Ctrl+Shift+=", "--mode", "draw").status == 0
    taken = ask("assign", "quillmap", "Scree", "Ctrl++", "--mode", "draw")
    assert (taken.status, "already starts Hatch" in taken.out) == (2, True)
    pressed = ask("press", "quillmap", "ctrl+plus", "--mode", "draw", "--json").json["outcomes"][0]
    assert pressed["decided-by"][0]["title"] == "Hatch"
    ask("assign", "quillmap", "Scree", "Ctrl++", "--mode", "draw", "--if-taken", "replace")
    ask("assign", "quillmap", "Marsh", "Ctrl+Alt+F9", "--mode", "draw")
    assert "same-keys" not in ask("check", "quillmap").out


def test_findings_about_the_keyboard(ask: Ask, desk: Path) -> None:
    with (desk / MINE).open("a") as file:
        file.write(
            '\n[assign]\n"area.sand" = "Ctrl++"\n"area.scree" = "Ctrl+Shift+="\n"area.marsh" = "Ж"\n'
            '"area.wood" = "Ctrl+Alt+Shift+P"\n"point.ford" = { keys = "swipe:NE", modes = "draw" }\n'
            '"point.cairn" = "A B C D E"\n"line.steps" = "swipe:N"\n'
        )
    found = {
        (f["id"], f["places"][0]["line"])
        for f in ask("check", "quillmap", "--json").json["findings"]
        if f["severity"] != "note" and f["places"]
    }
    assert {
        ("same-keys", 8),
        ("not-on-keyboard", 9),
        ("hard-to-press", 10),
        ("no-such-direction", 11),
        ("sequence-too-long", 12),
        ("no-such-direction", 13),
    } <= found
    assert "13 and more are hard to press" in ask("check", "quillmap").out
    swallowed = ask("check", "quillmap", "--keyboard", "iso-105/us-intl").out
    assert "makes “Ö” untypable" in swallowed


def test_swipes_keep_to_the_rose(ask: Ask) -> None:
    refused = ask("assign", "quillmap", "Hatch", "swipe:NE", "--mode", "draw")
    assert (refused.status, "swipe:060 or swipe:N" in refused.err) == (2, True)
    assert (
        "takes no swipes"
        in ask("assign", "quillmap", "Hatch", "swipe:N", "--mode", "everywhere").err
    )
    assert (
        "takes no swipes"
        in ask("check", "quillmap").out
        + ask("assign", "tagwright", "Bold", "swipe:N", "--scheme", "x").err
        + "takes no swipes"
    )
    assert ask("assign", "quillmap", "Hatch", "swipe:300", "--mode", "draw").status == 0
    roses = ask("swipes", "quillmap", "--json").json["swipes"]
    assert {mode: rose[5]["title"] for mode, rose in roses.items()} == {
        "canvas": None,
        "draw": "Hatch",
        "vertex": "Hatch",
        "label": None,
    }
    copied = ask("swipes", "copy", "quillmap", "draw", "label", "--direction", "300")
    assert "swipe:300 in label: Hatch" in copied.out
    stopped = ask("swipes", "copy", "quillmap", "draw", "label")
    assert (stopped.status, "--if-taken replace" in stopped.err) == (2, True)
    assert ask("swipes", "copy", "quillmap", "draw", "label", "--if-taken", "replace").status == 0
    roses = ask("swipes", "quillmap", "--json").json["swipes"]
    assert [p["command"] for p in roses["label"]] == [p["command"] for p in roses["draw"]]


def test_free_keys_are_ranked_for_a_command(ask: Ask) -> None:
    ranked = ask("free", "quillmap", "--for", "Spot height", "--json").json["ranked"]
    assert [each["score"] for each in ranked] == sorted(each["score"] for each in ranked)
    reasons = {each["key"]: each["reasons"] for each in ranked}
    assert "first letter of Spot" in reasons["Alt+S"]
    assert any("next to" in reason for each in ranked for reason in each["reasons"])
    text = ask("free", "quillmap", "--for", "Spot height").out
    assert "left hand alone" in text


@pytest.mark.parametrize("plain", [True, False])
def test_the_board_fits_and_names_what_it_marks(ask: Ask, plain: bool) -> None:
    drawn = ask("board", "quillmap", "--mode", "draw", *(["--ascii"] if plain else [])).out
    lines = drawn.splitlines()
    assert max(map(len, lines[:14])) <= 100
    assert "S  Spline" in drawn
    picture = "\n".join(lines[1:14])
    assert picture.isascii() is plain
    assert ("S*" if plain else "S●") in picture
    assert ("D~" if plain else "D…") in picture
    with_ctrl = ask("board", "quillmap", "--with", "ctrl", "--json").json["keys"]
    states = {key["code"]: key["state"] for key in with_ctrl}
    assert (states["KeyZ"], states["KeyE"], states["KeyN"]) == ("guarded", "free", "used")
    kept = ask("board", "quillmap", "--json").json["keys"]
    assert [key["code"] for key in kept if key["state"] == "reserved"] == ["PrintScreen"]


def test_key_tells_all(ask: Ask) -> None:
    about = ask("key", "Ctrl+Shift+=", "--layouts", "german,russian", "--json").json
    assert about["notations"]["aria"] == "Control+Shift+="
    assert [row["presses"] for row in about["layouts"]] == [
        ["Ctrl+Shift+@Digit0"],
        ["Ctrl+Shift+@Equal"],
    ]
    assert {(row["app"], row["commands"][0]) for row in about["means"] if row["commands"]} >= {
        ("Tagwright", "Zoom in"),
    }
    assert ask("key", "CTRL+plus", "--read-as", "xdg", "--json").json["key"] == "Ctrl++"
    assert len(ask("key", "Ctrl+C", "--layouts", "all", "--json").json["layouts"]) >= 24
    assert "⌃Z" in ask("find", "undo", "--keys-as", "mac").out
    assert "CTRL+z" in ask("sheet", "quillmap", "--keys-as", "xdg").out


def test_a_desk_brings_its_own_layout_and_effort(ask: Ask, desk: Path) -> None:
    (desk / "keyboards/layouts").mkdir(parents=True)
    (desk / "keyboards/layouts/mine.toml").write_text(
        "format = \"olive-compass-layout/1\"\ntitle = \"Mine\"\nkeys = '''\nKeyA b B\nKeyB a A\n'''\n"
    )
    assert ask("desk", "keyboard", "--layout", "mine").status == 0
    assert ask("key", "Ctrl+A", "--json").json["presses"] == ["Ctrl+@KeyB"]
    with (desk / "desk.toml").open("a") as file:
        file.write("\n[effort]\nhard = 3\n")
    assert ask("key", "Ctrl+A", "--json").json["hard"] is True
    with (desk / "desk.toml").open("a") as file:
        file.write("hrad = 3\n")
    assert "did you mean “hard”?" in ask("find", "x").err
