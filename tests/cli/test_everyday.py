"""A day's work through the installed program: look, assign, try, check, print, take back."""

import csv
import io
import json
import re
from pathlib import Path

import pytest

from tests.conftest import Ask, contents

MINE = "schemes/quillmap/mine.toml"


def test_find_says_where_each_key_comes_from(ask: Ask) -> None:
    found = ask("find", "check", "closure", "--app", "quillmap", "--json").json
    assert [hit["command"] for hit in found["hits"]] == ["survey.check-closure"]
    assert [(k["key"], k["layer"], k["file"], k["line"]) for k in found["hits"][0]["keys"]] == [
        ("Ctrl+Shift+K", "house", "schemes/quillmap/house.toml", 9),
        ("F8", "factory", "apps/quillmap/commands.csv", 130),
    ]
    hidden = ask("find", "small capitals", "--app", "quillmap", "--json").json["hits"][0]["keys"][0]
    assert (hidden["works-in"], hidden["overridden-by"]) == ([], "survey.check-closure")
    assert "Ctrl+Shift+K (factory, now Check closure)" in ask("find", "small cap").out


@pytest.mark.parametrize(
    ("words", "titles"),
    [
        (["splitt"], ["Split", "Split tag"]),
        (["--key", "ctrl-d", "--menu", "styles"], ["Clear style"]),
        (["--app", "quillmap", "--mode", "vertex", "--menu", "vertices"], 7),
        (["--app", "quillmap", "--menu", "harbour", "--assigned"], ["Buoy", "Beacon"]),
        (
            ["--app", "quillmap", "--menu", "harbour", "--unassigned"],
            ["Light with sectors", "Anchorage", "Wreck"],
        ),
        (["--app", "quillmap", "burn all", "--unassigned"], []),
    ],
)
def test_find_filters(ask: Ask, words: list[str], titles: object) -> None:
    answer = ask("find", *words, "--json")
    hits = [hit["title"] for hit in answer.json["hits"]]
    assert (hits if isinstance(titles, list) else len(hits)) == titles
    assert answer.status == (0 if hits else 1)


def test_assign_asks_first_replaces_when_told_and_says_what_is_left(ask: Ask, desk: Path) -> None:
    before = (desk / MINE).read_bytes()
    stopped = ask("assign", "quillmap", "Parallel line", "Ctrl+D")
    assert (stopped.status, (desk / MINE).read_bytes()) == (2, before)
    assert "already starts Duplicate (factory; apps/quillmap/commands.csv:27)" in stopped.out
    assert "--if-taken replace" in stopped.err
    dry = ask("assign", "quillmap", "Parallel line", "Ctrl+D", "--if-taken", "replace", "--dry-run")
    assert (dry.status, (desk / MINE).read_bytes()) == (0, before)
    done = ask(
        "assign", "quillmap", "Parallel line", "Ctrl+D", "--if-taken", "replace", "--why", "p"
    )
    assert done.status == 0
    assert "Duplicate loses it in draw; it still has Ctrl+D in other modes" in done.out
    assert (
        '"lines.offset" = { keys = ["Ctrl+D"], modes = ["draw"], why = "p" }'
        in (desk / MINE).read_text()
    )
    pressed = ask("press", "quillmap", "⌃D", "--mode", "vertex", "--json").json["outcomes"][0]
    assert [claim["title"] for claim in pressed["decided-by"]] == ["Parallel line"]
    assert (pressed["decided-by"][0]["file"], pressed["decided-by"][0]["line"]) == (MINE, 7)
    assert [claim["title"] for claim in pressed["overridden"]] == ["Duplicate"]


def test_a_key_taken_within_the_same_scheme_leaves_its_holder(ask: Ask, desk: Path) -> None:
    assert ask("assign", "quillmap", "Join", "F10").status == 0
    assert ask("assign", "quillmap", "Split", "F10", "--if-taken", "replace").status == 0
    text = (desk / MINE).read_text()
    assert '"lines.split"' in text
    assert '"lines.join"' not in text


def test_clear_says_what_shows_through(ask: Ask, desk: Path) -> None:
    ask("assign", "quillmap", "Parallel line", "Ctrl+D", "--if-taken", "replace")
    cleared = ask("clear", "quillmap", "Parallel line")
    assert (
        "Ctrl+D in draw: was Parallel line (mine, personal), now Duplicate (factory)."
        in cleared.out
    )
    again = ask("clear", "quillmap", "Ctrl+D")
    assert again.status == 2
    assert "decides nothing about Ctrl+D" in again.err


def test_press_waits_chooses_and_does_nothing(ask: Ask) -> None:
    waits = ask("press", "quillmap", "S", "--mode", "draw", "--json").json["outcomes"][0]
    assert waits["outcome"] == "waits"
    assert {claim["key"] for claim in waits["longer"]} == {"S H", "S I", "S T", "S P"}
    ask("assign", "quillmap", "Join", "F9", "--mode", "draw")
    muted = ask("press", "quillmap", "ctrl+shift+e")
    assert "does nothing, on purpose" in muted.out
    assert "it closes every sheet" in muted.out
    nothing = ask("press", "tagwright", "F4")
    assert (nothing.status, " is free in " in nothing.out) == (1, True)
    per_mode = ask("press", "quillmap", "Delete", "--json").json["outcomes"]
    assert [(o["modes"], o["outcome"]) for o in per_mode] == [
        (["everywhere"], "nothing"),
        (["canvas", "draw", "label"], "starts"),
        (["vertex"], "starts"),
    ]


def test_check_reports_places_that_exist_and_its_status(ask: Ask, desk: Path) -> None:
    fine = ask("check", "--json")
    assert (fine.status, fine.json["passed"]) == (0, True)
    for finding in fine.json["findings"]:
        for place in finding["places"]:
            assert len((desk / place["file"]).read_text().splitlines()) >= place["line"] > 0
    assert ask("check", "--strict").status == 1
    with (desk / MINE).open("a") as file:
        file.write(
            '\n[assign]\n"sheet.trimm" = "F9"\n"lines.split" = "Crtl+B"\n"lines.join" = "F12"\n'
            '"lines.offset" = "f12"\n"lines.reverse" = { keys = "F11", modes = "drw" }\n'
        )
    bad = ask("check", "quillmap", "--json")
    errors = {
        (f["id"], f["places"][0]["line"]) for f in bad.json["findings"] if f["severity"] == "error"
    }
    assert bad.status == 1
    assert errors == {("unknown-command", 7), ("unreadable-key", 8), ("unreadable-key", 11)}
    assert "same-press" in {f["id"] for f in bad.json["findings"]}
    assert "did you mean Ctrl+B?" in ask("check", "quillmap").out


def test_free_shows_what_no_layer_has(ask: Ask) -> None:
    free = ask("free", "quillmap", "--mode", "draw", "--json").json["free"]
    assert "Q" in free[""]
    assert "S" not in free[""]
    assert {"Ctrl+S", "Ctrl+Shift+E"}.isdisjoint(free["Ctrl"] + free["Ctrl+Shift"])
    lines = ask("free", "tagwright").out.splitlines()
    assert any(re.match(r"Ctrl +·{26} ", line) for line in lines)


def test_the_sheet_in_all_its_forms(ask: Ask) -> None:
    text = ask("sheet", "quillmap", "--mode", "label").out
    assert re.search(r"Ctrl\+F +Find on the sheet|Ctrl\+S +Save sheet", text)
    assert "Small capitals" not in text
    assert "Check closure" not in text, "its key counts there, but it cannot be used there"
    assert "Small capitals" in ask("sheet", "quillmap", "--all").out
    page = ask("sheet", "quillmap", "--as", "html").out.replace("<wbr>", "")
    assert "<kbd>Ctrl</kbd>+<kbd>Shift</kbd>+<kbd>K</kbd>" in page
    assert "<kbd>+</kbd>" in page
    rows = list(csv.DictReader(io.StringIO(ask("sheet", "quillmap", "--as", "csv").out)))
    assert {"Spline": "S"}.items() <= {row["title"]: row["keys"] for row in rows}.items()
    assert next(row["keys"] for row in rows if row["title"] == "Zoom in") == "'+ or Num+"
    assert "| `S` | Spline | draw |" in ask("sheet", "quillmap", "--as", "markdown").out
    assert ask("sheet", "quillmap", "--json").json["groups"][0]["name"] == "Sheet"


def test_the_scheme_at_a_glance(ask: Ask) -> None:
    ask("assign", "quillmap", "Spot height", "Q", "--why", "beside the hand")
    shown = ask("scheme", "show", "quillmap/mine", "--json").json
    assert (shown["with-key"], shown["with-factory-key"]) == (85, 85)
    assert [(d["title"], d["keys"], d["why"]) for d in shown["decisions"]] == [
        ("Spot height", ["Q"], "beside the hand")
    ]
    assert ask("scheme", "new", "quillmap/night", "--based-on", "mine").status == 0
    counts = {s["name"]: s["in-the-stack"] for s in ask("scheme", "list", "--json").json["schemes"]}
    assert counts == {"house": True, "mine": True, "night": False}
    assert "night over house over factory" in ask("scheme", "use", "quillmap/night").out
    assert "Make a scheme on top" in ask("scheme", "show", "quillmap/factory").err


def test_undo_gives_back_every_byte_and_history_tells(ask: Ask, desk: Path) -> None:
    (desk / MINE).write_text(
        (desk / MINE).read_text() + "\n# a note of mine\n[assign]\n\"lines.join\" = 'F10' # odd\n"
    )
    states = []
    edits = [
        ("assign", "quillmap", "Spot height", "Q", "--why", "beside the hand"),
        ("assign", "quillmap", "Join", "F11"),
        ("clear", "quillmap", "lines.join"),
        ("assign", "quillmap", "Split", "Ctrl+D", "--if-taken", "replace"),
        ("scheme", "new", "tagwright/mine"),
        ("scheme", "new", "quillmap/night", "--based-on", "mine"),
        ("scheme", "use", "quillmap/night"),
    ]
    for edit in edits:
        states.append(contents(desk))
        assert ask(*edit).status == 0, edit
    assert "# a note of mine" in (desk / MINE).read_text()
    told = ask("history", "--json").json["changes"]
    assert told[-1 - 2]["why"] == "beside the hand"
    assert told[0]["who"] == "tester"
    for state in reversed(states):
        assert ask("undo").status == 0
        assert contents(desk) == state
    # The change before those made the file that was then edited by hand.
    assert "changed by hand" in ask("undo", "2").err


def test_undo_does_not_lose_what_was_edited_by_hand(ask: Ask, desk: Path) -> None:
    ask("assign", "quillmap", "Spot height", "Q")
    text = (desk / MINE).read_text()
    (desk / MINE).write_text(text + '"lines.join" = "F12"  # mine\n')
    assert ask("undo").status == 0
    left = (desk / MINE).read_text()
    assert '"lines.join" = "F12"  # mine' in left
    assert "point.spot-height" not in left
    assert ask("redo").status == 0
    assert '"point.spot-height"' in (desk / MINE).read_text()
    (desk / MINE).write_text((desk / MINE).read_text().replace('"Q"', '"F11"'))
    before = contents(desk)
    refused = ask("undo")
    assert (refused.status, contents(desk)) == (2, before)
    assert "changed by hand" in refused.err


def test_json_never_holds_what_a_terminal_would_act_on(ask: Ask, desk: Path) -> None:
    catalogue = desk / "apps/quillmap/commands.csv"
    evil = 'evil.one,"Red\x1b[31m \x9b32m\u202e",Edit,F12,,command,"\x07bell"\n'
    catalogue.write_text(catalogue.read_text() + evil)
    for words in (
        ["find", "red"],
        ["find", "red", "--json"],
        ["press", "quillmap", "F12"],
        ["sheet", "quillmap"],
        ["check"],
    ):
        out = ask(*words).out
        assert not re.search("[\x00-\x09\x0b-\x1f\x7f-\x9f\u202e]", out)
    hits = json.loads(ask("find", "red", "--app", "quillmap", "--json").out)["hits"]
    assert any(hit["title"] == "Red 32m" for hit in hits)


def test_press_calls_a_key_free_exactly_where_free_does(ask: Ask) -> None:
    for app, mode in (("quillmap", "draw"), ("quillmap", "label"), ("foldpress", "everywhere")):
        free = ask("free", app, "--mode", mode, "--json").json["free"]
        listed = {key for keys in free.values() for key in keys}
        for key in ("Y", "E", "7", "Ctrl+Y", "Ctrl+Q", "Alt+J", "F7", "Ctrl+Alt+2", "Shift+F9"):
            said = ask("press", app, key, "--mode", mode).out
            assert (" is free in " in said) == (key in listed), (app, mode, key, said)
    # What the keyboard lacks is not free, and what is typed in one mode may be free in another.
    assert "F13 does nothing" in ask("press", "quillmap", "F13").out
    said = ask("press", "quillmap", "Y").out
    assert "Y is free in Quillmap, everywhere but in label" in said
    assert "Y does nothing (Quillmap, in label)" in said
