"""The history: what is recorded, taken back, finished after an interruption, or refused."""

import itertools
import json
import os
import random
import sys
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from olive_compass.desk.storage.folders import Folder
from olive_compass.desk.storage.history import History
from olive_compass.desk.storage.locking import locked
from olive_compass.desk.storage.records import FileChange, StaleError, digest
from olive_compass.desk.storage.saving import remove_leftovers, write_atomically, written_place
from olive_compass.errors import UserError


def save(history: History, *changes: FileChange, what: str = "x", undoes: int = 0) -> int:
    return history.save(
        list(changes), what=what, why="w", command="c", who="u", when="2026-01-01", undoes=undoes
    )


def undo(history: History) -> None:
    record = history.to_undo()
    assert record is not None
    save(history, *history.undo_changes(record), what="undo", undoes=record.number)


def redo(history: History) -> None:
    record = history.to_redo()
    assert record is not None
    save(history, *history.undo_changes(record), what="redo", undoes=record.number)


def test_a_change_of_several_files_is_one(tmp_path: Path) -> None:
    (tmp_path / "old").write_bytes(b"\xff\x00 not text")
    history = History(str(tmp_path))
    changes = [
        FileChange("old", b"\xff\x00 not text", None),
        FileChange("deep/new", None, "Übung\r\n".encode()),
        FileChange("same", None, None),
    ]
    assert save(history, *changes, what="moved") == 1
    assert not (tmp_path / "old").exists()
    assert (tmp_path / "deep/new").read_bytes() == "Übung\r\n".encode()
    record = history.record(1)
    assert (record.what, record.who, record.why) == ("moved", "u", "w")
    assert list(record.paths) == ["old", "deep/new"]
    undo(history)
    assert (tmp_path / "old").read_bytes() == b"\xff\x00 not text"
    assert not (tmp_path / "deep/new").exists()
    assert history.to_undo() is None
    redo(history)
    assert not (tmp_path / "old").exists()
    assert history.to_redo() is None


def test_a_file_that_moved_meanwhile_is_not_overwritten(tmp_path: Path) -> None:
    (tmp_path / "a").write_text("theirs")
    history = History(str(tmp_path))
    with pytest.raises(StaleError):
        save(history, FileChange("b", None, b"x"), FileChange("a", b"mine", b"new"))
    assert not (tmp_path / "b").exists()
    assert history.numbers() == []
    save(history, FileChange("a", b"theirs", b"new"))
    (tmp_path / "a").write_text("by hand")
    record = history.to_undo()
    assert record is not None
    with pytest.raises(UserError, match="changed by hand"):
        history.undo_changes(record)


@given(st.lists(st.sampled_from(["edit", "undo", "redo"]), max_size=25), st.integers())
def test_undo_and_redo_walk_a_straight_line(
    tmp_path_factory: pytest.TempPathFactory, steps: list[str], seed: int
) -> None:
    """Held against a list of states and a place in it, the obvious way to say what is meant."""
    root = tmp_path_factory.mktemp("h")
    history = History(str(root))
    draw = random.Random(seed)
    states: list[bytes | None] = [None]
    at = 0
    for step in steps:
        if step == "edit":
            new = str(draw.random()).encode()
            save(history, FileChange("f", states[at], new))
            del states[at + 1 :]
            states.append(new)
            at += 1
        elif step == "undo" and at > 0:
            undo(history)
            at -= 1
        elif step == "redo" and at + 1 < len(states):
            redo(history)
            at += 1
        now = (root / "f").read_bytes() if (root / "f").exists() else None
        assert now == states[at]
        assert (history.to_redo() is not None) == (at + 1 < len(states))


@pytest.mark.parametrize("written", [0, 1, 2])
def test_an_interrupted_change_is_settled_by_the_next(tmp_path: Path, written: int) -> None:
    for name in ("a", "b"):
        (tmp_path / name).write_bytes(b"old")
    history = History(str(tmp_path))
    changes = [FileChange("a", b"old", b"new"), FileChange("b", b"old", b"new")]
    save(history, *changes)
    os.rename(tmp_path / ".history/000001.json", tmp_path / ".history/pending.json")
    for name in ("a", "b")[written:]:
        (tmp_path / name).write_bytes(b"old")
    (tmp_path / ".a.77.tmp").write_bytes(b"half")
    save(history, FileChange("c", None, b"x"), what="next")
    whole = b"new" if written == 2 else b"old"
    assert {(tmp_path / name).read_bytes() for name in ("a", "b")} == {whole}
    assert not (tmp_path / ".history/pending.json").exists()
    assert not (tmp_path / ".a.77.tmp").exists()
    assert [history.record(n).what for n in history.numbers()] == (
        ["x", "next"] if written == 2 else ["next"]
    )


def test_what_was_edited_by_hand_after_an_interruption_stays(tmp_path: Path) -> None:
    (tmp_path / "a").write_bytes(b"old")
    history = History(str(tmp_path))
    save(history, FileChange("a", b"old", b"new"), FileChange("b", None, b"new"))
    os.rename(tmp_path / ".history/000001.json", tmp_path / ".history/pending.json")
    (tmp_path / "a").write_bytes(b"by hand")
    save(history, FileChange("c", None, b"x"))
    assert (tmp_path / "a").read_bytes() == b"by hand"
    assert not (tmp_path / "b").exists()


@pytest.mark.parametrize(
    "text", ["{", "[]", '{"format": "other"}', '{"format": "olive-compass-change/2"}']
)
def test_a_spoilt_record_is_refused_by_name(tmp_path: Path, text: str) -> None:
    (tmp_path / ".history").mkdir()
    (tmp_path / ".history/000001.json").write_text(text)
    with pytest.raises(UserError) as refused:
        list(History(str(tmp_path)).records())
    assert "000001.json" in refused.value.file


def test_records_can_be_read_by_a_person(tmp_path: Path) -> None:
    save(History(str(tmp_path)), FileChange("a", None, "Näher".encode()), what="größer")
    undo(History(str(tmp_path)))
    text = (tmp_path / ".history/000002.json").read_text(encoding="utf-8")
    assert "größer" not in text
    assert json.loads(text)["files"][0]["before"] == "Näher"


FIRST = "".join(f'{n:03} = "a decision about something, and why"\n' for n in range(100)).encode()


def changed_often(history: History, times: int) -> list[bytes]:
    """A file of 4 KB in which one line after the other becomes another; all that it ever was."""
    states = [FIRST]
    save(history, FileChange("f", None, FIRST))
    for n in range(times):
        lines = states[-1].splitlines(keepends=True)
        lines[n % 100] = f'{n:03} = "another decision, the {n}th"\n'.encode()
        states.append(b"".join(lines))
        save(history, FileChange("f", states[-2], states[-1]))
    return states


def test_a_change_takes_what_was_changed_and_all_can_be_undone(tmp_path: Path) -> None:
    history = History(str(tmp_path))
    states = changed_often(history, 60)
    sizes = [os.path.getsize(history.path_of(number)) for number in history.numbers()[1:]]
    assert sum(sizes) / len(sizes) < 1000
    for number, (before, after) in enumerate(itertools.pairwise(states), 2):
        assert history.files(history.record(number)) == (FileChange("f", before, after),)
    for state in reversed(states[:-1]):
        undo(history)
        assert (tmp_path / "f").read_bytes() == state


def test_what_went_before_can_go_and_the_rest_be_undone(tmp_path: Path) -> None:
    history = History(str(tmp_path))
    states = changed_often(history, 40)
    history.prune(history.numbers()[:-10])
    assert len(history.numbers()) == 10
    for state in reversed(states[-11:-1]):
        undo(history)
        assert (tmp_path / "f").read_bytes() == state
    assert history.to_undo() is None
    save(history, FileChange("f", states[-11], b"new"))
    assert history.record(history.numbers()[-1]).number == 52


def test_a_record_that_is_gone_is_named_where_a_later_one_needs_it(tmp_path: Path) -> None:
    history = History(str(tmp_path))
    changed_often(history, 3)
    os.unlink(history.path_of(2))
    with pytest.raises(UserError) as refused:
        undo(history)
    assert "000002.json" in refused.value.file


def test_a_record_of_an_earlier_version_is_undone(tmp_path: Path) -> None:
    history = History(str(tmp_path))
    save(history, FileChange("f", None, b"old\n"))
    record = {
        "format": "olive-compass-change/1",
        "number": 2,
        **dict.fromkeys(("when", "who", "what", "why", "command"), "x"),
        "undoes": 0,
        "files": [
            {"path": "f", "before": "old\n", "after-digest": digest(b"new\n"), "after": "new\n"}
        ],
    }
    (tmp_path / "f").write_bytes(b"new\n")
    (tmp_path / ".history/000002.json").write_text(json.dumps(record))
    undo(history)
    assert (tmp_path / "f").read_bytes() == b"old\n"


@given(st.binary(max_size=300) | st.text("ab\n\r", max_size=600).map(str.encode), st.data())
def test_any_content_comes_back(
    tmp_path_factory: pytest.TempPathFactory, first: bytes, data: st.DataObject
) -> None:
    root = tmp_path_factory.mktemp("h")
    history = History(str(root))
    states: list[bytes | None] = [None, first]
    save(history, FileChange("f", None, first))
    for _ in range(data.draw(st.integers(0, 4))):
        now = states[-1] or b""
        at = data.draw(st.integers(0, len(now)))
        new = data.draw(st.none() | st.binary(max_size=40).map(lambda b, a=at, n=now: n[:a] + b))
        if new != states[-1]:
            save(history, FileChange("f", states[-1], new))
            states.append(new)
    for state in reversed(states[:-1]):
        undo(history)
        assert ((root / "f").read_bytes() if (root / "f").exists() else None) == state


def test_writing_is_all_or_nothing(tmp_path: Path) -> None:
    path = tmp_path / "x" / "f"
    write_atomically(str(path), b"one")
    with pytest.raises(TypeError):
        write_atomically(str(path), "text")  # type: ignore[arg-type]
    assert path.read_bytes() == b"one"
    assert os.listdir(path.parent) == ["f"]
    history = History(str(tmp_path))
    with pytest.raises(UserError):
        save(history, FileChange("x/f", b"one", b"two"), FileChange("x/f/g", None, b"y"))
    assert path.read_bytes() == b"one"
    assert history.numbers() == []


def test_a_lock_is_given_up_when_it_is_left(tmp_path: Path) -> None:
    desk = tmp_path / "deep"
    for _ in range(2):
        with locked(str(desk)):
            assert (desk / ".history/lock").is_file()


def test_an_interrupted_change_is_settled_before_anything_is_read(tmp_path: Path) -> None:
    history = History(str(tmp_path))
    assert history.recover() is None
    assert save(history, FileChange("a", None, b"one")) == 1
    path = tmp_path / ".history" / "000001.json"
    pending = tmp_path / ".history" / "pending.json"
    # All was written but the number: it holds.
    os.replace(path, pending)
    settled = history.recover()
    assert settled is not None
    assert (settled.number, settled.what, settled.holds) == (1, "x", True)
    assert history.recover() is None
    # Nothing was written: it is taken back.
    os.replace(path, pending)
    (tmp_path / "a").unlink()
    settled = history.recover()
    assert settled is not None
    assert not settled.holds
    assert history.numbers() == []
    assert not (tmp_path / "a").exists()


def test_a_change_that_another_is_at_is_left_to_it(tmp_path: Path) -> None:
    import subprocess
    import sys

    history = History(str(tmp_path))
    save(history, FileChange("a", None, b"one"))
    os.replace(tmp_path / ".history" / "000001.json", tmp_path / ".history" / "pending.json")
    script = (
        "import sys, time\nfrom olive_compass.desk.storage.locking import locked\n"
        "with locked(sys.argv[1]):\n    print('held', flush=True)\n    sys.stdin.read()"
    )
    words = [sys.executable, "-c", script, str(tmp_path)]
    with subprocess.Popen(words, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True) as other:
        assert other.stdout is not None
        assert other.stdout.readline() == "held\n"
        assert history.recover() is None
        with (
            pytest.raises(UserError, match="has been writing to this desk for 0 seconds"),
            locked(str(tmp_path), patience=0.05),
        ):
            pass
        other.communicate("")
    assert history.recover() is not None


def test_a_turn_is_held_while_it_lasts_and_taken_again_within(tmp_path: Path) -> None:
    history = History(str(tmp_path))
    with history.turn():
        assert save(history, FileChange("a", None, b"one")) == 1
        with history.turn():
            assert save(history, FileChange("a", b"one", b"two")) == 2
    assert (tmp_path / "a").read_bytes() == b"two"


def test_where_a_file_is_really_written(tmp_path: Path) -> None:
    root = tmp_path / "desk"
    (root / "deep").mkdir(parents=True)
    (tmp_path / "outside").write_text("theirs")
    (root / "real").write_text("ours")
    (root / "link").symlink_to("real")
    (root / "out").symlink_to(tmp_path / "outside")
    assert written_place(str(root), "deep/new").path == str((root / "deep/new").resolve())
    assert written_place(str(root), "link").path == str((root / "real").resolve())
    for path in (".git/config", "deep/.GIT/hooks/post-merge"):
        with pytest.raises(UserError, match="belongs to git"):
            written_place(str(root), path)
    with pytest.raises(UserError, match="leads out of the desk") as refused:
        written_place(str(root), "out")
    assert refused.value.file == "out"
    with pytest.raises(UserError, match="lies outside the desk"):
        written_place(str(root), str(tmp_path / "outside"))
    history = History(str(root))
    save(history, FileChange("link", b"ours", b"changed"))
    assert (root / "real").read_text() == "changed"
    assert (root / "link").is_symlink()
    with pytest.raises(UserError):
        save(history, FileChange("out", b"theirs", b"changed"))
    assert (tmp_path / "outside").read_text() == "theirs"


def test_undo_keeps_what_was_done_by_hand_since(tmp_path: Path) -> None:
    head = b'format = "olive-compass-scheme/1"\napp = "quillmap"\nlayer = "personal"\n\n[keyless]\n'
    path = "schemes/quillmap/mine.toml"
    history = History(str(tmp_path))
    before = head + b'"a" = "one"\n'
    after = head + b'"a" = "one"\n"b" = "two"\n'
    save(history, FileChange(path, None, before))
    save(history, FileChange(path, before, after))
    by_hand = after + b'"c" = "by hand"\n'
    (tmp_path / path).write_bytes(by_hand)
    undo(history)
    text = (tmp_path / path).read_text()
    assert '"b"' not in text
    assert '"c" = "by hand"' in text
    (tmp_path / "plain").write_bytes(b"1")
    save(history, FileChange("plain", b"1", b"2"))
    (tmp_path / "plain").write_bytes(b"3")
    with pytest.raises(UserError, match="would lose the later work"):
        undo(history)
    assert (tmp_path / "plain").read_bytes() == b"3"


def test_leftovers_of_this_file_go_and_others_stay(tmp_path: Path) -> None:
    for name in (".a.1.tmp", ".a.x.tmp", ".b.1.tmp", "a.tmp", ".a.1.bak"):
        (tmp_path / name).write_text("x")
    with Folder(str(tmp_path)) as folder:
        remove_leftovers(folder, "a")
    assert sorted(each.name for each in tmp_path.iterdir()) == [".a.1.bak", ".b.1.tmp", "a.tmp"]


def test_a_file_that_a_change_made_or_took_away_is_not_merged(tmp_path: Path) -> None:
    head = b'format = "olive-compass-scheme/1"\napp = "quillmap"\nlayer = "personal"\n\n[keyless]\n'
    path = "schemes/quillmap/mine.toml"
    history = History(str(tmp_path))
    save(history, FileChange(path, None, head + b'"a" = "one"\n'))
    (tmp_path / path).write_bytes(head + b'"a" = "one"\n"c" = "by hand"\n')
    with pytest.raises(UserError, match="would lose the later work"):
        undo(history)
    (tmp_path / path).write_bytes(head + b'"a" = "one"\n')
    save(history, FileChange(path, head + b'"a" = "one"\n', None))
    (tmp_path / path).parent.mkdir(parents=True, exist_ok=True)
    (tmp_path / path).write_bytes(head + b'"z" = "anew"\n')
    with pytest.raises(UserError, match="would lose the later work"):
        undo(history)
    (tmp_path / path).unlink()
    undo(history)
    assert (tmp_path / path).read_bytes() == head + b'"a" = "one"\n'
    # What was there, and was taken away by hand since, is not put back unasked.
    save(history, FileChange(path, head + b'"a" = "one"\n', head))
    (tmp_path / path).unlink()
    with pytest.raises(UserError, match="would lose the later work"):
        undo(history)
    assert not (tmp_path / path).exists()


def test_a_thread_that_cannot_be_woken_waits_its_turn_all_the_same(tmp_path: Path) -> None:
    import subprocess
    import sys
    import threading

    script = (
        "import sys, time\nfrom olive_compass.desk.storage.locking import locked\n"
        "with locked(sys.argv[1]):\n    print('held', flush=True)\n    sys.stdin.readline()"
    )
    lock = str(tmp_path / "lock")
    got: list[str] = []

    def wait(patience: float) -> None:
        try:
            with locked(lock, patience=patience):
                got.append("held")
        except UserError:
            got.append("refused")

    words = [sys.executable, "-c", script, lock]
    with subprocess.Popen(words, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True) as other:
        assert other.stdout is not None
        assert other.stdout.readline() == "held\n"
        short = threading.Thread(target=wait, args=(0.05,))
        short.start()
        short.join()
        assert got == ["refused"]
        patient = threading.Thread(target=wait, args=(30.0,))
        patient.start()
        other.communicate("go\n")
        patient.join()
    assert got == ["refused", "held"]


@pytest.mark.skipif(sys.platform == "win32", reason="it has locks of another kind")
def test_a_change_that_another_is_at_is_not_waited_for(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    import fcntl

    history = History(str(tmp_path))
    save(history, FileChange("a", None, b"1"))
    os.rename(tmp_path / ".history/000001.json", tmp_path / ".history/pending.json")

    def waits(*_: object) -> bool:
        raise AssertionError("it waits")

    monkeypatch.setattr("olive_compass.desk.storage.locking._wait_for", waits)
    with open(tmp_path / ".history/lock", "w") as file:
        fcntl.flock(file, fcntl.LOCK_EX)
        assert history.recover() is None
    settled = history.recover()
    assert settled is not None
    assert settled.number == 1


def changed(history: History, *names: str) -> None:
    """A change of a number of files that are new, or not as they were."""
    for name in names:
        path = Path(history.root, name)
        before = path.read_bytes() if path.exists() else None
        save(history, FileChange(name, before, (before or b"") + b"x"))


def test_what_was_taken_back_is_passed_over_by_the_next_undo_and_redo(tmp_path: Path) -> None:
    history = History(str(tmp_path))
    changed(history, "a", "b", "c")
    undo(history)
    undo(history)
    left = history.to_undo()
    assert left is not None
    assert left.number == 1
    redo(history)
    waiting = history.to_redo()
    assert waiting is not None
    # The undoing of the third change: that of the second was redone.
    assert (waiting.number, waiting.undoes) == (4, 3)
    redo(history)
    assert history.to_redo() is None
    assert sorted(path.name for path in tmp_path.glob("[abc]")) == ["a", "b", "c"]


def test_folders_go_with_their_last_file_and_not_before(tmp_path: Path) -> None:
    history = History(str(tmp_path))
    changed(history, "deep/er/a", "deep/b")
    save(history, FileChange("deep/er/a", b"x", None))
    assert [path.name for path in (tmp_path / "deep").iterdir()] == ["b"]
    save(history, FileChange("deep/b", b"x", None))
    assert [path.name for path in tmp_path.iterdir()] == [".history"]


def test_other_files_beside_the_records_are_none(tmp_path: Path) -> None:
    history = History(str(tmp_path))
    changed(history, "a")
    for name in ("notes.json", "7.txt", "000009.json.bak"):
        (tmp_path / ".history" / name).write_text("{}")
    assert history.numbers() == [1]


def test_a_record_keeps_letters_as_they_are_and_undoes_nothing_by_itself(tmp_path: Path) -> None:
    history = History(str(tmp_path))
    told = {"what": "Größe", "why": "", "command": "c", "who": "u", "when": "2026-01-01"}
    assert history.save([FileChange("a", None, b"x")], **told) == 1
    assert "Größe" in (tmp_path / ".history/000001.json").read_text(encoding="utf-8")
    assert history.record(1).undoes == 0


def test_what_cannot_be_written_is_named(tmp_path: Path) -> None:
    (tmp_path / "a").write_text("a file")
    with pytest.raises(UserError) as refused:
        save(History(str(tmp_path)), FileChange("a/b", None, b"x"))
    assert Path(refused.value.file).name in ("a", "b")
    assert (tmp_path / "a").read_text() == "a file"


def test_an_undo_of_several_files_keeps_the_work_by_hand_in_the_first(tmp_path: Path) -> None:
    before = b'format = "olive-compass-scheme/1"\napp = "a"\nlayer = "personal"\n\n[assign]\n'
    history, path = History(str(tmp_path)), "schemes/a/mine.toml"
    whole = tmp_path / path
    whole.parent.mkdir(parents=True)
    whole.write_bytes(before)
    after = before + b'"one" = { keys = ["F6"] }\n'
    save(history, FileChange(path, before, after), FileChange("other", None, b"x"))
    whole.write_bytes(after + b'"two" = { keys = ["F7"] }\n')
    undo(history)
    assert b'"two"' in whole.read_bytes()
    assert b'"one"' not in whole.read_bytes()
    assert not (tmp_path / "other").exists()
