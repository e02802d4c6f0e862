"""Two at one desk, a killed process, bad requests and bad files: nothing is lost, nothing breaks."""

import os
import random
import shlex
import subprocess
import time
from pathlib import Path

import pytest
from hypothesis import settings

from benchmarks.endurance import kills
from tests.conftest import PROGRAM, Ask, ask_in

MINE = "schemes/quillmap/mine.toml"


def interrupted(desk: Path, ask: Ask) -> None:
    """Leaves the desk as a process leaves it that is killed before it writes its first file."""
    ask("assign", "quillmap", "Cairn", "Alt+F10")
    before = (desk / "schemes/quillmap/mine.toml").read_bytes()
    ask("assign", "quillmap", "Ford", "Alt+F9")
    last = max((desk / ".history").glob("0*.json"))
    last.rename(desk / ".history/pending.json")
    (desk / "schemes/quillmap/mine.toml").write_bytes(before)


@pytest.mark.parametrize("words", [("undo",), ("find", "cairn"), ("history",)])
def test_what_was_interrupted_is_settled_before_anything_is_read(
    ask: Ask, desk: Path, words: tuple[str, ...]
) -> None:
    interrupted(desk, ask)
    settled = ask(*words)
    assert settled.status == 0
    assert (
        "(Quillmap: Ford got Alt+F9 in draw) had been interrupted; it was taken back" in settled.err
    )
    assert "starts Cairn" in ask("press", "quillmap", "Alt+F10").out, "no older change goes"
    assert not (desk / ".history/pending.json").exists()
    assert ask("undo").status == 0
    assert "starts Cairn" not in ask("press", "quillmap", "Alt+F10").out


def test_a_record_of_an_interrupted_change_that_nobody_can_read_names_a_way_out(
    ask: Ask, desk: Path
) -> None:
    (desk / ".history").mkdir(exist_ok=True)
    (desk / ".history/pending.json").write_text("")
    looked = ask("press", "quillmap", "Ctrl+S")
    assert (looked.status, "then remove it" in looked.err) == (0, True)
    refused = ask("assign", "quillmap", "Cairn", "Alt+F10")
    assert (refused.status, "then remove it" in refused.err) == (2, True)
    (desk / ".history/pending.json").unlink()
    assert ask("assign", "quillmap", "Cairn", "Alt+F10").status == 0


def test_an_edit_by_hand_in_the_last_moment_is_not_lost(
    ask: Ask, desk: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    mine = desk / "schemes/quillmap/mine.toml"
    edits = ["# by hand\n"]
    sync = os.fsync

    def edited(number: int) -> None:
        sync(number)
        if edits and any(desk.glob("schemes/quillmap/.mine.toml.*")):
            with mine.open("a") as file:
                file.write(edits.pop())

    monkeypatch.setattr(os, "fsync", edited)
    assert ask("assign", "quillmap", "Cairn", "Alt+F10").status == 0
    assert (edits, "# by hand" in mine.read_text()) == ([], True)
    assert "starts Cairn" in ask("press", "quillmap", "Alt+F10").out
    assert len(ask("history", "--json").json["changes"]) >= 1


def test_many_processes_assign_at_once_and_none_is_lost(desk: Path) -> None:
    commands = ["Join", "Split", "Hatch", "Wreck", "Scree", "Marsh", "Ford", "Cairn"]
    running = [
        subprocess.Popen(
            [*PROGRAM, "assign", "quillmap", command, f"Ctrl+Alt+F{n}"],
            cwd=desk,
            stdout=subprocess.DEVNULL,
            stderr=subprocess.PIPE,
            text=True,
        )
        for n, command in enumerate(commands, 1)
    ]
    for process in running:
        _, error = process.communicate(timeout=240)
        assert process.returncode == 0, error
    text = (desk / MINE).read_text()
    assert [f"Ctrl+Alt+F{n}" in text for n in range(1, 9)] == [True] * 8
    assert len(ask_in(desk, "history", "--json").json["changes"]) == 8 + 2


@pytest.mark.skipif(os.name == "nt", reason="needs signals")
def test_a_kill_leaves_all_as_it_was_or_as_it_should_be(tmp_path: Path) -> None:
    count = 2 * settings().max_examples
    result = kills(tmp_path, count / 1000, random.Random(4))
    assert (result.faults, result.says[:8]) == ([], f"{count} kills")


@pytest.mark.skipif(os.name == "nt", reason="needs flock")
def test_a_lock_that_is_kept_is_waited_for(desk: Path) -> None:
    import fcntl

    with open(desk / ".history/lock", "w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        process = subprocess.Popen(
            [*PROGRAM, "assign", "quillmap", "Join", "F10"], cwd=desk, stdout=subprocess.DEVNULL
        )
        time.sleep(0.5)
        assert process.poll() is None
    assert process.wait(timeout=30) == 0


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (["fnd"], "Did you mean find?"),
        (["find", "--nonsense"], "Unrecognized arguments: --nonsense"),
        (
            ["desk", "--nonsense"],
            "Unrecognized arguments: --nonsense. See olive-compass desk --help",
        ),
        (["assign", "quillmap", "Join"], "Key missing"),
        (["assign", "quilmap", "Join", "F9"], "Did you mean quillmap?"),
        (["assign", "quillmap", "Jion", "F9"], "lines.join: Join"),
        (["assign", "quillmap", "Zoom", "F9"], "“Zoom” matches 3 commands of Quillmap"),
        (["assign", "quillmap", "Join", "Ctrl+Foo"], "“Foo” is no key"),
        (["assign", "quillmap", "Join", "A B C D E"], "takes sequences of at most 4 strokes"),
        (["assign", "tagwright", "Split tag", "F9"], "scheme new tagwright/mine"),
        (["assign", "quillmap", "Join", "F9", "--mode", "drw"], "Did you mean draw?"),
        (["assign", "quillmap", "Join", "F9", "--scheme", "min"], "Did you mean mine?"),
        (["press", "quillmap", "Ctrl+Shfit+B"], "did you mean Ctrl+Shift+B?"),
        (["scheme", "new", "quillmap/mine"], "has a scheme “mine” already"),
        (["scheme", "new", "quillmap/../x"], "cannot be the name"),
        (["--desk", "nowhere", "find"], "There is no folder “nowhere”"),
        (["explain", "same-pres"], "There is no finding"),
        (["desk", "new", "."], "There is a desk in this folder already"),
    ],
)
def test_bad_requests_get_a_sentence_and_change_nothing(
    untouched: Path, words: list[str], says: str
) -> None:
    refused = ask_in(untouched, *words)
    assert refused.status == 2
    assert says in refused.err
    assert "Traceback" not in refused.err


@pytest.mark.parametrize(
    ("file", "text", "place", "says"),
    [
        (MINE, 'format = "olive-compass-scheme/1"\n[assign\n', f"{MINE}:2", "not TOML"),
        (MINE, 'format = "olive-compass-scheme/9"\n', f"{MINE}:1", "reads version 1"),
        (MINE, "x = 1\n", f"{MINE}:1", "does not begin with"),
        (
            MINE,
            'format = "olive-compass-scheme/1"\n\n[asign]\n"a" = "F1"\n',
            f"{MINE}:3",
            "did you mean “assign”?",
        ),
        (
            MINE,
            'format = "olive-compass-scheme/1"\n[assign]\na.b = "F1"\nc = 3\n',
            f"{MINE}:",
            "quotation marks",
        ),
        (
            "desk.toml",
            'format = "olive-compass-desk/1"\nplatform = "amiga"\nhand = 3\n',
            "desk.toml:2",
            "Line 3",
        ),
        (
            "desk.toml",
            'format = "olive-compass-desk/1"\n[stacks]\nquillmap = ["mien"]\n',
            "desk.toml:3",
            "mine",
        ),
        (
            "apps/quillmap/app.toml",
            'format = "olive-compass-app/1"\n[modes]\na = "b"\nb = "a"\n',
            "app.toml:2",
            "inside each other",
        ),
        (
            "apps/quillmap/commands.csv",
            "# olive-compass-commands/1\nid,title\na,A\na,B\n",
            "commands.csv:4",
            "appears twice",
        ),
        ("apps/quillmap/commands.csv", "title\n", "commands.csv:1", "does not begin with"),
    ],
)
def test_bad_files_are_named_with_their_line(
    ask: Ask, desk: Path, file: str, text: str, place: str, says: str
) -> None:
    (desk / file).write_text(text)
    refused = ask("find", "split", "--app", "quillmap")
    assert refused.status == 2
    assert place in refused.err
    assert says in refused.err
    assert "Traceback" not in refused.err


def test_no_desk_no_trouble(tmp_path: Path) -> None:
    refused = ask_in(tmp_path, "find", "x")
    assert (refused.status, "desk new" in refused.err) == (2, True)
    assert ask_in(tmp_path, "desk", "new", "mine", "--name", "Mine").status == 0
    (tmp_path / "mine" / "deep").mkdir()
    assert ask_in(tmp_path / "mine" / "deep", "desk", "show", "--json").json["name"] == "Mine"
    assert ask_in(tmp_path, "app", "list", "--desk", "mine").status == 1


def test_output_survives_a_closed_pipe(desk: Path) -> None:
    script = f"{shlex.join([*PROGRAM, 'find', '--json'])} | head -1"
    done = subprocess.run(script, shell=True, cwd=desk, capture_output=True, text=True)
    assert done.stderr == ""


def test_a_scheme_with_the_line_ends_of_another_system_keeps_them(ask: Ask, desk: Path) -> None:
    text = (desk / MINE).read_text().replace(
        "\n", "\r\n"
    ) + '# note\r\n[assign]\r\n"lines.join" = "F11"  # j\r\n'
    (desk / MINE).write_bytes(text.encode())
    assert ask("assign", "quillmap", "Split", "F10").status == 0
    after = (desk / MINE).read_bytes()
    assert after.startswith(text.encode())
    assert after.count(b"\n") == after.count(b"\r\n")


def test_old_changes_are_removed_after_a_look(ask: Ask, desk: Path) -> None:
    for key in ("Alt+F9", "Alt+F10", "Alt+F11", "Alt+F12"):
        assert ask("assign", "quillmap", "Cairn", key).status == 0
    numbers = [each["number"] for each in ask("history", "--json").json["changes"]]
    shown = ask("history", "--prune", "2", "--dry-run")
    assert f"Would remove changes {numbers[-1]} to {numbers[2]} (" in shown.out
    refused = ask("history", "--prune", "2")
    assert (refused.status, "--yes" in refused.err) == (2, True)
    assert [e["number"] for e in ask("history", "--json").json["changes"]] == numbers
    done = ask("history", "--prune", "2", "--yes", "--json").json
    assert (done["changed"], done["removed"]) == (True, numbers[:1:-1])
    assert [e["number"] for e in ask("history", "--json").json["changes"]] == numbers[:2]
    assert ask("undo", "2").status == 0
    assert "starts Cairn" in ask("press", "quillmap", "Alt+F10").out
    assert "nothing to undo" in ask("undo").out
    assert ask("history", "--prune", "-1", "--yes").status == 2
    assert "Nothing to remove" in ask("history", "--prune", "100", "--yes").out
