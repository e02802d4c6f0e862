"""Real git, run as a program: a desk as a repository whose merges go by decision."""

import os
import subprocess
import sys

from olive_compass.errors import Refused

#: The name of the merge driver, and the files that go through it.
DRIVER = "olive-compass"
PATTERNS = ("*.toml", "*.csv", "*.jsonl", "documents/**")

BEGIN, END = "# begin of what olive-compass desk git wrote", "# end"

ATTRIBUTES = ".gitattributes"
IGNORE = ".gitignore"


def git(folder: str, *words: str, check: bool = True) -> str:
    """What git says; raises ``Refused`` where git is missing or fails."""
    done = run(folder, *words)
    if check and done.returncode:
        said = (done.stderr or done.stdout).decode("utf-8", "replace").strip().splitlines()
        raise Refused(f"git {words[0]} failed: {said[-1] if said else 'it gave no reason'}")
    return done.stdout.decode("utf-8", "replace")


def run(folder: str, *words: str) -> "subprocess.CompletedProcess[bytes]":
    """Runs git in a folder; raises ``Refused`` where it is missing."""
    environ = {**os.environ, "GIT_TERMINAL_PROMPT": "0"}
    try:
        return subprocess.run(["git", "-C", folder, *words], capture_output=True, env=environ)
    except OSError as error:
        raise Refused(
            "git is not installed on this machine.",
            hint="Install it, or name a folder instead of a repository.",
        ) from error


def is_repository(folder: str) -> bool:
    """Whether a folder lies in a git work tree."""
    return run(folder, "rev-parse", "--is-inside-work-tree").stdout.strip() == b"true"


def is_source(text: str, path: str) -> bool:
    """Whether a house's source is a git repository: an address, or a folder with one in it."""
    if "://" in text or text.endswith(".git") or (":" in text and not os.path.exists(path)):
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


def fetched(cache: str, source: str) -> str:
    """Brings the newest of a repository into the folder ``cache``, and says which commit it is."""
    if os.path.isdir(os.path.join(cache, ".git")):
        now = git(cache, "remote", "get-url", "origin").strip()
        if now != source:
            git(cache, "remote", "set-url", "origin", source)
        git(cache, "fetch", "--quiet", "--depth", "1", "origin", "HEAD")
        git(cache, "reset", "--quiet", "--hard", "FETCH_HEAD")
    else:
        os.makedirs(os.path.dirname(cache), exist_ok=True)
        git(os.path.dirname(cache), "clone", "--quiet", "--depth", "1", source, cache)
    return git(cache, "rev-parse", "--short", "HEAD").strip()
