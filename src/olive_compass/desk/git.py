"""Real git, run as a program: a desk as a repository whose merges go by decision."""

import contextlib
import os
import signal
import subprocess
import sys
import tempfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager

from olive_compass.desk.desk import Desk
from olive_compass.desk.storage.records import FileChange
from olive_compass.errors import UserError

#: For how long git is waited for, in seconds: a house's keys are a few small files.
LONGEST = 40.0

#: Every how many seconds it is said that it is waited for.
PATIENCE = 8.0

#: The name of the merge driver, and the files that go through it.
DRIVER = "olive-compass"
PATTERNS = ("*.toml", "*.csv", "*.jsonl", "documents/**")

#: Variables that tell git which repository, index or objects to use (``git rev-parse
#: --local-env-vars``, and what steers its search for a repository).
PLACES = frozenset(
    [
        "GIT_ALTERNATE_OBJECT_DIRECTORIES",
        "GIT_CEILING_DIRECTORIES",
        "GIT_COMMON_DIR",
        "GIT_CONFIG",
        "GIT_CONFIG_COUNT",
        "GIT_CONFIG_PARAMETERS",
        "GIT_DIR",
        "GIT_DISCOVERY_ACROSS_FILESYSTEM",
        "GIT_GRAFT_FILE",
        "GIT_IMPLICIT_WORK_TREE",
        "GIT_INDEX_FILE",
        "GIT_NAMESPACE",
        "GIT_NO_REPLACE_OBJECTS",
        "GIT_OBJECT_DIRECTORY",
        "GIT_PREFIX",
        "GIT_REPLACE_REF_BASE",
        "GIT_SHALLOW_FILE",
        "GIT_WORK_TREE",
    ]
)

BEGIN, END = "# begin of what olive-compass desk git wrote", "# end"

ATTRIBUTES = ".gitattributes"
IGNORE = ".gitignore"


def git(
    folder: str, *words: str, check: bool = True, waits: Callable[[], None] = lambda: None
) -> str:
    """What git says; raises ``UserError`` where git is missing or fails."""
    done = run(folder, *words, waits=waits)
    if check and done.returncode:
        said = (done.stderr or done.stdout).decode("utf-8", "replace").strip().splitlines()
        raise UserError(f"git {words[0]} failed: {said[-1] if said else 'it gave no reason'}")
    return done.stdout.decode("utf-8", "replace")


def run(
    folder: str, *words: str, waits: Callable[[], None] = lambda: None
) -> "subprocess.CompletedProcess[bytes]":
    """Runs git in a folder; raises ``UserError`` where it is missing. ``waits`` is called again and
    again, where it takes a while."""
    # Inside a hook git names its repository in these, and would change that one instead of ours.
    environ = {name: value for name, value in os.environ.items() if name not in PLACES}
    environ["GIT_TERMINAL_PROMPT"] = "0"
    command = ["git", "-C", folder, *words]
    try:
        # In a session of its own, so that whatever helper git calls ends with it.
        with subprocess.Popen(
            command,
            stdin=subprocess.DEVNULL,
            stdout=subprocess.PIPE,
            stderr=subprocess.PIPE,
            env=environ,
            start_new_session=True,
        ) as process:
            out, err = _ended(process, words[0], waits)
    except OSError as error:
        raise UserError(
            "git is not installed on this machine.",
            hint="Install it, or name a folder instead of a repository.",
        ) from error
    return subprocess.CompletedProcess(command, process.returncode, out, err)


def _ended(
    process: "subprocess.Popen[bytes]", verb: str, waits: Callable[[], None]
) -> tuple[bytes, bytes]:
    """What git said. Raises ``UserError`` where it does not end in ``LONGEST`` seconds."""
    try:
        # Now and then it is said that it still waits.
        for _ in range(round(LONGEST / PATIENCE) - 1):
            with contextlib.suppress(subprocess.TimeoutExpired):
                return process.communicate(timeout=PATIENCE)
            waits()
        return process.communicate(timeout=PATIENCE)
    except BaseException as error:
        try:
            if os.name == "nt":
                process.kill()
            else:
                os.killpg(process.pid, signal.SIGKILL)
        except ProcessLookupError:
            pass
        process.wait()
        if isinstance(error, subprocess.TimeoutExpired):
            raise UserError(
                f"git {verb} has not ended in {LONGEST:.0f} s; nothing was changed.",
                hint="Is the other side there? Clone it yourself, and name its folder.",
            ) from error
        raise


def is_repository(folder: str) -> bool:
    """Whether a folder lies in a git work tree."""
    return run(folder, "rev-parse", "--is-inside-work-tree").stdout.strip() == b"true"


def _is_address(text: str, path: str) -> bool:
    """Whether a source is an address: of the web, or ``host:folder``."""
    if ":" in text and not os.path.exists(path):
        return True
    return "://" in text or text.endswith(".git")


def is_source(text: str, path: str) -> bool:
    """Whether a house's source is a git repository: an address, or a folder with one in it."""
    if _is_address(text, path):
        return True
    bare = os.path.isfile(os.path.join(path, "HEAD")) and os.path.isdir(
        os.path.join(path, "objects")
    )
    return bare or os.path.isdir(os.path.join(path, ".git"))


def driver_command() -> str:
    """The command line by which git calls the merge driver."""
    python = sys.executable.replace("\\", "/")
    return f'"{python}" -m olive_compass merge --driver %O %A %B %P'


def with_block(text: str, lines: tuple[str, ...]) -> str:
    """A file of git with our block in it, in place of an earlier one; without lines, without it."""
    kept = without_block(text)
    if not lines:
        return kept
    block = "\n".join((BEGIN, *lines, END)) + "\n"
    return kept + ("" if not kept or kept.endswith("\n") else "\n") + block


def without_block(text: str) -> str:
    """A file of git without our block."""
    head, sign, rest = text.partition(BEGIN)
    if not sign:
        return text
    return head + rest.partition(END + "\n")[2]


@contextmanager
def cloned(source: str, waits: Callable[[], None]) -> Iterator[tuple[str, str]]:
    """The newest of a repository, in a folder for as long as it is looked at, and which commit it is.

    It lies outside every desk: git, which looks for a repository upwards from where it stands, must
    never come upon the one that the desk itself lies in. Raises ``UserError`` where git fails.
    """
    with tempfile.TemporaryDirectory(prefix="olive-compass-house-") as folder:
        clone = os.path.join(folder, "house")
        git(folder, "clone", "--quiet", "--depth", "1", "--", source, clone, waits=waits)
        named = (f"--git-dir={os.path.join(clone, '.git')}", f"--work-tree={clone}")
        yield clone, git(clone, *named, "rev-parse", "--short", "HEAD").strip()


def block_change(desk: Desk, name: str, lines: tuple[str, ...]) -> FileChange:
    """A file of git with our lines put in, or taken out; an empty one goes."""
    before = desk.bytes_or_none(name)
    text = with_block((before or b"").decode("utf-8", "replace"), lines)
    return FileChange(name, before, text.encode() if text else None)
