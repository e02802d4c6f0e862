"""How exactly and how quickly shortcuts files are read.

Usage: python -m benchmarks.shortcuts_files

Reads the own listings of the real programs on this machine by the formats that ship, and compares each key and each
command with a small reading of its own: N of N. Then reads 10,000 and 100,000 records beside a plain ``re.finditer``
over the same file, and delivers without a decision. Exits 1 where a record is not as it stands there, where reading
takes more than 6 times the plain search, or more than 11 times for ten times the records.
"""

import gzip
import re
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from olive_compass.desk.formats.file_format_file import read as read_format
from olive_compass.desk.formats.file_format_file import shipped
from olive_compass.desk.shortcuts.file_format import FileFormat
from olive_compass.desk.shortcuts.shortcuts_file import read
from olive_compass.desk.shortcuts.shortcuts_writing import written

#: How many times a plain search reading may take.
MOST_TIMES = 6


def main() -> int:
    programs = {"multiplexer": tmux, "line-editor": bash, "pager": less, "editor": nano}
    good = [exact(name, listing) for name, listing in programs.items()]
    return 0 if all([*good, speed()]) else 1


def exact(name: str, listing: Callable[[], tuple[str, list[tuple[str, str]]] | None]) -> bool:
    """Whether every key and command of a program's listing is read as it stands there."""
    found = listing()
    if found is None:
        print(f"{name}: the program is not on this machine")
        return True
    text, lines = found
    form = read_format(shipped(name), name, name)
    content = read(form, text)
    ours = [
        (text[slice(*piece.span)], entry.subject)
        for entry in content.entries
        for piece in entry.pieces
    ]
    same = sum(a == b for a, b in zip(ours, lines, strict=False))
    unread = sum(piece.run is None for entry in content.entries for piece in entry.pieces)
    still = written(content.form, text, ()).text == text
    print(
        f"{name}: {same} of {len(lines)} keys and commands as they stand there, {unread} that cannot be read; ",
        end="",
    )
    print("a delivery without decisions changes " + ("nothing" if still else "the file"))
    return same == len(lines) == len(ours) and not unread and still


def tmux() -> tuple[str, list[tuple[str, str]]] | None:
    program = shutil.which("tmux")
    if not program:
        return None
    with tempfile.TemporaryDirectory() as folder:
        command = [program, "-S", f"{folder}/socket", "-f", "/dev/null"]
        done = subprocess.run(
            [*command, "start-server", ";", "list-keys"], capture_output=True, text=True
        )
    lines = []
    for line in done.stdout.splitlines():
        line = line.replace("bind-key -r", "bind-key", 1)
        _, _, _, key, command = line.split(None, 4)
        lines.append((key[1:-1] if re.fullmatch('".+"', key) else key, command))
    return done.stdout, lines


def bash() -> tuple[str, list[tuple[str, str]]] | None:
    program = shutil.which("bash")
    if not program:
        return None
    done = subprocess.run(
        [program, "--norc", "-i", "-c", "bind -p"],
        capture_output=True,
        text=True,
        encoding="latin-1",
        stdin=subprocess.DEVNULL,
        env={"PATH": "/usr/bin:/bin", "INPUTRC": "/dev/null", "TERM": "xterm"},
    )
    lines = []
    for line in done.stdout.splitlines():
        if line.startswith('"'):
            key, _, command = line[1:].rpartition('": ')
            lines.append((key, command))
    return done.stdout, lines


def less() -> tuple[str, list[tuple[str, str]]] | None:
    manual = Path("/usr/share/man/man1/lesskey.1.gz")
    if not manual.exists():
        return None
    page = gzip.decompress(manual.read_bytes()).decode()
    tables = re.findall(r"^\.TS\nl l\.\n(.*?)^\.TE", page, re.MULTILINE | re.DOTALL)
    text = "".join(tables).replace("\\&", "").replace("\\e", "\\").replace("\\-", "-")
    lines = [line.split("\t") for line in text.splitlines() if not line.startswith("#")]
    return text, [(key, command) for key, command in lines]


def nano() -> tuple[str, list[tuple[str, str]]] | None:
    sample = Path("/usr/share/doc/nano/examples/sample.nanorc")
    if not sample.exists():
        return None
    # What it proposes stands in comments there.
    text = re.sub(r"^# ?(?=(un)?bind )", "", sample.read_text(), flags=re.MULTILINE)
    lines = []
    for line in text.splitlines():
        if line.startswith("bind "):
            _, key, rest = line.split(None, 2)
            lines.append((key, rest.rpartition(" ")[0]))
    return text, lines


def speed() -> bool:
    """Reading beside a plain search, for 10,000 and 100,000 records."""
    form = FileFormat(
        name="plain",
        pattern=r"^(?P<id>[\w.-]+) += +(?P<keys>.*)$",
        section=r"^\[(?P<mode>\w+)\]$",
        join=" | ",
        spelling={"C-": "Ctrl+", "M-": "Alt+", "a": "A"},
    )
    seconds = {}
    ratio = 0.0
    for count in (10_000, 100_000):
        text = made_up(count)
        plain, ours = _best(
            lambda text=text: [
                m.groupdict() for m in re.finditer(form.pattern, text, re.MULTILINE)
            ],
            lambda text=text: read(form, text),
        )
        seconds[count] = ours
        ratio = ours / plain
        print(f"{count} records: {ours:.2f} s, {ratio:.1f} times a plain search")
    times = seconds[100_000] / seconds[10_000]
    print(f"ten times the records take {times:.1f} times as long")
    return ratio <= MOST_TIMES and times <= 11


def made_up(count: int) -> str:
    keys = ["C-k", "M-x | F5", "C-S-up", "q", "F12", "XF99", "C-x C-s"]
    lines = []
    for n in range(count):
        if n % 500 == 0:
            lines.append(f"[mode{n // 500}]")
        lines.append(f"command.{n} = {keys[n % 7]}")
        if n % 40 == 0:
            lines.append("# a note")
    return "\n".join(lines) + "\n"


def _best(*works: Callable[[], object]) -> list[float]:
    """The least CPU time of each, in seconds, carried out in turn."""
    best = [1e9] * len(works)
    for _ in range(9):
        for n, work in enumerate(works):
            begun = time.process_time()
            work()
            best[n] = min(best[n], time.process_time() - begun)
    return best


if __name__ == "__main__":
    sys.exit(main())
