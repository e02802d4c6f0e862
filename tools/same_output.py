"""Whether two installed versions say and write the same, byte for byte.

Usage: python tools/same_output.py OLD NEW [WORD]

OLD and NEW are folders of programs (the ``bin`` of two virtual environments). Each walks through the
demo and then carries out every example of every command's help (those with WORD in them), as text and,
where the command has it, with ``--json``, on a copy of the desk of its own. What comes out, the exit
status and every file of the desk are compared. Prints each difference with its first lines; exits 1
where there is one. Examples that both refuse count too: refusals are output.
"""

import os
import re
import shutil
import subprocess
import sys
import tempfile
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import NamedTuple

from olive_compass.cli.registry import command_module, command_names

#: What is different each time: times of day, and names that are drawn at random.
_TIMES = re.compile(
    rb"in \d+\.\d s|\d\d:\d\d(:\d\d(\.\d+)?)?|D:\d{14}|/ID\s*\[[^]]*\]|[0-9a-f]{32}"
    # A bundle holds the time at which it was made, which is packed into more bytes or fewer.
    rb"|\d+ bytes|\"bytes\": \d+"
)

#: Examples that wait for somebody, or for the world outside.
_SKIPPED = (
    "--live",
    "--watch",
    "--interactive",
    "demo",
    "git@",
    "https:",
    "--cluster",
    "practise",
    "try ",
)


class Came(NamedTuple):
    """What came of a command: its exit status, what it said, and the files by their paths."""

    status: int
    said: bytes
    files: dict[str, bytes]


def main() -> int:
    if len(sys.argv) not in (3, 4):
        print(__doc__)
        return 2
    programs = [os.path.abspath(each) for each in sys.argv[1:3]]
    lines = _lines(sys.argv[3] if len(sys.argv) > 3 else "")
    with tempfile.TemporaryDirectory() as folder, ThreadPoolExecutor(2) as both:
        desks = [Path(folder, name, "larkspur") for name in ("old", "new")]
        walks = list(both.map(_walk, programs, desks))
        if walks[0] != walks[1]:
            print("The walk through the demo differs.", *_first_difference(*walks), sep="\n  ")
        found = 0
        for line in lines:
            old, new = both.map(_carry_out, programs, desks, [line] * 2)
            differs = _differences(old, new)
            if differs:
                found += 1
                print(line, *differs, sep="\n  ", flush=True)
    print(f"{len(lines)} command lines, {found} differ")
    return 1 if found or walks[0] != walks[1] else 0


def _lines(word: str) -> list[str]:
    """The examples of all commands, and each once more with ``--json`` where it has that."""
    found = []
    for name in command_names():
        for line in command_module(name).EXAMPLES.split("\n"):
            if word in line and not any(each in line for each in _SKIPPED):
                found.append(line)
                if not re.search(r"[|>]|--json|--as ", line):
                    found.append(f"{line} --json")
    return found


def _environ(program: str, beside: Path) -> dict[str, str]:
    own = {name: str(beside) for name in ("HOME", "OLIVE_COMPASS_CACHE", "OLIVE_COMPASS_DATA")}
    path = f"{program}{os.pathsep}{os.environ['PATH']}"
    return {**os.environ, **own, "PATH": path, "NO_COLOR": "1", "COLUMNS": "100"}


def _walk(program: str, desk: Path) -> bytes:
    """Walks through the demo; what it said."""
    desk.parent.mkdir()
    return _run("olive-compass demo " + desk.name, program, desk.parent, desk)[1]


def _run(line: str, program: str, where: Path, desk: Path) -> tuple[int, bytes]:
    done = subprocess.run(
        ["bash", "-c", line],
        cwd=where,
        env=_environ(program, Path(f"{desk}-home")),
        stdin=subprocess.DEVNULL,
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        timeout=120,
    )
    return done.returncode, _plain(done.stdout, program, desk)


def _carry_out(program: str, desk: Path, line: str) -> Came:
    copy = desk.parent / "copy" / desk.name
    shutil.rmtree(copy.parent, ignore_errors=True)
    shutil.copytree(desk, copy)
    status, said = _run(line, program, copy, desk)
    files = {}
    for path in sorted(copy.parent.rglob("*")):
        name = path.relative_to(copy.parent)
        before = desk.parent / name
        # Only what the command wrote: what git keeps for itself has times and numbers of its own.
        if path.is_file() and ".git" not in name.parts:
            data = path.read_bytes()
            if not before.is_file() or before.read_bytes() != data:
                files[str(name)] = _plain(data, program, desk)
    gone = (p for p in desk.rglob("*") if not (copy / p.relative_to(desk)).exists())
    return Came(status, said, files | {str(p.relative_to(desk.parent)): b"gone" for p in gone})


def _plain(data: bytes, program: str, desk: Path) -> bytes:
    """Bytes without what differs from run to run, and between the two desks and the two programs."""
    for own, name in ((desk.parent, b"HERE"), (Path(program).parent, b"PROGRAM")):
        data = data.replace(str(own).encode(), name)
    return _TIMES.sub(b"-", data)


def _differences(old: Came, new: Came) -> list[str]:
    found = []
    if old.status != new.status:
        found.append(f"exit status {old.status}, now {new.status}")
    if old.said != new.said:
        found += _first_difference(old.said, new.said)
    for path in sorted(old.files.keys() | new.files.keys()):
        # A workbook and a bundle hold the time at which they were made.
        if old.files.get(path) != new.files.get(path) and not path.endswith((".xlsx", ".zip")):
            found.append(f"{path} differs")
            found += _first_difference(old.files.get(path, b""), new.files.get(path, b""))
    return found


def _first_difference(old: bytes, new: bytes) -> list[str]:
    """The first line that is not the same, on both sides."""
    before, after = (text.decode("utf-8", "replace").split("\n") for text in (old, new))
    length = max(len(before), len(after))
    before += [""] * (length - len(before))
    after += [""] * (length - len(after))
    for number, (one, other) in enumerate(zip(before, after, strict=True), 1):
        if one != other:
            return [f"line {number}: {one[:150]}", f"     now: {other[:150]}"]
    return []


if __name__ == "__main__":
    sys.exit(main())
