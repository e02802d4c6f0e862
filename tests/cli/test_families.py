"""Several in one go: one change, one report, one undo; and a key moved in one step."""

from pathlib import Path

import pytest

from tests.conftest import Ask

MINE = "schemes/quillmap/mine.toml"


def test_a_row_without_commands_is_refused(ask: Ask) -> None:
    answer = ask("assign", "quillmap", "--row", "Ctrl+S", "--if-taken", "replace")
    assert (answer.status, answer.err.count("\n")) == (2, 1)
    assert "Commands missing" in answer.err


def test_a_row_is_one_change_and_one_undo(ask: Ask, desk: Path) -> None:
    before = (desk / MINE).read_bytes()
    done = ask(
        "assign",
        "quillmap",
        "--row",
        "Ctrl+Alt+1",
        "Cairn",
        "Ford",
        "Beacon",
        "--mode",
        "draw",
        "--why",
        "points, in a row",
        "--json",
    )
    assert [(e["command"], e["key"]) for e in done.json["effects"]] == [
        ("point.cairn", "Ctrl+Alt+1"),
        ("point.ford", "Ctrl+Alt+2"),
        ("point.beacon", "Ctrl+Alt+3"),
    ]
    assert 'why = "points, in a row"' in (desk / MINE).read_text()
    assert ask("undo").status == 0
    assert (desk / MINE).read_bytes() == before


def test_a_range_and_commands_by_a_pattern(ask: Ask) -> None:
    done = ask("assign", "reliefkiln", "tint.[123]*", "x", "Alt+7..Alt+9", "--scheme", "house")
    assert done.status == 2
    given = ask("assign", "quillmap", "Saved view*", "Ctrl+Alt+1..Ctrl+Alt+3", "--json")
    assert [e["key"] for e in given.json["effects"]] == ["Ctrl+Alt+1", "Ctrl+Alt+2", "Ctrl+Alt+3"]
    assert len({e["command"] for e in given.json["effects"]}) == 3
    unequal = ask("assign", "quillmap", "Saved view*", "Ctrl+Alt+4..Ctrl+Alt+5")
    assert "3 commands and 2 keys" in unequal.err


def test_where_one_is_taken_all_stop_or_the_answer_decides(ask: Ask, desk: Path) -> None:
    before = (desk / MINE).read_bytes()
    words = ("assign", "quillmap", "--row", "F8", "Cairn", "Ford", "--mode", "draw")
    stopped = ask(*words)
    assert (stopped.status, "F8 and F9 are taken" in stopped.err) == (2, True)
    assert "F8 already starts Check closure" in stopped.out
    assert (desk / MINE).read_bytes() == before
    done = ask(*words, "--if-taken", "replace")
    assert "F9  Ford in draw, was Preview plates" in done.out
    assert "Ford" in ask("press", "quillmap", "F9", "--mode", "draw").out


def test_a_plan_in_a_file(ask: Ask, desk: Path) -> None:
    plan = desk / "plan.csv"
    plan.write_text(
        "command,key,mode,why\nCairn,F12,draw,by itself\nFord,Ctrl+Alt+2,,\nBeacon,,,\n"
    )
    done = ask("assign", "quillmap", "--plan", "plan.csv", "--json")
    assert [(e["command"], e["key"]) for e in done.json["effects"]] == [
        ("point.cairn", "F12"),
        ("point.ford", "Ctrl+Alt+2"),
    ]
    assert 'why = "by itself"' in (desk / MINE).read_text()
    for text, says in (
        ("command,key\nNobody,F12\n", "plan.csv:2"),
        ("command,key\nCairn,Crtl+X\n", "plan.csv:2"),
        ("command,knob\nCairn,F12\n", "no column “key”"),
        ("command,key\nCairn,F12\nFord,F12\n", "F12 is meant for Cairn and for Ford"),
    ):
        plan.write_text(text)
        refused = ask("assign", "quillmap", "--plan", "plan.csv")
        assert (refused.status, says in refused.err) == (2, True), refused.err


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("Cairn", "Ford", "F9"), "2 commands and one key"),
        (("Cairn",), "Key missing"),
        ((), "Command and key missing"),
        (("Cairn", "Ford", "F9..F8"), "cannot be counted"),
        (("Cairn", "Ford", "F8..Ctrl+F9"), "same modifiers"),
        (("Nobo*", "F8..F9"), "no command like"),
        (("--row", "F12", "Cairn", "Ford"), "F13 cannot be made on this keyboard"),
        (("--row", "Escape", "Cairn", "Ford"), "is in no row"),
    ],
)
def test_what_cannot_be_is_said(ask: Ask, words: tuple[str, ...], says: str) -> None:
    answer = ask("assign", "quillmap", *words, "--mode", "draw")
    assert (answer.status == 2) == bool(says)
    assert says in answer.err


def test_clear_bare_and_mute_take_several(ask: Ask, desk: Path) -> None:
    before = (desk / MINE).read_bytes()
    assert (
        "Cairn and Ford are keyless"
        in ask("keyless", "quillmap", "Cairn", "Ford", "--why", "x").out
    )
    assert "F8 and F9 are muted" in ask("mute", "quillmap", "F8", "F9", "--why", "x").out
    assert "cleared F8 and F9" in ask("clear", "quillmap", "F8", "F9").out
    assert "cleared point.cairn and point.ford" in ask("clear", "quillmap", "Cairn", "Ford").out
    nothing = ask("clear", "quillmap", "Spot height", "Cairn")
    assert (nothing.status, "decides nothing about point." in nothing.err) == (2, True)
    for _ in range(4):
        ask("undo")
    assert (desk / MINE).read_bytes() == before


def test_a_key_is_moved_in_one_step(ask: Ask) -> None:
    moved = ask("move", "quillmap", "F9", "Sounding", "--why", "by menu")
    assert "moved F9 from Preview plates to Sounding in draw" in moved.out
    assert "Preview plates" in ask("press", "quillmap", "F9", "--mode", "label").out
    assert "has F9 already" in ask("move", "quillmap", "F9", "Sounding", "--mode", "draw").err
    nobody = ask("move", "quillmap", "Ctrl+Alt+9", "Sounding")
    assert "assign quillmap point.sounding 'Ctrl+Alt+9'" in nobody.err
    swiped = ask("move", "quillmap", "swipe:120", "Hatch", "--mode", "draw")
    assert "from End the line to Hatch" in swiped.out
