"""What all tests share: the installed program, run on folders of their own."""

import argparse
import contextlib
import io
import itertools
import json
import os
import shutil
import subprocess
import sys
from collections.abc import Callable, Iterator
from functools import cache
from pathlib import Path
from typing import Any

import pytest
from filelock import FileLock
from hypothesis import settings

from olive_compass.cli.main import main
from olive_compass.cli.parsing import command_parser
from olive_compass.cli.registry import command_module
from olive_compass.cli.surroundings import Surroundings

# How long an example takes says something of the machine, not of the program.
# Every run says the same of the same tree: it looks at the same examples each time; --hypothesis-profile=long takes
# three times as many. OLIVE_COMPASS_EXAMPLES looks for others, and for as many as it says.
EXAMPLES = os.environ.get("OLIVE_COMPASS_EXAMPLES", "")
settings.register_profile("everyday", deadline=None, max_examples=8, derandomize=True)
settings.register_profile("long", deadline=None, max_examples=25, derandomize=True)
settings.register_profile("others", deadline=None, max_examples=int(EXAMPLES or 1))
settings.load_profile("others" if EXAMPLES else "everyday")


def pytest_configure() -> None:
    if has_room_in_memory():
        os.environ.setdefault("PYTEST_DEBUG_TEMPROOT", MEMORY)


#: The folder of Linux whose files are in memory: the desks of a run are 70,000 files that nobody keeps.
MEMORY = "/dev/shm"


def has_room_in_memory() -> bool:
    """Whether folders of tests can lie in memory: with room enough, and where programs may be started."""
    if not os.access(MEMORY, os.W_OK):
        return False
    told = os.statvfs(MEMORY)
    return told.f_bavail * told.f_frsize > 2**31 and not told.f_flag & os.ST_NOEXEC


#: The forms of a picture; all three are drawn in the long run.
PICTURES = ["svg", *(pytest.param(form, marks=pytest.mark.long) for form in ("png", "pdf"))]

PROGRAM = [sys.executable, "-m", "olive_compass"]


class Answer:
    """What the program said: status, both streams, and the JSON if that is what it printed."""

    def __init__(self, status: int, out: str, err: str) -> None:
        self.status = status
        self.out = out
        self.err = err

    @property
    def json(self) -> Any:
        return json.loads(self.out)


Ask = Callable[..., Answer]


def environ_of(**changes: str) -> dict[str, str]:
    """The environment of a script that runs the program."""
    environ = {**os.environ, "NO_COLOR": "1", "USER": "tester", "PYTHONUTF8": "1", **changes}
    environ.pop("OLIVE_COMPASS_DESK", None)
    return environ


def ask_in(
    folder: Path, *words: str, width: int = 0, typed: str = "", **environment: str
) -> Answer:
    """Runs the program on ``folder`` as a script would, within this process.

    ``width``: as at a terminal of so many columns, where nobody answers; ``typed`` comes in by a pipe.
    """
    out, err = io.StringIO(), io.StringIO()
    context = Surroundings(
        out,
        err,
        io.StringIO(typed),
        environ=environ_of(**environment),
        folder=str(folder),
        interactive=False,
        colour=False,
        width=width,
    )
    # argparse prints its help to the stream of the process.
    with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
        status = main([str(word) for word in words], context)
    return Answer(status, out.getvalue(), err.getvalue())


def answer_in(folder: Path, answers: list[str], *words: str, **environment: str) -> tuple[int, str]:
    """The same as a person at a terminal would, who gives ``answers``: the status, and all that is shown."""
    shown = io.StringIO()
    context = Surroundings(
        shown,
        shown,
        io.StringIO("".join(f"{answer}\n" for answer in answers)),
        environ=environ_of(**environment),
        folder=str(folder),
        interactive=True,
        colour=False,
        width=80,
    )
    return main([str(word) for word in words], context), shown.getvalue()


def ask_process(folder: Path, *words: str, **environment: str) -> Answer:
    """The same as a process of its own, where that is what matters."""
    done = subprocess.run(
        [*PROGRAM, *words],
        cwd=folder,
        env=environ_of(**environment),
        capture_output=True,
        text=True,
        encoding="utf-8",
        stdin=subprocess.DEVNULL,
        timeout=240,
    )
    return Answer(done.returncode, done.stdout, done.stderr)


def completions(desk: Path, line: str) -> list[str]:
    """What the shell would offer at the end of ``line``."""
    result = desk.parent / "completions"
    environ = {
        **os.environ,
        "_ARGCOMPLETE": "1",
        "COMP_LINE": line,
        "COMP_POINT": str(len(line)),
        "_ARGCOMPLETE_STDOUT_FILENAME": str(result),
        "_ARGCOMPLETE_IFS": "\n",
    }
    script = "from olive_compass.cli.main import main; main()"
    subprocess.run([sys.executable, "-c", script], cwd=desk, env=environ, check=False)
    return result.read_text().split()


@cache
def parser_of(name: str) -> argparse.ArgumentParser:
    """The parser of a command, made once: tests ask it which options there are."""
    return command_parser(name, command_module(name))


def contents(desk: Path) -> dict[str, bytes]:
    """Every file of a desk but its history."""
    return {
        path: (desk / path).read_bytes()
        for path in sorted(files_of(desk, ".history"))
        if (desk / path).is_file()
    }


def files_of(desk: Path, *without: str) -> dict[str, os.stat_result]:
    """What is told of every file below a folder, by its path there; ``without`` are folders to leave out."""
    found = {}
    folders = [""]
    while folders:
        folder = folders.pop()
        with os.scandir(desk / folder) as entries:
            for entry in entries:
                if entry.is_dir(follow_symlinks=False):
                    folders += [] if entry.name in without else [f"{folder}{entry.name}/"]
                else:
                    found[f"{folder}{entry.name}"] = entry.stat(follow_symlinks=False)
    return found


@pytest.fixture(autouse=True, scope="session")
def of_this_run(tmp_path_factory: pytest.TempPathFactory) -> None:
    """What the program keeps of files that it read goes to no folder of the user who runs the tests."""
    os.environ["OLIVE_COMPASS_CACHE"] = str(tmp_path_factory.mktemp("cache"))


@pytest.fixture(scope="session")
def users(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Path]:
    """Folders that do not exist yet, one for each test."""
    folder = tmp_path_factory.mktemp("users")
    return (folder / str(number) for number in itertools.count())


@pytest.fixture(autouse=True)
def of_this_user(users: Iterator[Path], monkeypatch: pytest.MonkeyPatch) -> None:
    """What a user lets desks write outside is kept nowhere near the user who runs the tests."""
    monkeypatch.setenv("OLIVE_COMPASS_DATA", str(next(users)))


@pytest.fixture(scope="session")
def laid_out(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A demo desk that nobody changes: copy it with ``desk``."""
    folder = tmp_path_factory.mktemp("demo") / "desk"
    assert ask_in(folder.parent, "demo", "desk", "--quiet").status == 0
    assert (
        ask_in(
            folder,
            "app",
            "import",
            "Tagwright",
            "--version",
            "2.7",
            "--duplicates",
            "refuse",
            "--from",
            "listings/tagwright-keys.csv",
        ).status
        == 0
    )
    assert ask_in(folder, "scheme", "new", "quillmap/mine").status == 0
    return folder


@pytest.fixture(scope="session")
def toured(tmp_path_factory: pytest.TempPathFactory) -> tuple[Path, Answer]:
    """The desk as the demo leaves it, which nobody changes, and what was shown on the way.

    The tour takes 10 s: the workers of a run share one, and whoever wants it first makes it.
    """
    folder = tmp_path_factory.getbasetemp()
    if "PYTEST_XDIST_WORKER" in os.environ:
        folder = folder.parent
    folder = folder / "tour"
    shown = folder / "shown.json"
    with FileLock(f"{folder}.lock"):
        if not shown.exists():
            folder.mkdir()
            answer = ask_process(folder, "demo", "--all")
            shown.write_text(json.dumps([answer.status, answer.out, answer.err]))
    return folder / "larkspur", Answer(*json.loads(shown.read_text()))


@pytest.fixture
def desk(laid_out: Path, tmp_path: Path) -> Path:
    """A demo desk of one's own, with Tagwright taken in and a scheme ``quillmap/mine``."""
    return Path(shutil.copytree(laid_out, tmp_path / "desk"))


def prepared(original: Path, folder: Path, *lines: tuple[str, ...]) -> Path:
    """A copy of a desk on which these commands were run: one that many tests copy in their turn."""
    desk = Path(shutil.copytree(original, folder / "desk"))
    for words in lines:
        answer = ask_in(desk, *words)
        assert answer.status == 0, answer.err
    return desk


def become(desk: Path, other: Path) -> None:
    """Makes the desk of a test a copy of another one."""
    shutil.rmtree(desk)
    shutil.copytree(other, desk)


@pytest.fixture(scope="session")
def common(laid_out: Path, tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The desk that ``untouched`` gives to one test after another."""
    return Path(shutil.copytree(laid_out, tmp_path_factory.mktemp("common") / "desk"))


@pytest.fixture
def untouched(common: Path) -> Iterator[Path]:
    """A desk for a test of what changes nothing: afterwards every file is the one that it was."""
    before = _identities(common)
    yield common
    assert _identities(common) == before


def _identities(desk: Path) -> dict[str, tuple[int, int, int]]:
    """Which files there are, when each was written, and how large it is."""
    return {
        path: (told.st_ino, told.st_mtime_ns, told.st_size) for path, told in files_of(desk).items()
    }


@pytest.fixture
def ask(desk: Path) -> Ask:
    """Runs the program on ``desk``."""
    return lambda *words, **environment: ask_in(desk, *words, **environment)
