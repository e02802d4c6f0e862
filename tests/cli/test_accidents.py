"""Every accident of ``accidents.py`` ends soon, with a status and a sentence."""

import os
import subprocess
import sys
import time
from pathlib import Path

import pytest

from tests.cli.accidents import (
    ACCIDENTS,
    SLOW,
    concerns_the_process,
    interrupt_at,
    run,
    run_here,
    wrong,
)
from tests.conftest import Ask, contents


@pytest.mark.skipif(os.name == "nt", reason="needs pipes, links and a shell")
@pytest.mark.parametrize("name", [name for name in ACCIDENTS if name not in SLOW])
def test_an_accident_ends_in_a_sentence(name: str, desk: Path) -> None:
    trial = ACCIDENTS[name](desk)
    ended = run(trial, desk) if concerns_the_process(trial) else run_here(trial, desk)
    assert wrong(trial, ended) == ""


@pytest.mark.skipif(os.name == "nt", reason="needs signals")
def test_ctrl_c_at_any_moment_ends_without_a_traceback_of_ours(desk: Path) -> None:
    for n in range(8):
        ended = interrupt_at(desk, 0.04 * n, "check")
        assert "olive_compass" not in ended.err or "Traceback" not in ended.err
        assert ended.status in (0, 1, 130, -2)


@pytest.mark.skipif(os.name == "nt", reason="needs signals")
def test_ctrl_c_waits_until_a_module_is_loaded_and_loads_none_itself(tmp_path: Path) -> None:
    (tmp_path / "slow.py").write_text(
        "import os, signal, sys, time\nbefore = set(sys.modules)\n"
        "os.kill(os.getpid(), signal.SIGINT)\ntime.sleep(0.1)\n"
        "print('loaded', *(set(sys.modules) - before), flush=True)\n"
    )
    script = (
        "import signal, time\nfrom olive_compass.cli.main import _interrupted\n"
        "signal.signal(signal.SIGINT, _interrupted)\nimport slow\ntime.sleep(20)\n"
    )
    begun = time.monotonic()
    done = subprocess.run(
        [sys.executable, "-c", script], cwd=tmp_path, capture_output=True, text=True
    )
    assert done.stdout == "loaded\n"
    assert done.stderr.endswith("KeyboardInterrupt\n")
    assert time.monotonic() - begun < 15


def test_a_saved_change_is_told_where_its_answer_cannot_be(ask: Ask, desk: Path) -> None:
    trial = ACCIDENTS["a full disk after a change"](desk)
    before = len(ask("history", "--json").json["changes"])
    ended = run(trial, desk)
    assert f"Change {before + 1} was saved" in ended.err
    assert "starts Cairn" in ask("press", "quillmap", "Alt+F10").out


def test_signs_of_keys_are_spelt_out_where_they_cannot_be_shown(desk: Path) -> None:
    ended = run(ACCIDENTS["output in ASCII"](desk), desk)
    assert b"Ctrl+S" in ended.out
    ended.out.decode("ascii")


def test_titles_are_one_line_and_plain_in_every_form(ask: Ask, desk: Path) -> None:
    ACCIDENTS["a title with line breaks and escapes"](desk)
    assert "Join Gone" in ask("find", "join").out
    ask("scheme", "new", "odd/mine")
    ask("assign", "odd", "join-gone", "F9", "--why", "so\nErased: all.\x1b[2J\u2028\u202e\x9b")
    for words in (
        ("export", "odd", "--as", "json"),
        ("export", "odd", "--as", "toml"),
        ("export", "odd", "--as", "csv"),
        ("sheet", "odd", "--as", "html"),
        ("history",),
        ("key", "F9"),
        ("press", "odd", "F9"),
    ):
        said = ask(*words)
        assert said.status == 0, said.err
        odd = [char for char in said.out if not char.isprintable() and char != "\n"]
        assert (odd, "\nErased" in said.out) == ([], False), words
    raw = (desk / "apps/odd/set-aside.csv").read_text()
    assert "Gone." in raw, "what was taken out of a title is kept aside"


def test_a_link_stays_a_link_and_a_file_keeps_its_mode(ask: Ask, desk: Path) -> None:
    mine = desk / "schemes/quillmap/mine.toml"
    real = desk / "schemes/shared.toml"
    mine.rename(real)
    mine.symlink_to("../shared.toml")
    real.chmod(0o640)
    assert ask("assign", "quillmap", "Cairn", "Alt+F10").status == 0
    assert mine.is_symlink()
    assert ("point.cairn" in real.read_text(), real.stat().st_mode & 0o777) == (True, 0o640)
    assert ask("undo").status == 0
    assert "point.cairn" not in real.read_text()


def test_what_is_refused_changes_nothing(desk: Path) -> None:
    for name in ("a link out of the desk", "an argument that is not UTF 8"):
        trial = ACCIDENTS[name](desk)
        before = contents(desk)
        assert run(trial, desk).status == 2 or name != "a link out of the desk"
        assert contents(desk) == before
