"""Real programs that keep keys in a file: their own listing in, twelve decisions, and their own listing back."""

import gzip
import os
import re
import shutil
import subprocess
import time
from collections.abc import Callable, Iterator
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
        desk, "app", "import", "own", "--from", "../listing", "--file-format", form, "--yes"
    )
    assert added.status == 0, added.err
    assert "set aside" not in added.out, added.out
    ask_in(
        desk, "app", "rules", "own", "--set", "longest-sequence=3", "--set", "typed-sequences=true"
    )
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


class Screen:
    """A program on a screen of its own, which is what the terminal multiplexer is for as well."""

    def __init__(self, socket: Path, lines: int, *words: str) -> None:
        tmux = shutil.which("tmux")
        if not tmux:
            pytest.skip("tmux is not on this machine")
        self.tmux = [tmux, "-S", str(socket), "-f", "/dev/null"]
        size = ["-x", "100", "-y", str(lines)]
        # The size is the screen's own, and not what the tests say to our commands.
        own = {k: v for k, v in os.environ.items() if k not in ("LINES", "COLUMNS")}
        opening = [*self.tmux, "-u", "new-session", "-d", *size, *words]
        subprocess.run(opening, check=True, env=own)

    def text(self) -> str:
        done = subprocess.run([*self.tmux, "capture-pane", "-p"], capture_output=True, text=True)
        return done.stdout

    def press(self, *keys: str) -> None:
        subprocess.run([*self.tmux, "send-keys", *keys], capture_output=True)

    def shows(self, is_there: Callable[[str], bool], seconds: float = 10) -> bool:
        end = time.monotonic() + seconds
        while not (found := is_there(self.text())) and time.monotonic() < end:
            time.sleep(0.05)
        return found


@pytest.fixture
def screen(tmp_path: Path) -> Iterator[Callable[..., Screen]]:
    opened: list[Screen] = []

    def opening(lines: int, *words: str) -> Screen:
        opened.append(Screen(tmp_path / f"screen-{len(opened)}", lines, *words))
        return opened[-1]

    yield opening
    for each in opened:
        subprocess.run([*each.tmux, "kill-server"], capture_output=True)


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
        ("keyless", "own", "clock-mode", "--mode", "prefix", "--why", "not here"),
        ("keyless", "own", "list-buffers", "--mode", "prefix", "--why", "not here"),
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
        ("keyless", "own", "insert-comment", "--why", "not here"),
        ("keyless", "own", "tilde-expand", "--why", "not here"),
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


# A pager.


def keys_of_less() -> str:
    """Its default keys, as its manual lists them for its own shortcuts file."""
    manual = Path("/usr/share/man/man1/lesskey.1.gz")
    if not (shutil.which("less") and shutil.which("lesskey") and manual.exists()):
        pytest.skip("less with its manual is not on this machine")
    page = gzip.decompress(manual.read_bytes()).decode()
    tables = re.findall(r"^\.TS\nl l\.\n(.*?)^\.TE", page, re.MULTILINE | re.DOTALL)
    return "".join(tables).replace("\\&", "").replace("\\e", "\\").replace("\\-", "-")


def test_a_pager(screen: Callable[..., Screen], desk: Path, tmp_path: Path) -> None:
    listing = keys_of_less()
    add(desk, "pager", listing)
    # Every key of the listing is read, each as it stands there.
    tried = ask_in(desk, "fileformat", "try", "pager", "../listing", "--json")
    assert tried.json["lines-passed-over"] == 0
    assert [each["line"] for each in tried.json["records"]] == [
        n for n, line in enumerate(listing.splitlines(), 1) if not line.startswith("#")
    ]
    own, numbers = tmp_path / "lesskey", tmp_path / "numbers"
    text = "# mine\n#env\nLESSHISTFILE = -\n"
    own.write_text(text)
    numbers.write_text("".join(f"line {n}\n" for n in range(1, 501)))
    deliver(desk, "pager", own)
    assert own.read_text() == text

    def assign(command: str, *more: str) -> tuple[str, ...]:
        return ("assign", "own", command, *more, "--mode", "command", "--if-taken", "replace")

    decide(
        desk,
        # Moves, additions, a sequence, a swap, a capital, Alt, two that lose their keys.
        assign("goto-line", "Ctrl+T", "--instead"),
        assign("forw-scroll", "X", "--instead"),
        assign("forw-screen", "L"),
        assign("back-line", "I"),
        assign("goto-end", "Ctrl+X G"),
        assign("forw-window", "W", "--instead"),
        assign("back-window", "Z", "--instead"),
        assign("back-screen", "Shift+L"),
        assign("forw-screen-force", "Alt+J"),
        assign("quit", "Ctrl+X Q"),
        ("keyless", "own", "visual", "--why", "not here"),
        ("keyless", "own", "shell", "--why", "not here"),
    )
    deliver(desk, "pager", own)
    # Its own lines are as they were, and what is new stands where the pager looks for it.
    head, _, tail = own.read_text().partition("#env")
    assert (head.splitlines()[0], "#env" + tail) == ("# mine", "#env\nLESSHISTFILE = -\n")

    compiled = tmp_path / "keys"
    made = subprocess.run(["lesskey", "-o", str(compiled), str(own)], capture_output=True)
    assert made.returncode == 0, made.stderr
    pager = screen(11, "less", "-k", str(compiled), str(numbers))

    def ends_at(keys: str, line: int) -> None:
        pager.press(*keys.split())
        assert pager.shows(lambda text: text.startswith(f"line {line}\n")), (keys, pager.text())

    assert pager.shows(lambda text: text.startswith("line 1\n"))
    # All twelve do what was decided, what lost its key does nothing, and all else is as before.
    for keys, line in [
        ("l", 11),
        ("x", 17),
        ("i", 16),
        ("L", 6),
        ("d j", 7),
        ("C-t", 1),
        ("Space", 11),
        ("g j", 12),
        ("k b", 1),
        ("M-j", 11),
        ("w", 21),
        ("z", 11),
        ("v j", 12),
        ("! j", 13),
        ("C-x g", 491),
    ]:
        ends_at(keys, line)
    pager.press("C-x", "q")
    assert pager.shows(lambda text: "line" not in text)


# A text editor of the terminal.

#: What its functions are called where keys are bound to them, by the first words of its own help.
FUNCTIONS = {
    "Undo the last": "undo",
    "Redo the last": "redo",
    "Count the number": "wordcount",
    "Cut from the cursor": "cutrestoffile",
    "Execute a function": "execute",
    "Save file without": "savefile",
    "Comment/uncomment": "comment",
    "Search next occurrence forward": "findnext",
    "Search next occurrence backward": "findprevious",
    "Invoke a program to": "formatter",
    "Invoke the linter": "linter",
    "Insert the next keystroke": "verbatim",
    "Start/stop recording": "recordmacro",
}


def keys_of_nano(screen: Callable[..., Screen], rc: Path) -> set[tuple[str, str]]:
    """Its own help on its main menu, by a reading of our own: keys, and functions or what is said of them."""
    nano = shutil.which("nano")
    if not nano:
        pytest.skip("nano is not on this machine")
    editor = screen(200, nano, f"--rcfile={rc}", str(rc.parent / "a-text"))
    assert editor.shows(lambda text: "New File" in text and "Write Out" in text), editor.text()
    assert "rror" not in editor.text()
    editor.press("C-g")
    assert editor.shows(lambda text: "Mouse support" in text), editor.text()
    rows = re.findall(r"^(\S+) +(?:\((\S+)\))? +([A-Z]\S+ .*)$", editor.text(), re.MULTILINE)
    found = set()
    for one, other, says in rows:
        what = next((each for first, each in FUNCTIONS.items() if says.startswith(first)), "")
        found |= {(key, what or says.strip()) for key in (one, other) if key}
    assert len(found) > 80
    return found


def test_a_text_editor(screen: Callable[..., Screen], desk: Path, tmp_path: Path) -> None:
    empty, own = tmp_path / "empty", tmp_path / "own"
    empty.write_text("")
    before = keys_of_nano(screen, empty)
    names = {says: re.sub(r"\W+", "", says).lower() for _, says in before}
    add(desk, "editor", "".join(f"bind {key} {names[says]} main\n" for key, says in sorted(before)))
    text = "# mine\nset tabsize 4\n  bind M-2 location main\n"
    own.write_text(text)
    deliver(desk, "editor", own)
    assert own.read_text() == text

    def assign(command: str, *more: str) -> tuple[str, ...]:
        return ("assign", "own", command, *more, "--mode", "main", "--if-taken", "replace")

    decide(
        desk,
        # Moves, additions, a swap, a capital, two that lose their keys; it knows no sequences.
        assign("undo", "Alt+4", "--instead"),
        assign("wordcount", "Alt+5", "--instead"),
        assign("cutrestoffile", "Alt+1", "--instead"),
        assign("recordmacro", "Alt+`", "--instead"),
        assign("execute", "Alt+="),
        assign("savefile", "Alt+'"),
        assign("comment", "F5"),
        assign("findnext", "Alt+Q", "--instead"),
        assign("findprevious", "Alt+W", "--instead"),
        assign("formatter", "Alt+Shift+G", "--instead"),
        ("keyless", "own", "linter", "--why", "not here"),
        ("keyless", "own", "verbatim", "--why", "not here"),
    )
    deliver(desk, "editor", own)
    assert own.read_text().startswith(text)
    after = keys_of_nano(screen, own)
    come = {
        ("M-4", "undo"),
        ("M-5", "wordcount"),
        ("M-1", "cutrestoffile"),
        ("M-`", "recordmacro"),
        ("M-=", "execute"),
        ("M-'", "savefile"),
        ("F5", "comment"),
        ("M-Q", "findnext"),
        ("M-W", "findprevious"),
        ("Sh-M-G", "formatter"),
    }
    assert come <= after
    assert not {"linter", "verbatim"} & {says for _, says in after}
    gone = {("M-U", "undo"), ("M-D", "wordcount"), ("M-T", "cutrestoffile"), ("M-:", "recordmacro")}
    gone |= {("M-W", "findnext"), ("M-Q", "findprevious"), ("M-F", "formatter")}
    assert not gone & after
    lost = {each for each in before if each[1] in ("linter", "verbatim")}
    # All else is as before, but for what its owner bound, and what its help has no room for.
    left = {
        each for each in before - gone - lost if each[1] != "Display the position of the cursor"
    }
    assert left <= after
