"""Keeps what a check found of each application in the user's own cache folder.

What is kept says from which bytes it was worked out: those of every file of the desk that a check of
the application looks at, and which program it was. Where one of them is another now it does not count,
so it cannot go stale. It is JSON, never inside a desk, and where it is missing, damaged or read-only the
findings are looked for again.
"""

import json
import os
from collections.abc import Iterable, Iterator, Mapping, Sequence
from functools import cached_property

from olive_compass import __version__
from olive_compass.annotations import Any
from olive_compass.desk.cache import cache_file, put
from olive_compass.desk.plain_file import read_whole
from olive_compass.digests import digest_of

FORMAT = "olive-compass-found/1"

#: The most bytes that are kept of one application.
MOST_KEPT = 20_000_000

#: What a check of any application may read, and what it reads of its own.
SHARED = ("desk.toml", "seat.toml", "system.toml", "devices", "keyboards", "tallies")
OWN = ("apps/{}", "schemes/{}", "macros/{}", "trays/{}.toml")
#: With purposes an application is held against all others.
PURPOSES = "purposes.csv"


class State:
    """What a check looks at, as it is on the disk now."""

    def __init__(self, root: str, apps: Sequence[str]) -> None:
        self.root = root
        self.apps = apps
        self._own: dict[str, str] = {}

    def of(self, app: str) -> str:
        """A digest of the program and of all that its check of the application looks at.

        Raises ``OSError`` or ``Refused`` where something of that cannot be read.
        """
        concerned = self.apps if os.path.exists(os.path.join(self.root, PURPOSES)) else (app,)
        return digest_of("\n".join((self._shared, *map(self._of_own, concerned), app)).encode())

    @cached_property
    def _shared(self) -> str:
        return _program() + _digest(self.root, (*SHARED, PURPOSES))

    def _of_own(self, app: str) -> str:
        if app not in self._own:
            self._own[app] = _digest(self.root, (each.format(app) for each in OWN))
        return self._own[app]


class KeptFindings:
    """What was found of the applications of one desk, by the state that it was found in."""

    def __init__(self, root: str, environ: Mapping[str, str]) -> None:
        self.root = root
        self.folder = cache_file(root, environ, "found")

    def find(self, app: str, state: str) -> dict[str, Any] | None:
        """What was kept of the application in that state, None: nothing that counts."""
        if not self.folder:
            return None
        try:
            with open(os.path.join(self.folder, app), "rb") as file:
                # Whatever lies there in its place is not read to its end.
                head, _, body = file.read(MOST_KEPT + 1).partition(b"\n")
            found = json.loads(body) if head == _head(state) else None
        except (OSError, ValueError, RecursionError):
            return None
        return found if isinstance(found, dict) else None

    def keep(self, app: str, state: str, found: Mapping[str, Any]) -> None:
        """Keeps what was found of the application in that state."""
        data = _head(state) + b"\n" + json.dumps(found, separators=(",", ":")).encode()
        if self.folder and len(data) <= MOST_KEPT:
            put(os.path.join(self.folder, app), data)


def _head(state: str) -> bytes:
    return f"{FORMAT} {state}".encode()


def _program() -> str:
    """What tells this program from one that might find something else: its version and its files."""
    package = os.path.dirname(os.path.dirname(os.path.abspath(__file__)))
    told = [__version__]
    for entry in _files_below(package):
        about = entry.stat()
        told.append(f"{entry.name} {about.st_size} {about.st_mtime_ns}")
    return digest_of("\n".join(told).encode())


def _digest(root: str, names: Iterable[str]) -> str:
    """A digest of the names and bytes of files of the desk, and of all that lies in folders of it."""
    told = []
    for name in names:
        whole = os.path.join(root, name)
        if os.path.isdir(whole):
            paths = [entry.path for entry in _files_below(whole)]
        else:
            paths = [whole] if os.path.lexists(whole) else []
        told += [f"{path} {digest_of(read_whole(path))}" for path in paths]
    return digest_of("\n".join(told).encode())


def _files_below(folder: str) -> Iterator[os.DirEntry[str]]:
    """What lies in a folder and in those inside it, sorted. A link to a folder is not gone into: there
    may be no end to it."""
    with os.scandir(folder) as found:
        entries = sorted(found, key=lambda entry: entry.name)
    for entry in entries:
        if not entry.is_dir(follow_symlinks=False):
            yield entry
        elif entry.name != "__pycache__":
            yield from _files_below(entry.path)
