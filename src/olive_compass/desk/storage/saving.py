"""Writes files so that a killed process, or two at once, never leave half of anything.

A change of the desk is a handful of files. Its record (``history.py``) is written first,
then each file in turn through a temporary file and a rename, then the record takes its
number. A record without a number is a change that was interrupted: the next writer
finishes it or takes it back.
"""

import contextlib
import os
import stat
import sys
from collections.abc import Callable, Iterator

from msgspec import Struct

from olive_compass.desk.storage.folders import Folder
from olive_compass.desk.storage.plain_file import lies_in
from olive_compass.errors import UserError


class Place(Struct, frozen=True):
    """Where a file really lies: below a folder that is trusted, in these folders, under this name."""

    base: str
    folders: tuple[str, ...]
    name: str

    @property
    def path(self) -> str:
        return os.path.join(self.base, *self.folders, self.name)

    def folder(self, make: bool = False) -> Folder:
        """The folder of the file, opened. Raises ``OSError``, and ``UserError`` where a link has come in."""
        return Folder(self.base, self.folders, make)


def write_atomically(path: str, data: bytes) -> None:
    """Puts ``data`` into a file that a person named: all of it, or nothing changes.

    Raises ``OSError``, and ``UserError`` where the file is write-protected.
    """
    folder, name = os.path.split(os.path.abspath(path))
    write(Place(folder, (), name), data)


def write_on_desk(root: str, path: str, data: bytes) -> None:
    """Puts ``data`` into a file of the desk that is no part of its history, such as the seat's own."""
    write(written_place(root, path), data)


def write(place: Place, data: bytes, still_good: Callable[[], None] = lambda: None) -> None:
    """Puts ``data`` into the file there: all of it, or nothing changes.

    The file keeps its owner, group, mode and extended attributes. ``still_good`` is asked at the last
    moment, and raises where the file is to stay as it is. Raises ``OSError`` naming the file, and
    ``UserError`` where it is not to be written.
    """
    with _named(place.path), place.folder(make=True) as folder:
        write_in(folder, place.name, data, still_good)


@contextlib.contextmanager
def _named(path: str) -> Iterator[None]:
    """Lets an error name the file that was to be written, and not a temporary one, or none at all."""
    try:
        yield
    except OSError as error:
        raise OSError(error.errno, error.strerror or str(error), path) from error


def write_in(
    folder: Folder,
    name: str,
    data: bytes,
    still_good: Callable[[], None] = lambda: None,
    durable: bool = True,
) -> None:
    """The same in an open folder. What need not outlive a loss of power is not ``durable``, and quicker."""
    with _named(os.path.join(folder.path, name)):
        _put(folder, name, data, still_good, durable)


def _put(
    folder: Folder, name: str, data: bytes, still_good: Callable[[], None], durable: bool
) -> None:
    before = folder.about(name)
    refuse_protected(folder, name)
    beside = f"{_beginning(name)}{os.urandom(8).hex()}.tmp"
    handle = folder.new_file(beside)
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            if before is not None and stat.S_ISREG(before.st_mode):
                _make_alike(file.fileno(), before, os.path.join(folder.path, name))
            if durable:
                _sync(file.fileno())
        still_good()
        folder.rename(beside, name)
    except BaseException:
        with contextlib.suppress(OSError):
            folder.unlink(beside)
        raise


def refuse_protected(folder: Folder, name: str) -> None:
    """Refuses a file that is there and that this user is not to write."""
    about = folder.about(name)
    if about is not None and not stat.S_ISLNK(about.st_mode) and not folder.is_writable(name):
        raise UserError(
            "This file is write-protected; nothing was changed.",
            file=os.path.join(folder.path, name),
            hint="Allow yourself to write it (chmod u+w), or ask whoever protected it.",
        )


def _beginning(name: str) -> str:
    """How the temporary files of a file begin: short enough for the longest name that a system takes."""
    return f".{name[:50]}."


def _make_alike(handle: int, before: os.stat_result, path: str) -> None:
    """Gives the new file what the one has whose place it takes. Raises ``UserError`` where that would
    take the file away from those who have it."""
    if sys.platform == "win32":
        return
    now = os.fstat(handle)
    if (now.st_uid, now.st_gid) != (before.st_uid, before.st_gid):
        try:
            os.fchown(handle, before.st_uid, before.st_gid)
        except OSError:
            with contextlib.suppress(OSError):
                os.fchown(handle, -1, before.st_gid)
            _refuse_to_take(before, os.fstat(handle), path)
    # After the owner: a change of that takes some bits away.
    os.fchmod(handle, stat.S_IMODE(before.st_mode))
    if hasattr(os, "listxattr"):
        with contextlib.suppress(OSError):
            for attribute in os.listxattr(path, follow_symlinks=False):
                with contextlib.suppress(OSError):
                    value = os.getxattr(path, attribute, follow_symlinks=False)
                    os.setxattr(handle, attribute, value)


def _refuse_to_take(before: os.stat_result, now: os.stat_result, path: str) -> None:
    """Refuses where the owner or the group of before could no longer do what they can do now."""
    owner, group, others = (before.st_mode >> shift & 0o6 for shift in (6, 3, 0))
    lost = 0
    if now.st_gid != before.st_gid:
        lost |= group & ~others
        group = others
    if now.st_uid != before.st_uid:
        lost |= owner & ~group
    if lost:
        raise UserError(
            "This file belongs to somebody else, who could no longer use it if it were written by you; "
            "nothing was changed.",
            file=path,
            hint="Ask them to let their group read and write it (chmod g+rw).",
        )


def _sync(handle: int) -> None:
    """Lets the system write what it has of a file: to the disk, and not only to the disk's own memory."""
    os.fsync(handle)
    if sys.platform == "darwin":
        import fcntl

        # There, fsync leaves it in the memory of the disk. Not every file system knows the call.
        with contextlib.suppress(OSError, AttributeError):
            fcntl.fcntl(handle, fcntl.F_FULLFSYNC)


def written_place(root: str, path: str) -> Place:
    """Where a file of the desk in ``root`` is really written: a link stays one, its target changes.

    Raises ``UserError`` where a link leads out of the desk, for what belongs to git, and for a file
    outside that this seat does not let it write.
    """
    if os.path.isabs(path):
        return _outside(root, path)
    inside = os.path.realpath(root)
    return _inside(inside, os.path.realpath(os.path.join(inside, path)), path)


def refuse_leading_out(root: str, path: str, given: str) -> None:
    """Refuses what lies on the desk by its name, and outside by a link: who named it meant the desk."""
    if not lies_in(os.path.abspath(path), os.path.abspath(root)):
        return
    real = os.path.realpath(path)
    if not lies_in(real, os.path.realpath(root)):
        raise UserError(
            f"A link leads out of the desk, to {real}; nothing was written.",
            file=given,
            hint="Name the place itself, if that is what you mean.",
        )


def own_place(root: str, path: str) -> Place:
    """Where the name of a file of the desk really lies: of a link, the link itself."""
    if os.path.isabs(path):
        return _outside(root, path)
    inside = os.path.realpath(root)
    folder, name = os.path.split(os.path.join(inside, path))
    return _inside(inside, os.path.join(os.path.realpath(folder), name), path)


def _inside(inside: str, real: str, path: str) -> Place:
    if real == inside or not lies_in(real, inside):
        raise UserError(
            f"A link leads out of the desk, to {real}; it is read, but not written. "
            "Nothing was changed.",
            file=path,
            hint="Put a file in its place.",
        )
    *folders, name = os.path.relpath(real, inside).split(os.sep)
    if any(part.casefold() == ".git" for part in (*folders, name)):
        raise UserError("This belongs to git and is not written; nothing was changed.", file=path)
    return Place(inside, tuple(folders), name)


def _outside(root: str, path: str) -> Place:
    """A file outside the desk, where this seat lets the desk write it."""
    # Loaded here: most changes stay on the desk.
    from olive_compass.desk.storage.places import allowed

    real = os.path.realpath(path)
    if real not in allowed(root):
        raise UserError(
            "This file lies outside the desk, and this computer has not let the desk write it; nothing "
            "was changed.",
            file=path,
            hint="Deliver into it once yourself: olive-compass deliver APP --to FILE.",
        )
    drive, _ = os.path.splitdrive(real)
    base = drive + os.sep
    *folders, name = os.path.relpath(real, base).split(os.sep)
    return Place(base, tuple(folders), name)


def remove_leftovers(folder: Folder, name: str) -> None:
    """Removes the temporary files that killed writers of a file left beside it."""
    for other in folder.names():
        if other.startswith(_beginning(name)) and other.endswith(".tmp"):
            with contextlib.suppress(FileNotFoundError):
                folder.unlink(other)
