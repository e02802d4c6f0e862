"""An application's shortcuts file: read by a format, delivered into, checked, collected, taken back."""

import hashlib
import json
from pathlib import Path

import pytest

from tests.conftest import Ask, ask_in

FILE = "kiln/keys.kiln"
TO = ("deliver", "reliefkiln", "--to", FILE, "--file-format", "kiln")


def change(file: Path, *pairs: tuple[str, str]) -> None:
    text = file.read_text()
    for old, new in pairs:
        assert old in text
        text = text.replace(old, new)
    file.write_text(text)


def test_delivered_changed_over_there_collected_and_taken_back(ask: Ask, desk: Path) -> None:
    file = desk / FILE
    before = file.read_bytes()
    dry = ask(*TO, "--dry-run")
    assert "47 -   view.saved-3 <= C-3\n47 +   view.saved-3 <= C-h | C-3\n" in dry.out
    assert (dry.status, file.read_bytes()) == (0, before)
    assert "[files]" not in (desk / "seat.toml").read_text()
    refused = ask(*TO)
    assert (refused.status, "--yes" in refused.err, file.read_bytes()) == (2, True, before)
    done = ask(*TO, "--yes", "--json")
    assert [d["keys"] for d in done.json["differences"]] == [["Ctrl+H", "Ctrl+3"]]
    assert (desk / f"{FILE}.before-delivery").read_bytes() == before
    assert 'reliefkiln = "kiln/keys.kiln"' in (desk / "seat.toml").read_text()
    assert 'file-format = "kiln"' in (desk / "apps/reliefkiln/app.toml").read_text()
    assert ask("deliver", "reliefkiln", "--check").status == 0
    again = ask("deliver", "reliefkiln", "--yes")
    assert "has the wanted keys" in again.out
    change(
        file,
        ("edit.redo <= C-y", "edit.redo <= nothing"),
        ("edit.grow-selection <= nothing", "edit.grow-selection <= C-g"),
        ("brush-size 24", "brush-size 30\nodd line"),
    )
    seen = ask("deliver", "reliefkiln", "--check", "--json")
    assert seen.status == 1
    assert {(d["command"], *d["keys"]) for d in seen.json["differences"]} == {
        ("edit.redo",),
        ("edit.grow-selection", "Ctrl+G"),
    }
    ask("scheme", "new", "reliefkiln/mine")
    taken = ask("deliver", "reliefkiln", "--import-changes")
    assert "took over 2 commands from the application" in taken.out
    scheme = (desk / "schemes/reliefkiln/mine.toml").read_text()
    assert '"edit.grow-selection" = { keys = ["Ctrl+G"]' in scheme
    assert '"edit.redo" = "set in Reliefkiln itself"' in scheme
    assert ask("deliver", "reliefkiln", "--check").status == 0
    # What the form does not match stayed as it was.
    assert ask("assign", "reliefkiln", "Shrink selection", "Ctrl+Shift+G").status == 0
    assert ask("deliver", "reliefkiln", "--yes").status == 0
    text = file.read_text()
    assert "brush-size 30\nodd line" in text
    assert "edit.shrink-selection <= C-S-g" in text
    for _ in range(4):
        assert ask("undo").status == 0
    assert "C-S-g" not in file.read_text()


def test_a_file_outside_the_desk_needs_the_word_of_this_seat(
    ask: Ask, desk: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    mine = str(tmp_path / "mine")
    monkeypatch.setenv("OLIVE_COMPASS_DATA", mine)
    outside = tmp_path / "app" / "keys.kiln"
    outside.parent.mkdir()
    outside.write_bytes((desk / FILE).read_bytes())
    # A desk from elsewhere may name any file: nothing is written into it unasked.
    (desk / "seat.toml").write_text(
        f'format = "olive-compass-seat/1"\n[files]\nreliefkiln = "{outside}"\n'
    )
    refused = ask("deliver", "reliefkiln", "--file-format", "kiln", "--yes")
    assert (refused.status, "not allowed this desk to write" in refused.err) == (2, True)
    assert outside.read_bytes() == (desk / FILE).read_bytes()
    done = ask("deliver", "reliefkiln", "--to", str(outside), "--file-format", "kiln", "--yes")
    assert done.status == 0
    assert "C-h | C-3" in outside.read_text()
    monkeypatch.setenv("OLIVE_COMPASS_DATA", str(tmp_path / "other"))
    assert "lies outside the desk" in ask("undo").err
    monkeypatch.setenv("OLIVE_COMPASS_DATA", mine)
    assert ask("undo").status == 0
    assert outside.read_bytes() == (desk / FILE).read_bytes()


def test_a_record_from_elsewhere_writes_no_file_outside(
    ask: Ask, desk: Path, tmp_path: Path
) -> None:
    victim = tmp_path / "victim"
    victim.write_text("mine")
    ask("assign", "quillmap", "Hatch", "F9")
    record = max((desk / ".history").glob("0*.json"))
    value = json.loads(record.read_text())
    value["files"] = [
        {
            "path": str(victim),
            "before": "theirs",
            "after-digest": hashlib.sha256(b"mine").hexdigest(),
            "after": "mine",
        }
    ]
    record.write_text(json.dumps(value))
    assert ask("undo").status == 2
    assert victim.read_text() == "mine"


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("deliver", "quillmap"), "--file-format NAME"),
        (("deliver", "reliefkiln", "--file-format", "kiln"), "--to FILE"),
        (("deliver", "reliefkiln", "--file-format", "kilm", "--to", "x"), "Did you mean kiln?"),
        (
            ("deliver", "reliefkiln", "--file-format", "kiln", "--to", "desk.toml"),
            "of the desk itself",
        ),
        (("deliver", "reliefkiln", "--file-format", "kiln", "--to", "apps"), "a folder"),
        (
            ("deliver", "reliefkiln", "--check", "--file-format", "kiln", "--to", "no"),
            "no such file",
        ),
        (("fileformat", "new", "kiln", "--pattern", "x"), "already"),
        (("fileformat", "new", "x", "--pattern", "(?P<id>a"), "cannot be read"),
        (("fileformat", "show", "kilm"), "Did you mean kiln?"),
    ],
)
def test_what_cannot_be_is_refused(untouched: Path, words: tuple[str, ...], says: str) -> None:
    refused = ask_in(untouched, *words)
    assert (refused.status, says in refused.err) == (2, True), refused.err


def test_a_form_is_made_tried_used_and_dropped(ask: Ask, desk: Path, tmp_path: Path) -> None:
    made = ask(
        "fileformat",
        "new",
        "plain",
        "--pattern",
        r"^(?P<id>[\w.-]+) = (?P<keys>.*)$",
        "--entry",
        "{id} = {keys}",
        "--spell",
        "C-=Ctrl+",
        "--several",
        "records",
        "--json",
    )
    assert made.json["files"] == ["fileformats/plain.toml"]
    file = tmp_path / "keys.txt"
    file.write_text("# mine\nline.smooth = C-M\nline.smooth = F6\nline.split = F7\nodd = Crtl+X\n")
    tried = ask("fileformat", "try", "plain", str(file), "--json")
    assert [r["keys"] for r in tried.json["records"]] == [["Ctrl+M"], ["F6"], ["F7"], []]
    assert tried.json["lines-passed-over"] == 1
    added = ask("app", "import", "Plain", "--from", str(file), "--file-format", "plain")
    assert "by the format plain; 1 line passed over" in added.out
    shown = ask("app", "show", "plain", "--json").json["commands"]
    first = shown[0]
    assert (first["command"], first["title"]) == ("line.smooth", "Line smooth")
    assert first["factory-keys"] == ["Ctrl+M", "F6"]
    assert "Plain" in ask("fileformat", "list").out or "plain" in ask("fileformat", "list").out
    kept = ask("fileformat", "remove", "plain")
    assert (kept.status, "is read by this format" in kept.err) == (2, True)
    assert ask("undo").status == 0
    assert ask("fileformat", "remove", "plain").status == 0
    assert not (desk / "fileformats/plain.toml").exists()


def test_a_pattern_over_several_lines_names_a_group_twice(ask: Ask, tmp_path: Path) -> None:
    file = tmp_path / "help.txt"
    file.write_text(
        "Handbook\n\nSmooth\n    press Ctrl+M\n\nSplit\n    hit F7 or F8\nnothing here\n"
        "Weld\n    press Ctrl+W\n"
    )
    pattern = r"^(?P<title>\w+)\n +(?:press (?P<keys>.+)|hit (?P<keys>.+))$"
    added = ask("app", "import", "Help", "--from", str(file), "--pattern", pattern)
    assert "by pattern; 2 lines passed over" in added.out
    shown = ask("app", "show", "help", "--json").json["commands"]
    assert [(c["title"], c["factory-keys"]) for c in shown] == [
        ("Smooth", ["Ctrl+M"]),
        ("Split", ["F7", "F8"]),
        ("Weld", ["Ctrl+W"]),
    ]


def test_how_it_is_read_can_be_said_wherever_a_listing_is_read(ask: Ask, tmp_path: Path) -> None:
    file = tmp_path / "list.csv"
    file.write_text("Vorgang;Knopf\nSave relief;C-F9\nUndo;C-F8\n")
    how = ("--column", "title=1", "--column", "keys=2", "--spell", "C-=Ctrl+")
    worked = ask("worklist", "reliefkiln", "--from", str(file), *how, "--json")
    assert {"command": "relief.save-relief", "gets": "Ctrl+S", "loses": "Ctrl+F9"}.items() <= next(
        s for s in worked.json["steps"] if s["command"] == "relief.save-relief"
    ).items()
    other = ask("compare", "reliefkiln", str(file), *how, "--json")
    assert other.status in (0, 1)
    assert "Ctrl+F9" in other.out
    up = ask("upgrade", "reliefkiln", "--from", str(file), *how, "--dry-run")
    assert "Ctrl+F9" in up.out


def test_a_delivery_is_taken_back_out_of_a_file_that_was_changed_since(
    ask: Ask, desk: Path
) -> None:
    file = desk / FILE
    before = file.read_text()
    assert ask("assign", "quillmap", "Cairn", "Alt+F10").status == 0
    assert ask(*TO, "--yes").status == 0
    assert "view.saved-3 <= C-h | C-3" in file.read_text()
    # The application writes what is none of ours, beside our keys and in other lines.
    change(file, ("brush-size 24", "brush-size 30\nodd line"))
    undone = ask("undo")
    assert undone.status == 0, undone.err
    expected = before.replace("brush-size 24", "brush-size 30\nodd line")
    assert file.read_text() == expected
    assert ask("redo").status == 0
    assert "view.saved-3 <= C-h | C-3" in file.read_text()
    # A file that is gone took our keys with it; older changes are to be had all the same.
    file.unlink()
    assert ask("undo").status == 0
    assert not file.exists()
    assert ask("undo").status == 0
    assert "starts Cairn" not in ask("press", "quillmap", "Alt+F10").out


def test_what_cannot_be_taken_back_is_passed_over_when_told(ask: Ask, desk: Path) -> None:
    for key in ("Alt+F10", "Alt+F9"):
        assert ask("assign", "quillmap", "Cairn", key).status == 0
    assert ask(*TO, "--yes").status == 0
    # Over there somebody gave that very command yet another key.
    change(desk / FILE, ("view.saved-3 <= C-h | C-3", "view.saved-3 <= C-h | C-9"))
    there = (desk / FILE).read_text()
    refused = ask("undo")
    assert (refused.status, "undo --skip" in refused.err) == (2, True)
    assert (desk / FILE).read_text() == there
    several = ask("undo", "3")
    assert (several.status, several.out) == (2, "")
    passed = ask("undo", "--skip")
    assert (passed.status, "as it is; undo goes on" in passed.out) == (0, True)
    # Two of three: it says which two, and its status and last sentence agree.
    log = ask("history", "--json").json["changes"]
    older = sum(not each["undoes"] and not each.get("undone") for each in log)
    some = ask("undo", str(older + 1))
    assert some.status == 1
    assert "Undid change" in some.out
    assert "There is nothing to undo." in some.out
    assert "redo" in some.out.splitlines()[-1]
