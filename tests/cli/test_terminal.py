"""At a real terminal: questions and each of their answers, colour, width, and Ctrl-C."""

import os
import re
import sys
import time
from pathlib import Path

import pytest

from tests.conftest import answer_in, ask_in, contents

pty = pytest.importorskip("pty")

MINE = "schemes/quillmap/mine.toml"


def at_terminal(desk: Path, answers: list[str], *words: str, **environment: str) -> tuple[int, str]:
    """Runs the program in a pseudo-terminal, types ``answers`` at its questions."""
    import select

    process, handle = pty.fork()
    if process == 0:
        os.chdir(desk)
        os.environ.update({"TERM": "xterm", "USER": "tester", **environment})
        os.execv(sys.executable, [sys.executable, "-m", "olive_compass", *words])
    shown = ""
    left = list(answers)
    deadline = time.monotonic() + 90
    while time.monotonic() < deadline:
        ready, _, _ = select.select([handle], [], [], 0.1)
        if ready:
            try:
                data = os.read(handle, 65536)
            except OSError:
                break
            if not data:
                break
            shown += data.decode()
        plain = re.sub(r"\x1b\[[0-9;]*m", "", shown)
        if left and plain.endswith(("] ", "? ")):
            os.write(handle, left.pop(0).encode() + b"\n")
            time.sleep(0.05)
    if time.monotonic() >= deadline:
        # It asks something that no answer was given for.
        os.kill(process, 9)
    _, status = os.waitpid(process, 0)
    os.close(handle)
    return os.waitstatus_to_exitcode(status), shown.replace("\r\n", "\n")


def pressing(desk: Path, keys: list[tuple[str, bytes]], *words: str) -> tuple[int, str]:
    """Runs the program in a pseudo-terminal; sends each key once the text before it has appeared."""
    import select

    process, handle = pty.fork()
    if process == 0:
        os.chdir(desk)
        os.environ.update({"TERM": "xterm", "USER": "tester", "COLUMNS": "100"})
        os.execv(sys.executable, [sys.executable, "-m", "olive_compass", *words])
    shown, seen, left = "", 0, list(keys)
    deadline = time.monotonic() + 90
    while time.monotonic() < deadline:
        ready, _, _ = select.select([handle], [], [], 0.05)
        if ready:
            try:
                data = os.read(handle, 65536)
            except OSError:
                break
            if not data:
                break
            shown += data.decode()
        if left and (at := shown.find(left[0][0], seen)) >= 0:
            seen = at + len(left[0][0])
            os.write(handle, left.pop(0)[1])
    else:
        os.kill(process, 9)
    _, status = os.waitpid(process, 0)
    os.close(handle)
    plain = re.sub(r"\x1b\[[0-9;?]*[A-Za-z]", "", shown)
    return os.waitstatus_to_exitcode(status), plain.replace("\r", "")


#: What is shown when a press is waited for.
WAITS = "  ..."


def test_a_key_is_pressed_and_nothing_written_unasked(desk: Path) -> None:
    words = ("assign", "quillmap", "Smooth contour", "?", "--why", "near")
    before = (desk / MINE).read_bytes()
    status, shown = pressing(desk, [(WAITS, b"\x1b[24~"), ("Write it?", b"n\n")], *words)
    assert (status, (desk / MINE).read_bytes()) == (2, before), shown
    assert "Read as F12." in shown
    assert "Quillmap: Smooth contour would get F12 in draw." in shown
    status, shown = pressing(desk, [(WAITS, b"\x1b[24~"), ("Write it?", b"y\n")], *words)
    assert status == 0, shown
    assert '"contour.smooth" = { keys = ["F12"]' in (desk / MINE).read_text()
    # The history has what was pressed, so that it can be typed again.
    history = "".join(each.read_text() for each in (desk / ".history").glob("*.json*"))
    assert "assign quillmap 'Smooth contour' F12 --why near" in history


def test_what_a_terminal_cannot_tell_apart_is_asked(desk: Path) -> None:
    words = ("mute", "quillmap", "?", "--why", "one key off", "--json")
    keys = [(WAITS, b"\x06"), ("Which is it?", b"2\n"), ("Write it?", b"y\n")]
    status, shown = pressing(desk, keys, *words)
    assert (status, "A terminal sends the same for Ctrl+F and Ctrl+Shift+F." in shown) == (0, True)
    assert '"Ctrl+Shift+F" = "one key off"' in (desk / MINE).read_text()


def test_a_place_is_asked_back_by_its_keycap(desk: Path) -> None:
    keys = [(WAITS, b"\x1bz"), ("Which key did", b"nosuch\n"), ("Which key did", b"y\n")]
    status, shown = pressing(desk, keys, "key", "@?")
    assert status == 0, shown
    assert "No keys of your keyboard have “nosuch”." in shown
    assert "\nAlt+@KeyY\n" in shown


def test_runs_are_pressed_and_escape_twice_leaves(desk: Path) -> None:
    status, shown = pressing(desk, [(WAITS, b"gd")], "press", "quillmap", "?")
    assert (status, "G D starts Grid" in shown) == (0, True), shown
    status, shown = pressing(desk, [(WAITS, b"\x1b\x1b")], "press", "quillmap", "?")
    assert (status, "No key was chosen; nothing was changed." in shown) == (2, True)


def test_press_after_press_is_answered(desk: Path) -> None:
    keys = [(WAITS, b"\x13"), ("Save sheet", b""), (WAITS, b"\x1b[15~"), ("F5", b"")]
    keys += [(WAITS, b"\x1b\x1b")]
    status, shown = pressing(desk, keys, "press", "quillmap", "--live")
    assert (status, "Ctrl+S starts Save sheet" in shown) == (0, True), shown


ASSIGN = ("assign", "quillmap", "Parallel line", "Ctrl+D")


def test_replace_at_the_terminal(desk: Path) -> None:
    status, shown = at_terminal(desk, ["r"], *ASSIGN)
    assert status == 0
    assert "Parallel line got Ctrl+D in draw" in shown
    assert '"lines.offset" = { keys = ["Ctrl+D"]' in (desk / MINE).read_text()


def test_share_at_the_terminal(desk: Path) -> None:
    status, shown = answer_in(desk, ["s"], *ASSIGN)
    assert (status, "share it" in shown) == (0, True)
    text = (desk / MINE).read_text()
    assert '"Ctrl+D" = ["edit.duplicate", "lines.offset"]' in text


def test_one_of_the_three_best_at_the_terminal(desk: Path) -> None:
    status, shown = answer_in(desk, ["1"], *ASSIGN)
    best = re.search(r"^  1  (\S+): ", shown, re.MULTILINE)
    assert best
    assert (status, f"Parallel line got {best[1]} in draw" in shown) == (0, True)


def test_another_key_at_the_terminal(desk: Path) -> None:
    status, shown = at_terminal(desk, ["c", "ctrl-j"], *ASSIGN)
    assert (status, "Parallel line got Ctrl+J" in shown) == (0, True)


@pytest.mark.parametrize("answer", ["", "q", "stop"])
def test_stop_at_the_terminal(desk: Path, answer: str) -> None:
    before = (desk / MINE).read_bytes()
    status, shown = answer_in(desk, [answer], *ASSIGN)
    assert (status, (desk / MINE).read_bytes()) == (2, before)
    assert "stays as it is; nothing was changed" in shown


def test_an_odd_answer_is_asked_again(desk: Path) -> None:
    status, shown = answer_in(desk, ["maybe", "r"], *ASSIGN)
    assert (status, "Type one of" in shown) == (0, True)


def test_twins_are_chosen_at_the_terminal(desk: Path) -> None:
    status, shown = answer_in(desk, ["2"], "assign", "quillmap", "zoom", "F10")
    assert status == 0, shown
    assert "Zoom out got F10 everywhere" in shown
    status, shown = answer_in(desk, [""], "assign", "quillmap", "zoom", "F11")
    assert (status, "No command was chosen" in shown) == (2, True)


def test_a_new_listing_is_asked_about(desk: Path) -> None:
    words = ("app", "import", "Tagwright", "--from", "new.csv")
    (desk / "new.csv").write_text("Title,Menu,Keys\nBold,Text,Ctrl+B\n")
    catalogue = (desk / "apps/tagwright/commands.csv").read_bytes()
    status, shown = answer_in(desk, ["n"], *words)
    assert (status, "stays as it is" in shown) == (2, True)
    assert (desk / "apps/tagwright/commands.csv").read_bytes() == catalogue
    assert answer_in(desk, ["y"], *words)[0] == 0


def test_colour_only_where_it_is_wanted(desk: Path) -> None:
    assert "\x1b[1m" in at_terminal(desk, [], "find", "contour")[1]
    assert "\x1b" not in at_terminal(desk, [], "find", "contour", NO_COLOR="1")[1]
    assert "\x1b" not in at_terminal(desk, [], "find", "contour", TERM="dumb")[1]


@pytest.mark.parametrize("width", [40, 60, 80])
def test_what_one_would_copy_is_whole_at_any_width(desk: Path, width: int) -> None:

    for words in (["find", "--app", "quillmap"], ["history"], ["scheme", "stack", "quillmap"]):
        shown = ask_in(desk, *words, width=width).out.splitlines()
        assert max(map(len, shown[:-1])) <= width, words
    found = ask_in(desk, "find", "quillmap", "contour", "--json").json["hits"]
    shown = ask_in(desk, "find", "quillmap", "contour", width=width).out
    for each in found:
        assert each["command"] in shown
        assert all(key["key"] in shown for key in each["keys"])
    free = ask_in(desk, "free", "quillmap", "--mode", "draw", width=width).out
    assert "ABCDEFGHIJKLMNOPQRSTUVWXYZ" in free
    board = ask_in(desk, "board", "quillmap", width=width).out
    assert "have no room in" in board


def test_a_list_fits_a_screen_and_says_what_shows_the_rest(desk: Path) -> None:

    shown = ask_in(desk, "find", "quillmap", width=100).out
    total = ask_in(desk, "find", "quillmap", "--json").json["total"]
    assert f"20 of {total} shown; --limit {total} shows all." in shown
    assert "shown; " not in ask_in(desk, "find", "quillmap").out


LIGHT = "quillmap/light"
LOG = ("macro", "from-log", "logs/quillmap-2026-10-12.jsonl", LIGHT, "--lines", "3..12")


def test_tidying_asks_first(desk: Path) -> None:

    ask_in(desk, *LOG)
    file = desk / "macros/quillmap/light.toml"
    before = file.read_bytes()
    status, shown = answer_in(desk, ["n"], "macro", "tidy", LIGHT)
    assert (status, file.read_bytes()) == (2, before)
    assert "stays as it is; nothing was changed" in shown
    status, shown = answer_in(desk, ["y"], "macro", "tidy", LIGHT)
    assert (status, "tidied, 8 changes" in shown) == (0, True)


def test_a_play_asks_at_the_terminal_and_offers_to_take_all_back(desk: Path) -> None:

    ask_in(desk, *LOG)
    ask_in(desk, "macro", "tidy", LIGHT, "--yes")
    quay = desk / "documents/quillmap/west-quay.json"
    words = ("macro", "play", LIGHT, "--document", "documents/quillmap/west-quay.json")
    before = quay.read_bytes()
    status, shown = answer_in(desk, ["5,5", "Fl.G", "Quay"], *words)
    assert status == 0, shown
    assert b"Fl.G" in quay.read_bytes()
    ask_in(desk, "undo")
    ask_in(desk, "macro", "insert", LIGHT, "3", "Erase", "--input", "what=ghost-1")
    status, shown = answer_in(desk, ["5,5", "Fl.G", "Quay", "n"], *words)
    assert (status, quay.read_bytes()) == (1, before)
    assert "Stopped at step 3" in shown
    status, shown = answer_in(desk, ["5,5", "Fl.G", "Quay", "y"], *words)
    assert (status, b"Fl.G" in quay.read_bytes()) == (1, True)
    ask_in(desk, "undo")
    status, shown = answer_in(desk, ["5,5", "Fl.G", "q"], *words, "--step", "--dry-run")
    assert (status, "You stopped here." in shown) == (1, True)


def test_links_are_accepted_one_by_one(desk: Path) -> None:
    status, shown = answer_in(desk, ["y", "", "y", "q"], "purpose", "guess", "tagwright")
    assert (status, "Linked 2 commands" in shown) == (0, True)
    status, shown = answer_in(desk, ["q"], "purpose", "guess", "tagwright")
    assert "nothing was changed" in shown
    # All that are known by name; the others are asked about.
    status, shown = answer_in(desk, ["a", "q"], "purpose", "guess", "tagwright")
    assert status == 0
    assert re.search(r"Linked \d\d commands to \d\d purposes", shown)


def test_what_changes_much_asks_first(desk: Path) -> None:
    from tests.conftest import ask_in, contents

    ask_in(desk, "purpose", "guess", "tagwright", "--above", "0.7", "--yes")
    ask_in(desk, "keyset", "learn", "all")
    ask_in(desk, "pack", "all.zip")
    ask_in(desk, "assign", "quillmap", "Cairn", "F10", "--why", "x")
    ask_in(desk, "keyset", "set", "all", "stop", "F9")
    newer = ("upgrade", "quillmap", "--from", "listings/quillmap-5.csv", "--version", "5.0")
    for words, answers, says in (
        (("keyset", "apply", "all"), ["n"], "was not applied"),
        (newer, ["n"], "stays as it is"),
        (("unpack", "all.zip"), ["q"], "Nothing was unpacked"),
        (("unpack", "all.zip"), ["t", "t", "n"], "Nothing was unpacked"),
        (("unpack", "all.zip"), ["o", "o"], "Nothing was taken"),
    ):
        before = contents(desk)
        status, shown = answer_in(desk, answers, *words)
        assert (says in shown, contents(desk)) == (True, before), shown
    status, shown = answer_in(desk, ["a", "y"], "unpack", "all.zip")
    assert (status, "Unpacked desk" in shown) == (0, True), shown
    status, shown = answer_in(desk, ["y"], *newer)
    assert (status, "upgraded to 5.0" in shown) == (0, True)


def test_a_merge_asks_whose_decision_stands(desk: Path, tmp_path: Path) -> None:
    import shutil

    base, theirs = tmp_path / "base", tmp_path / "theirs"
    for each in (base, theirs):
        shutil.copytree(desk, each)
    for folder, key in ((desk, "F10"), (theirs, "F11")):
        assert ask_in(folder, "assign", "quillmap", "Cairn", key, "--why", "x").status == 0
    words = ("merge", str(base), str(desk), str(theirs))
    status, shown = answer_in(desk, [""], *words)
    assert (status, "not settled" in shown) == (1, True)
    status, shown = answer_in(desk, ["t"], *words)
    assert (status, "F11" in (desk / MINE).read_text()) == (0, True), shown


def test_a_listing_is_pasted_and_what_is_in_doubt_is_asked_once(desk: Path) -> None:
    pasted = "Command\tKeys\nTyping\nLeave the name\tEsc\nTake the name\tEnter\nEdges\nDrop the line\tEsc\nEnd the line\tEnter\n"
    shown: list[str] = []

    def told(answers: list[str]) -> str:
        status, text = at_terminal(desk, answers, "app", "import", "Odd")
        assert status == 0, text
        shown.append(text)
        file = (desk / "apps/odd/commands.csv").read_text()
        assert ask_in(desk, "app", "remove", "odd", "--yes").status == 0
        return file

    # The end of what was pasted is Ctrl-D on a line of its own; the Enter after it answers what is asked first.
    first, rest = pasted.split("\n", 1)
    start = f"{first}\n{rest}\x04"
    file = told([start, "y", "y", "", ""])
    assert "typing.leave-the-name,Leave the name,,Escape,typing" in file
    assert "The row “Edges” has only one cell" in shown[-1]
    assert "“Typing” may be a mode" in shown[-1]
    assert "The first commands, as read" in shown[-1]
    # The other answers, and other columns.
    file = told([start, "n", "n", "1", "2", "", "", ""])
    assert "typing.leave-the-name,Leave the name,Typing,Escape,," in file
    (desk / "card.txt").write_text(pasted)
    file = told(["nowhere/card.txt", "card.txt", "n", "y", "", ""])
    assert "There is no file nowhere/card.txt" in shown[-1]
    assert "edges,Edges,,,," in file


def test_purposes_are_accepted_one_by_one(desk: Path) -> None:
    """Yes, no, another name, later, enough; what was refused is not asked again, and one undo takes all back."""
    new = desk.parent / "new"
    assert ask_in(desk, "desk", "new", str(new)).status == 0
    rows = "Title,Keys\nSave,Ctrl+S\nWeave cloth,F2\nTie heddle,F3\nThread,F4\n"
    (new / "more.csv").write_text(rows)
    for name in ("loom", "shed"):
        assert ask_in(new, "app", "import", name, "--from", "more.csv").status == 0
    before = contents(new)
    answers = ["y", "n", "e", "Weave", ""]
    status, shown = answer_in(new, answers, "purpose", "guess")
    assert status == 0, shown
    assert "1 of 4" in shown
    assert "served by" not in shown
    assert "3 commands" not in shown
    assert "Linked 4 commands to 2 purposes, of which 1 is new; 1 proposal refused" in shown
    assert "weave,Weave" in (new / "purposes.csv").read_text()
    assert "refused" in (new / "desk.toml").read_text()
    status, shown = answer_in(new, ["a"], "purpose", "guess")
    assert (status, "1 of 1" in shown) == (0, True), shown
    assert ask_in(new, "purpose", "guess", "--refused").status == 0
    assert ask_in(new, "undo", "2").status == 0
    assert contents(new) == before


def test_what_is_said_fits_the_terminal_and_command_lines_stay_whole(desk: Path) -> None:
    _, shown = at_terminal(desk, [], "check", "quillmap", COLUMNS="80")
    lines = re.sub(r"\x1b\[[0-9;]*m", "", shown).replace("\r", "").split("\n")
    wide = [line for line in lines if len(line) > 80]
    assert all(line.startswith("      olive-compass ") for line in wide)
    fixes = [line.strip() for line in lines if "olive-compass modes" in line]
    assert fixes == [
        "olive-compass modes quillmap survey.check-closure Ctrl+Shift+K --only draw --scheme house"
    ]


def test_a_file_format_is_asked_for_line_by_line(desk: Path) -> None:
    (desk / "own.keys").write_text(
        "bind F5 => open\nbind F6 => save\nkey F7 calls close\n# a note\n"
    )
    answers = ["bind F5 => open", "F5", "open", "", "key F7 calls close", "F7", "close", "", ""]
    words = ("fileformat", "new", "ours", "--from", "own.keys")
    status, shown = answer_in(desk, answers, *words)
    assert status == 0, shown
    assert "It matches 2 records." in shown
    assert "the first is line 3: key F7 calls close" in " ".join(shown.split())
    assert "It matches 3 records." in shown
    tried = ask_in(desk, "fileformat", "try", "ours", "own.keys")
    assert "3 records, 0 records with keys that cannot be read, 1 line passed over." in tried.out


def test_commands_without_a_key_are_gone_through_one_by_one(desk: Path) -> None:
    listed = ask_in(desk, "find", "--app", "foldpress", "--menu", "Job", "--unassigned", "--json")
    titles = [hit["title"] for hit in listed.json["hits"]]
    assert titles == ["Collect parts", "Archive job", "Leave Foldpress"]
    scheme = desk / "schemes/foldpress/mine.toml"
    ask_in(desk, "scheme", "new", "foldpress/mine")
    before = scheme.read_bytes()
    answers = ["1", "k", "it costs money", "b", "Hom", "Ctrl+F9", "q"]
    words = ("assign", "foldpress", "--one-by-one", "--menu", "Job")
    status, shown = answer_in(desk, answers, *words)
    assert status == 0, shown
    # What it is, where it is, and offers with their reasons.
    assert "Copies all parts into the job's folder" in shown
    assert re.search(r"1 of 3.*Collect parts.*Job", shown)
    assert "next to Ctrl+W, Close job" in " ".join(shown.split())
    # Back undoes what was decided last; what cannot be read is asked again.
    assert "Undid change" in shown
    assert "“Hom” is no key" in shown
    assert "2 commands decided, 1 left." in shown
    text = scheme.read_text()
    assert "Ctrl+F9" in text
    assert "costs money" not in text

    # Where it stopped is remembered.
    status, shown = answer_in(desk, ["q"], *words)
    assert "1 command to go" in shown
    assert "Leave Foldpress" in shown
    # All of it goes back at once, and nothing else.
    undone = ask_in(desk, "undo", "--session")
    assert undone.out.count("Undid change") == 2
    assert scheme.read_bytes() == before
    assert ask_in(desk, "undo", "--session").status == 1
    refused = ask_in(desk, *words)
    assert refused.status == 2
    assert "asks at a terminal" in refused.err
