"""The tour of the demo: every scene runs, and shows what its caption promises."""

import os
import shutil
from pathlib import Path

import pytest

from olive_compass.cli.tour import tours
from tests.conftest import Answer, ask_in, ask_process


def after(shown: str, caption: str) -> str:
    """What a scene shows: from its caption to the next."""
    start = shown.index(caption)
    end = shown.find("\n\n", start)
    return shown[start : end if end > 0 else None]


@pytest.mark.parametrize(
    ("caption", "shows"),
    [
        ("Nothing is taken from it unless you say so", "S is taken; nothing was changed"),
        ("Lines 3 to 12 become a macro", "accidental: Contour was cancelled"),
        ("The accidental steps go", "removed step 1, 3, 5 and 6"),
        ("Played on another chart, dry", "character Fl.W.5s"),
        ("The check knows what was forgotten", "has character fixed at “Fl.W.5s”"),
        ("On all three charts", "stopped on 1"),
        ("two letters and the value", "D O plays it in draw"),
        ("whatever each of them calls it", "Drop the line"),
        ("The set is learnt", "Join: K before Ctrl+J, because it is easier for the hand"),
        ("All four adopt it", "Show creases loses it and keeps the menu"),
        ("purposes down, applications across", "Consistency"),
        (
            "False friends",
            "F6 is “Trim to neat line” in Quillmap; here it starts “Shade the whole sheet”",
        ),
        ("Settled: that one", "Shade the whole sheet is keyless"),
        ("The work list", "for a while."),
        ("What did not take?", "2 commands without the wanted keys"),
        ("Quillmap 5 is out", "the new version has it from the factory"),
        ("undone as one change", "Undid change 2: Unpacked desk Larkspur Map Works"),
        ("in letters as large as one page allows", "Written: for-the-wall.pdf (2 pages)."),
        ("on which the keyboard lights up", "Written: larkspur-keys.html (4 applications)."),
        ("and checked there", "cannot be pressed: the keyboard has no Home key"),
    ],
)
def test_a_scene_shows_what_it_says(toured: tuple[Path, Answer], caption: str, shows: str) -> None:
    _, answer = toured
    assert answer.status == 0
    assert shows in after(answer.out, caption)


def test_a_colleagues_branch_is_merged_by_real_git(toured: tuple[Path, Answer]) -> None:
    folder, answer = toured
    if shutil.which("git") is None:
        pytest.skip("git is not installed")
    merged = after(answer.out, "Real git merges the two")
    assert "Cairn" in merged
    assert "Ford" in merged
    text = (folder / "schemes/quillmap/mine.toml").read_text()
    assert "C: cairn" in text
    assert "F: ford" in text


def test_no_scene_fails_that_should_not(toured: tuple[Path, Answer]) -> None:
    _, answer = toured
    refused = [line for line in answer.out.splitlines() if line.startswith("olive-compass: ")]
    assert len(refused) == 4
    assert "Traceback" not in answer.out
    assert f"{len(tours().whole)} commands in" in answer.out


def test_the_demo_never_overwrites(toured: tuple[Path, Answer]) -> None:
    desk, answer = toured
    assert "fault of the program" not in answer.out
    for line in (
        "Quillmap: Spot height got Q in draw",
        "Undid change",
        "set aside  3 that could not be read",
    ):
        assert line in answer.out
    assert "<kbd>" in (desk / "larkspur-keys.html").read_text()
    again = ask_in(desk.parent, "demo")
    assert (again.status, again.out) == (2, "")
    assert "something in this folder already" in again.err


@pytest.mark.long
def test_without_git_the_tour_goes_on(tmp_path: Path) -> None:
    answer = ask_process(tmp_path, "demo", "--all", PATH=os.devnull)
    assert answer.status == 0
    assert "git is not installed here, so this is left out." in answer.out
    assert "Undid change 2: Unpacked desk" in answer.out
