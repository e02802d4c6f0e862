"""Keeps what was worked out of files of a desk in the user's own cache folder.

What is kept says from which bytes it was worked out: those of every file of the desk that it can
depend on, and which program it was. Where one of them is another now it does not count, so it cannot
go stale. It is JSON, never inside a desk, and where it is missing, damaged or read-only it is worked
out again.
"""

import os
from collections.abc import Iterator, Sequence
from functools import cache
from typing import TYPE_CHECKING, TypeVar

from msgspec import DecodeError

import olive_compass
from olive_compass import __version__
from olive_compass.desk.storage.cache import put
from olive_compass.desk.storage.plain_file import read_whole
from olive_compass.errors import UserError
from olive_compass.structs import decode, encode

if TYPE_CHECKING:
    from typing import Protocol

    class Files(Protocol):
        """A desk, as far as something can be worked out from it: its folder, and its files as it has read them."""

        @property
        def root(self) -> str: ...
        def bytes(self, path: str) -> bytes: ...
        def anew(self) -> "Files": ...


FORMAT = "olive-compass-kept/1"

Kind = TypeVar("Kind")

#: The most bytes that are kept of one thing.
MOST_KEPT = 20_000_000

#: What all applications of a desk share, and what one has of its own.
SHARED = (
    "desk.toml",
    "seat.toml",
    "system.toml",
    "purposes.csv",
    "devices",
    "keyboards",
    "tallies",
)
OWN = ("apps/{}", "schemes/{}", "macros/{}", "trays/{}.toml")


def files_of(apps: Sequence[str]) -> tuple[str, ...]:
    """The files and folders of a desk that these applications have of their own and share."""
    return (*SHARED, *(each.format(app) for app in apps for each in OWN))


class State:
    """What the files of a desk are, as that desk has read them: a digest of all that something depends on.

    It is ``""`` where something of that cannot be read.
    """

    def __init__(self, desk: "Files") -> None:
        self.desk = desk
        self._digests: dict[str, str] = {}

    def of(self, names: Sequence[str]) -> str:
        """The state of these files and folders of the desk, and of the program."""
        try:
            digests = [self._digest(name) for name in names]
        except (OSError, UserError):
            return ""
        return _digest_of_lines([_program(), *digests])

    def _digest(self, name: str) -> str:
        """A digest of the name and bytes of a file of the desk, or of all that lies in a folder of it."""
        if name not in self._digests:
            whole = os.path.join(self.desk.root, name)
            if os.path.isdir(whole):
                beyond = len(self.desk.root) + 1
                paths = [entry.path[beyond:] for entry in _files_below(whole)]
            else:
                paths = []
                if os.path.lexists(whole):
                    paths = [name]
            bytes_ = [f"{path} {_digest_of(self.desk.bytes(path))}" for path in paths]
            self._digests[name] = _digest_of_lines([name, *bytes_])
        return self._digests[name]


class Kept:
    """What was worked out of files of a desk: in ``folder``, ``""``: nowhere."""

    def __init__(self, desk: "Files", folder: str) -> None:
        self.desk = desk
        self.folder = folder
        self.state = State(desk)
        #: What was worked out now: by what and of which thing, with the files that it was worked out from.
        self._new: dict[tuple[str, str], tuple[Sequence[str], object]] = {}

    def find(self, what: str, of: str, files: Sequence[str], kind: type[Kind]) -> Kind | None:
        """What was worked out of something, from ``files`` as they are now; None: nothing that counts."""
        state = ""
        if self.folder:
            state = self.state.of(files)
        if not state:
            return None
        try:
            head, _, body = read_whole(self._path(what, of)).partition(b"\n")
            if head == _head(state, body):
                return decode(body, kind)
            return None
        except (OSError, UserError, DecodeError, RecursionError):
            return None

    def note(self, what: str, of: str, files: Sequence[str], found: object) -> None:
        """Takes what was worked out of something, from ``files``, to be kept at the end."""
        if self.folder:
            self._new[what, of] = (files, found)

    def keep(self) -> None:
        """Keeps what was noted, but for what somebody wrote a file of meanwhile: it may be in it, or not."""
        now = State(self.desk.anew())
        for (what, of), (files, found) in self._new.items():
            state = self.state.of(files)
            if not state or state != now.of(files):
                continue
            try:
                body = encode(found)
            except UnicodeEncodeError:
                # A name that is no UTF-8: such a thing is worked out again each time.
                continue
            if len(body) < MOST_KEPT:
                put(self._path(what, of), _head(state, body) + b"\n" + body)
        self._new = {}

    def _path(self, what: str, of: str) -> str:
        return os.path.join(self.folder, what, of)


def _head(state: str, body: bytes) -> bytes:
    """The first line: the digest of its sources, and the digest of the rest, which shows any damage."""
    return f"{FORMAT} {state} {_digest_of(body)}".encode()


def _digest_of(data: bytes) -> str:
    # Loaded here: where nothing is kept, nothing is summed up.
    from hashlib import blake2b

    return blake2b(data, digest_size=32).hexdigest()


def _digest_of_lines(lines: Sequence[str]) -> str:
    return _digest_of("\n".join(lines).encode(errors="surrogateescape"))


@cache
def _program() -> str:
    """What tells this program from one that might find something else."""
    package = os.path.dirname(os.path.abspath(olive_compass.__file__))
    installed = f"olive_compass-{__version__}.dist-info"
    try:
        # The list of what was installed beside it has a digest of every file.
        with open(os.path.join(os.path.dirname(package), installed, "RECORD"), "rb") as file:
            return _digest_of(file.read())
    except OSError:
        # It runs from where it is worked on: what counts is when each file was written.
        told = [__version__]
        for entry in _files_below(package):
            about = entry.stat()
            told.append(f"{entry.name} {about.st_size} {about.st_mtime_ns}")
        return _digest_of_lines(told)


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
