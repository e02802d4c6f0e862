"""Macros by the installed program: recorded, cleaned, asked, put on a key, played, carried."""

import json
import os
import re
import signal
import sys
import time
from pathlib import Path

import pytest

from tests.conftest import Ask, contents

LIGHT = "quillmap/light-with-name"
FILE = "macros/quillmap/light-with-name.toml"
LOG = "logs/quillmap-2026-10-12.jsonl"
QUAY = "documents/quillmap/west-quay.json"
ANSWERS = ("--answer", "at=90,60", "--answer", "text=Wick Head", "--answer", "character=Oc.R.4s")


@pytest.fixture
def light(ask: Ask) -> str:
    """The macro of a light and its name, out of the harbour's log."""
    answer = ask("macro", "from-log", LOG, "quillmap/Light with name", "--lines", "3..12")
    assert answer.status == 0, answer.err
    return LIGHT


#: What a terminal sends for F12, which opens the field of the simulator in Quillmap.
FIELD = "\x1b[24~"


def test_from_a_log_to_a_macro_that_works_on_every_document(
    ask: Ask, light: str, desk: Path
) -> None:
    shown = ask("macro", "show", light).out
    assert "accidental: with step 3 the view is what it was before" in shown
    assert "at is a point of one document" in shown
    asked = ask("macro", "tidy", light)
    assert (asked.status, "Use --yes" in asked.err) == (2, True)
    assert ask("macro", "tidy", light, "--yes").status == 0
    assert [s["command"] for s in ask("macro", "show", light, "--json").json["steps"]] == [
        "point.light",
        "label.place",
        "view.grid",
        "label.edit",
        "label.caps",
        "label.done",
    ]
    waits = ask("macro", "play", light, "--document", QUAY)
    assert (waits.status, "Stopped at step 1: It asks: Where?" in waits.out) == (1, True)
    before = (desk / QUAY).read_bytes()
    assert ask("macro", "play", light, "--document", QUAY, *ANSWERS, "--dry-run").status == 0
    assert (desk / QUAY).read_bytes() == before
    played = ask("macro", "play", light, "--document", QUAY, *ANSWERS)
    assert "new: place-name-2 (Place name) at 90,72, style Small capitals" in played.out
    assert '"Wick Head"' in (desk / QUAY).read_text()
    assert ask("undo").status == 0
    assert (desk / QUAY).read_bytes() == before


def test_the_value_that_someone_forgot_to_ask_for(ask: Ask, light: str) -> None:
    ask("macro", "tidy", light, "--yes")
    ask("macro", "fix", light, "1", "at", "1,1")
    assert "fixed-value" not in ask("check", "quillmap").out
    ask("undo", "2")
    ask("macro", "cut", light, "1", "3", "5", "6")
    for step, name in ((1, "at"), (2, "at"), (2, "text")):
        ask("macro", "ask", light, str(step), name, "Well?")
    found = ask("check", "quillmap").out
    assert "“Light with name” has character fixed at “Fl.W.5s” in step 1" in found
    assert f"{FILE}:8" in found
    ask("macro", "ask", light, "1", "character")
    assert "fixed-value" not in ask("check", "quillmap").out


def test_on_each_document_and_which_came_out_otherwise(ask: Ask, light: str, desk: Path) -> None:
    ask("macro", "tidy", light, "--yes")
    before = contents(desk)
    answer = ask("macro", "play", light, "--on-each", "documents/quillmap", *ANSWERS)
    assert (answer.status, contents(desk)) == (1, before)
    assert re.search(r"hartmoor.json .* stopped at step 1: Light with sectors cannot", answer.out)
    assert answer.out.count("as the others") == 2
    as_json = ask(
        "macro", "play", light, "--on-each", "documents/quillmap", *ANSWERS, "--json"
    ).json
    assert [each["differs"] for each in as_json["documents"]] == [True, False, False]
    files = [each["file"] for each in as_json["documents"]]
    assert (files[0], len(set(files))) == ("hartmoor.json", 3)


def test_steps_are_edited_by_number_and_every_edit_is_undone(
    ask: Ask, light: str, desk: Path
) -> None:
    before = (desk / FILE).read_text()
    for words in (
        ("ask", light, "2", "at", "Where?"),
        ("fix", light, "2", "sectors", "4"),
        ("cut", light, "1", "3"),
        ("move", light, "4", "1"),
        ("insert", light, "2", "Halo", "--input", "value=0.8"),
        ("insert", light, "1", "--press", "ctrl-0"),
        ("note", light, "2", "as on all harbour charts"),
    ):
        dry = ask("macro", *words, "--dry-run")
        assert (dry.status, (desk / FILE).read_text()) == (0, before), dry.err
        done = ask("macro", *words)
        assert done.status == 0, done.err
        assert (desk / FILE).read_text() != before
        ask("undo")
        assert (desk / FILE).read_text() == before
    assert ask("macro", "split", light, "5", "Name style").status == 0
    assert ask("macro", "list").out.count("quillmap/") == 2
    assert ask("macro", "join", light, "name-style").status == 0
    assert len(ask("macro", "show", light, "--json").json["steps"]) == 10
    assert ask("macro", "remove", "quillmap/name-style").status == 0
    assert not (desk / "macros/quillmap/name-style.toml").exists()


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("macro", "show", "quillmap/lihgt-with-name"), "Did you mean quillmap/light-with-name"),
        (("macro", "cut", LIGHT, "99"), "has 10 steps and no step 99"),
        (("macro", "ask", LIGHT, "2", "colour"), "has no input “colour”; it has at, character"),
        (("macro", "fix", LIGHT, "2", "at", "here"), "a point is two numbers"),
        (("macro", "move", LIGHT, "4", "10"), "which must come first"),
        (("macro", "insert", LIGHT, "1", f"macro.{LIGHT[9:]}"), "would start itself"),
        (("macro", "insert", LIGHT, "1"), "Name a command"),
        (("macro", "from-log", LOG, LIGHT), "has a macro “light-with-name” already"),
        (("macro", "from-log", LOG, "foldpress/x"), "no event of Foldpress"),
        (("macro", "from-log", "nothing.jsonl"), "cannot be read"),
        (("macro", "play", LIGHT, "--answer", "at"), "is not INPUT=VALUE"),
        (("macro", "play", LIGHT, "--document", "desk.toml"), "This is not JSON"),
        (("macro", "play", LIGHT, "--on-each", "nowhere"), "There is no folder"),
        (("macro", "setting", "quillmap", "Join"), "is no setting"),
        (("macro", "setting", "quillmap", "Halo", "--key", "Ctrl+I"), "already starts Italic"),
        (("macro", "import", "desk.toml", "--app", "quillmap"), "does not begin with"),
        (("try", "quillmap", "--mode", "dram"), "Did you mean draw?"),
        (("try", "quillmap", "--script", "none.txt"), "cannot be read"),
    ],
)
def test_what_cannot_be_is_refused_and_nothing_changes(
    ask: Ask, light: str, desk: Path, words: tuple[str, ...], says: str
) -> None:
    before = contents(desk)
    answer = ask(*words)
    assert (answer.status, says in answer.err, contents(desk)) == (2, True, before), answer.err
    assert answer.err.startswith("olive-compass: ")


def test_a_macro_is_a_command_like_any_other(ask: Ask, light: str, desk: Path) -> None:
    ask("macro", "tidy", light, "--yes")
    assert ask("assign", "quillmap", "light with name", "Alt+L").status == 0
    assert "starts Light with name" in ask("press", "quillmap", "Alt+L", "--mode", "draw").out
    assert "Light with name" in ask("find", "light").out
    assert "Light with name" in ask("sheet", "quillmap", "--mode", "draw").out
    script = desk / "s.txt"
    script.write_text(
        "Alt+L\nanswer 1,2\nanswer Fl.G\nanswer Sule\nmode draw\nAlt+L\nanswer 5,5\nEscape\nback\n"
    )
    answer = ask("try", "quillmap", "--script", "s.txt", "--log", "log.jsonl")
    assert "Light with name is played." in answer.out
    assert answer.out.count("light-with-sectors-1") > 1
    events = [json.loads(line) for line in (desk / "log.jsonl").read_text().splitlines()]
    assert events[0]["format"] == "olive-compass-log/1"
    assert [(e["command"], e["how"]) for e in events[1:3]] == [
        ("macro.light-with-name", "key"),
        ("point.light", "macro"),
    ]
    refused = ask("macro", "insert", light, "1", "--press", "Alt+L")
    assert (refused.status, "would start itself" in refused.err) == (2, True)
    ask("macro", "insert", light, "1", "--press", "Alt+J")
    refused = ask("assign", "quillmap", "light with name", "Alt+J")
    assert (refused.status, "would start itself" in refused.err) == (2, True)
    assert (
        ask("app", "import", "quillmap", "--from", "apps/quillmap/commands.csv", "--yes").status
        == 0
    )
    assert "macro." not in (desk / "apps/quillmap/commands.csv").read_text()


def test_two_letters_and_the_value(ask: Ask, desk: Path) -> None:
    made = ask("macro", "setting", "quillmap", "Letter spacing", "--key", "Alt+S", "--why", "S")
    assert made.status == 0, made.err
    assert ask("macro", "setting", "quillmap", "Dim other layers", "--key", "D O").status == 0
    script = desk / "s.txt"
    script.write_text("D O\nanswer maybe\nanswer on\nmode label\nAlt+S\nanswer 0.4\n")
    answer = ask("try", "quillmap", "--script", "s.txt", "--no-log")
    assert "“maybe” is none of on, off." in answer.out
    assert "Dim other layers = on" in answer.out
    assert "Letter spacing = 0.4" in answer.out
    assert ask("undo", "2").status == 0
    assert ask("macro", "list").status == 1


def test_the_simulator_says_what_fires_and_why(ask: Ask, desk: Path) -> None:
    ask("assign", "quillmap", "Join", "Ctrl+D", "--if-taken", "share")
    ask("mute", "quillmap", "F6", "--why", "too near")
    script = desk / "s.txt"
    script.write_text(
        "S\nEscape\nS H\nEscape\nF6\nCtrl+Shift+E\nY\nnonsense+Q\nnothing at all\nmode nowhere\n"
        "menu Path\nanswer 1,1\nanswer 2,2\nselect none\nDelete\nEscape\nselect path-1\nCtrl+D\ntake 1\nhelp\n"
        "answer 5\ntake 9\nfinish\nrecord Two\nrecord Three\nN\nanswer 3,3\nanswer Quay\nfinish\nleave\nQ\n"
    )
    before = set((desk / "logs").iterdir())
    answer = ask("try", "quillmap", "--script", "s.txt", "--mode", "draw")
    for line in (
        "S waits: S H, S I, S T and S P may follow.",
        "S starts Spline",
        "S H starts Shoreline",
        "house (house), draw; schemes/quillmap/house.toml:10: drawn all day on the harbour charts",
        "F6 does nothing, on purpose",
        "Y does nothing in draw",
        "Cannot read the key",
        "Quillmap has no mode “nowhere”",
        "Which things?",
        "Ctrl+D is shared. Which one? Its number; Enter: the first",
        "Copied path-1",
        "Nothing is asked.",
        "There is no such choice.",
        "“Two” is being recorded already",
        "Recorded quillmap/two, 1 step",
    ):
        assert line in answer.out, line
    (log,) = set((desk / "logs").iterdir()) - before
    assert "cancelled" in log.read_text()
    assert ask("macro", "from-log", f"logs/{log.name}").status == 0
    wired = ask("try", "foldpress", "--dry-run", "--script", "s2.txt")
    assert wired.status == 2
    (desk / "s2.txt").write_text("F9\nF10\n")
    wired = ask("try", "foldpress", "--dry-run", "--script", "s2.txt")
    assert "F9 runs the last check again, which takes minutes" in wired.out


def test_a_macro_travels_as_toml_and_json(ask: Ask, light: str, desk: Path) -> None:
    ask("macro", "cut", light, "6", "7")
    for form in ("toml", "json"):
        assert ask("macro", "export", light, "--as", form, "--out", f"out.{form}").status == 0
        copy = ask("macro", "import", f"out.{form}", "--app", "quillmap", "--name", f"copy {form}")
        assert copy.status == 0, copy.err
        steps = ask("macro", "show", f"quillmap/copy-{form}", "--json").json["steps"]
        assert steps == ask("macro", "show", light, "--json").json["steps"]
    assert ask("macro", "export", light, "--out", "out.toml").status == 2
    none = ask("macro", "import", "out.json", "--app", "tagwright")
    assert (none.status, "No step of Light with name" in none.err) == (2, True)
    (desk / "table.csv").write_text("from,to\npoint.light,sculpt.raise\nlabel.place,gone\n")
    answer = ask("macro", "import", "out.json", "--app", "reliefkiln", "--table", "table.csv")
    assert answer.status == 0, answer.err
    assert "Step 2, point.light, character: Raise asks for no such thing" in answer.out
    assert "which Reliefkiln does not have; it was left out" in answer.out
    assert "Reliefkiln has no such command, and the table does not name it" in answer.out
    assert "same-steps" in ask("check", "quillmap").out


def test_recording_at_the_simulator(ask: Ask, desk: Path) -> None:
    (desk / "s.txt").write_text("Ctrl+0\nmenu Cairn\nanswer 4,4\n")
    before = contents(desk)
    assert (
        ask("macro", "record", "quillmap/Cairn here", "--script", "s.txt", "--dry-run").status == 0
    )
    assert contents(desk) == before
    answer = ask("macro", "record", "quillmap/Cairn here", "--script", "s.txt")
    assert "Recorded quillmap/cairn-here, 2 steps" in answer.out
    again = ask("macro", "record", "quillmap/Cairn here", "--script", "s.txt")
    assert (again.status, "already" in again.err) == (2, True)


def test_live_at_a_terminal(desk: Path) -> None:  # noqa: C901
    """Keys as a terminal sends them: a run, its wait, a question, Alt, an order, and out."""
    pty = pytest.importorskip("pty")
    import select

    process, handle = pty.fork()
    if process == 0:
        os.chdir(desk)
        os.environ.update({"TERM": "xterm", "COLUMNS": "100", "LINES": "40"})
        words = ["try", "quillmap", "--log", "live.jsonl"]
        os.execv(sys.executable, [sys.executable, "-m", "olive_compass", *words])
    shown = b""

    def quiet(most: float = 60.0) -> None:
        """Reads what is shown, however long a busy machine takes to begin, until nothing more comes."""
        nonlocal shown
        deadline = time.monotonic() + most
        wait = most
        while time.monotonic() < deadline and select.select([handle], [], [], wait)[0]:
            shown += os.read(handle, 65536)
            wait = 0.15

    quiet()
    for keys in ("s", "p", "\x1b", "s", "", "1", "2,7\r", "\x1bn", "\x1bOQ", FIELD, "mode draw\r"):
        if keys:
            os.write(handle, keys.encode())
            quiet()
        else:
            quiet(2)  # the run ends by itself after its wait
    for line in ("record Live one", "S H", "3,3", "finish"):
        if line[0].isalpha():
            os.write(handle, FIELD.encode())
            quiet()
        os.write(handle, line.encode() + b"\r")
        quiet()
    assert b"starts Split" in shown
    os.write(handle, FIELD.encode())
    quiet()
    os.write(handle, b"leave\r")
    deadline = time.monotonic() + 60
    while time.monotonic() < deadline:
        try:
            if not select.select([handle], [], [], 5)[0] or not os.read(handle, 65536):
                break
        except OSError:
            break
    else:
        os.kill(process, signal.SIGKILL)
    _, status = os.waitpid(process, 0)
    assert os.waitstatus_to_exitcode(status) == 0
    assert (desk / "macros/quillmap/live-one.toml").exists()
    events = [json.loads(line) for line in (desk / "live.jsonl").read_text().splitlines()[1:]]
    assert [(e["command"], e.get("key"), e["outcome"]) for e in events] == [
        ("lines.split", "S P", "cancelled"),
        ("line.spline", "S", "done"),
        ("contour.simplify", "Alt+N", "done"),
        ("label.edit", "F2", "done"),
        ("line.shoreline", "S H", "done"),
    ]
    assert events[1]["inputs"] == {"at": "12,7"}
