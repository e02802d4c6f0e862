"""Real programs that keep keys in a file: their own listing in, twelve decisions, and their own listing back."""

import re
import shutil
import subprocess
from collections.abc import Iterator
from importlib.resources import as_file, files
from pathlib import Path

import pytest

from tests.conftest import ask_in


@pytest.fixture
def desk(tmp_path: Path) -> Path:
    """A desk with the formats that ship."""
    folder = tmp_path / "desk"
    ask_in(tmp_path, "desk", "new", str(folder))
    with as_file(files("olive_compass.data") / "fileformats") as shipped:
        shutil.copytree(shipped, folder / "fileformats")
    return folder


def add(desk: Path, form: str, listing: str) -> None:
    (desk.parent / "listing").write_text(listing)
    added = ask_in(
        desk, "app", "add", "own", "--from", "../listing", "--file-format", form, "--yes"
    )
    assert added.status == 0, added.err
    assert "set aside" not in added.out, added.out
    ask_in(desk, "app", "rules", "own", "--set", "longest-run=3", "--set", "typed-runs=true")
    ask_in(desk, "scheme", "new", "own/mine")


def decide(desk: Path, *lines: tuple[str, ...]) -> None:
    for words in lines:
        done = ask_in(desk, *words)
        assert done.status == 0, (words, done.err)


def deliver(desk: Path, form: str, file: Path) -> None:
    words = ("deliver", "own", "--to", str(file), "--file-format", form, "--yes")
    done = ask_in(desk, *words)
    assert done.status == 0, done.err
    assert "Not written" not in done.out, done.out


# A terminal multiplexer.


@pytest.fixture
def tmux(tmp_path: Path) -> Iterator[list[str]]:
    program = shutil.which("tmux")
    if not program:
        pytest.skip("tmux is not on this machine")
    yield [program]
    for socket in tmp_path.glob("socket-*"):
        subprocess.run([program, "-S", str(socket), "kill-server"], capture_output=True)


def keys_of_tmux(
    tmux: list[str], tmp_path: Path, conf: str = "/dev/null"
) -> tuple[str, set[tuple[str, str, str]]]:
    """Its listing, and by a reading of our own the table, the key and the command of each line."""
    socket = str(tmp_path / f"socket-{len(list(tmp_path.glob('socket-*')))}")
    done = subprocess.run(
        [*tmux, "-S", socket, "-f", conf, "new-session", "-d", ";", "list-keys"],
        capture_output=True,
        text=True,
        check=True,
        timeout=60,
    )
    found = set()
    for line in done.stdout.splitlines():
        match = re.match(r"bind-key +(?:-r +)?-T +(\S+) +(\S+) +(.*)$", line)
        assert match, line
        found.add((match[1], match[2], match[3]))
    return done.stdout, found


def test_a_terminal_multiplexer(tmux: list[str], desk: Path, tmp_path: Path) -> None:
    listing, before = keys_of_tmux(tmux, tmp_path)
    add(desk, "multiplexer", listing)
    conf = tmp_path / "own.conf"
    text = "# mine\nset -g status off\n\nbind-key -T prefix F12 display-message 'a  b'\n"
    conf.write_text(text)
    deliver(desk, "multiplexer", conf)
    # No decision, no byte.
    assert conf.read_text() == text

    def assign(command: str, *more: str) -> tuple[str, ...]:
        return ("assign", "own", command, *more, "--mode", "prefix", "--if-taken", "replace")

    decide(
        desk,
        # Four moves, three additions, two that lose their keys, a swap, a capital.
        assign("rotate-window", "F9", "--instead"),
        assign("prefix/next-window", "PageDown", "--instead"),
        assign("prefix/previous-window", "F5", "--instead"),
        assign("new-window", "Ctrl+N", "--instead"),
        assign("swap-pane -U", "F8"),
        assign("last-pane", "F7"),
        # Quotes and signs in the command itself.
        assign('confirm-before -p "kill-window #W? (y/n)" kill-window', "F6"),
        ("bare", "own", "clock-mode", "--mode", "prefix", "--why", "not here"),
        ("bare", "own", "list-buffers", "--mode", "prefix", "--why", "not here"),
        assign("choose-tree -Zw", "S", "--instead"),
        assign("choose-tree -Zs", "W", "--instead"),
        assign("display-panes", "Shift+Q", "--instead"),
    )
    deliver(desk, "multiplexer", conf)
    _, after = keys_of_tmux(tmux, tmp_path, str(conf))
    own = {("prefix", "F12", "display-message 'a  b'"), ("prefix", "F12", 'display-message "a  b"')}
    gone = {(table, key, command) for table, key, command in before - after if table == "prefix"}
    come = {each for each in after - before if each not in own}
    assert {
        ("prefix", key, command)
        for key, command in [
            ("F9", "rotate-window"),
            ("NPage", "next-window"),
            ("F5", "previous-window"),
            ("C-n", "new-window"),
            ("F8", "swap-pane -U"),
            ("F7", "last-pane"),
            ("F6", 'confirm-before -p "kill-window #W? (y/n)" kill-window'),
            ("s", "choose-tree -Zw"),
            ("w", "choose-tree -Zs"),
            ("Q", "display-panes"),
        ]
    } <= come
    keys_gone = {(key, command) for _, key, command in gone}
    assert {("t", "clock-mode"), ("#", "list-buffers")} <= {
        (k.lstrip("\\"), c) for k, c in keys_gone
    }
    assert {
        ("C-o", "rotate-window"),
        ("n", "next-window"),
        ("p", "previous-window"),
        ("c", "new-window"),
        ("q", "display-panes"),
    } <= keys_gone
    # All else is as before, in all tables.
    touched = {key for _, key, _ in come} | {key for key, _ in keys_gone}
    assert {each for each in before if each[0] != "prefix" or each[1] not in touched} <= after


# The line editor of a shell.


def keys_of_bash(home: Path) -> tuple[str, set[tuple[str, str]]]:
    """Its listing, and by a reading of our own the key and the command of each line."""
    bash = shutil.which("bash")
    if not bash:
        pytest.skip("bash is not on this machine")
    done = subprocess.run(
        [bash, "--norc", "-i", "-c", "bind -p"],
        env={"INPUTRC": str(home), "PATH": "/usr/bin:/bin", "TERM": "xterm"},
        stdin=subprocess.DEVNULL,
        capture_output=True,
        text=True,
        encoding="latin-1",
        check=True,
        timeout=60,
    )
    lines = re.findall(r'^"((?:\\.|[^"\\])+)": ([\w-]+)$', done.stdout, re.MULTILINE)
    assert len(lines) > 300
    # Without a UTF-8 locale it writes \\M- for the same.
    return done.stdout, {(key.replace("\\M-", "\\e"), command) for key, command in lines}


def test_the_line_editor_of_a_shell(desk: Path, tmp_path: Path) -> None:
    empty, own = tmp_path / "empty", tmp_path / "inputrc"
    empty.write_text("")
    listing, before = keys_of_bash(empty)
    add(desk, "line-editor", listing)
    text = '# mine\nset bell-style none\n$if Bash\n"\\C-xp": "plain text"\n$endif\n'
    own.write_text(text)
    deliver(desk, "line-editor", own)
    assert own.read_text() == text

    def assign(command: str, *more: str) -> tuple[str, ...]:
        return ("assign", "own", command, *more, "--if-taken", "replace")

    decide(
        desk,
        # Moves, additions, a sequence, a swap, a capital, two that lose their keys.
        assign("transpose-chars", "Ctrl+X T", "--instead"),
        assign("kill-whole-line", "Ctrl+X K"),
        assign("menu-complete", "Alt+N"),
        assign("copy-forward-word", "Ctrl+X W"),
        assign("history-search-backward", "PageUp"),
        assign("upcase-word", "Alt+Shift+U", "--instead"),
        assign("clear-screen", "Ctrl+X L", "--instead"),
        assign("beginning-of-line", "Ctrl+E", "--instead"),
        assign("end-of-line", "Ctrl+A", "--instead"),
        assign("dump-functions", "F5"),
        ("bare", "own", "insert-comment", "--why", "not here"),
        ("bare", "own", "tilde-expand", "--why", "not here"),
    )
    deliver(desk, "line-editor", own)
    assert own.read_text().startswith(text)
    _, after = keys_of_bash(own)
    assert {
        ("\\C-xt", "transpose-chars"),
        ("\\C-xk", "kill-whole-line"),
        ("\\en", "menu-complete"),
        ("\\C-xw", "copy-forward-word"),
        ("\\e[5~", "history-search-backward"),
        ("\\eU", "upcase-word"),
        ("\\C-xl", "clear-screen"),
        ("\\C-e", "beginning-of-line"),
        ("\\C-a", "end-of-line"),
        ("\\e[15~", "dump-functions"),
    } <= after
    left = {command for _, command in after}
    assert not {"insert-comment", "tilde-expand"} & left
    assert ("\\C-t", "transpose-chars") not in after
    assert ("\\eu", "upcase-word") not in after
    touched = {key for key, _ in after ^ before}
    assert len(touched) < 40
    assert {each for each in before if each[0] not in touched} <= after
