"""A folder that is opened once, and everything in it done relative to that.

Who names a file by its whole path, twice, may reach two files: between a look and a write somebody can put
a link in the place of one of the folders on the way. Where the system can (all but Windows), the folders
on the way are opened one after another, none of them through a link, and from then on only names count.
"""

import contextlib
import os
import stat
import sys
from collections.abc import Sequence
from types import TracebackType

from olive_compass.errors import UserError

#: Whether the system knows a file by an open folder and a name in it.
_BY_HANDLE = {os.open, os.stat, os.unlink, os.mkdir, os.rename, os.access} <= os.supports_dir_fd

#: How a folder on the way is opened: where it can be, only to be passed through.
_WAY = (
    getattr(os, "O_PATH", os.O_RDONLY)
    | getattr(os, "O_DIRECTORY", 0)
    | getattr(os, "O_NOFOLLOW", 0)
    | getattr(os, "O_CLOEXEC", 0)
)
_NEW = (
    os.O_WRONLY
    | os.O_CREAT
    | os.O_EXCL
    | getattr(os, "O_NOFOLLOW", 0)
    | getattr(os, "O_BINARY", 0)
    | getattr(os, "O_CLOEXEC", 0)
)


#: The folder of a desk in which its history and its lock lie.
HISTORY = ".history"


class Folder:
    """An open folder. ``path`` is what it is called, for messages; use it in a ``with`` statement."""

    def __init__(self, base: str, below: Sequence[str] = (), make: bool = False) -> None:
        """Opens ``base``, which may be a link, and the folders ``below`` it, which may not.

        ``make`` creates missing ones. Raises ``OSError``, and ``UserError`` for a link.
        """
        self.path = os.path.join(base, *below)
        if make:
            os.makedirs(base, exist_ok=True)
        self._handle: int | None = None
        self._here = base
        if _BY_HANDLE:
            self._handle = os.open(base, _WAY & ~getattr(os, "O_NOFOLLOW", 0))
        try:
            for name in below:
                self._enter(name, make)
        except BaseException:
            self.close()
            raise

    def _enter(self, name: str, make: bool) -> None:
        about = self.about(name)
        if about is None and make:
            with contextlib.suppress(FileExistsError):
                if self._handle is None:
                    os.mkdir(os.path.join(self._here, name))
                else:
                    os.mkdir(name, dir_fd=self._handle)
        elif about is not None and _leads_elsewhere(about):
            raise link_refused(os.path.join(self._here, name), "folder")
        if self._handle is not None:
            outer = self._handle
            self._handle = os.open(name, _WAY, dir_fd=outer)
            os.close(outer)
        self._here = os.path.join(self._here, name)

    def about(self, name: str) -> os.stat_result | None:
        """What is there under a name, of a link the link itself; None: nothing."""
        try:
            if self._handle is None:
                return os.lstat(os.path.join(self._here, name))
            return os.stat(name, dir_fd=self._handle, follow_symlinks=False)
        except FileNotFoundError:
            return None

    def is_writable(self, name: str) -> bool:
        """Whether this user may write the file. One that nobody may write is protected from root too."""
        about = self.about(name)
        if about is not None and not about.st_mode & 0o222:
            return False
        if self._handle is None:
            return os.access(os.path.join(self._here, name), os.W_OK)
        return os.access(name, os.W_OK, dir_fd=self._handle)

    def new_file(self, name: str) -> int:
        """A file that was not there, open for writing."""
        return self._open(name, _NEW)

    def lock_file(self, name: str) -> int:
        """A file to be locked, made where it is not there. Raises ``UserError`` where it is no plain file."""
        flags = os.O_RDWR | os.O_CREAT | getattr(os, "O_NOFOLLOW", 0) | getattr(os, "O_CLOEXEC", 0)
        about = self.about(name)
        if about is not None and not stat.S_ISREG(about.st_mode):
            raise link_refused(os.path.join(self._here, name), "file")
        return self._open(name, flags)

    def _open(self, name: str, flags: int) -> int:
        if self._handle is None:
            return os.open(os.path.join(self._here, name), flags, 0o666)
        return os.open(name, flags, 0o666, dir_fd=self._handle)

    def rename(self, old: str, new: str) -> None:
        """Puts one file in the place of another; a link there goes, and what it leads to stays."""
        if self._handle is None:
            os.replace(os.path.join(self._here, old), os.path.join(self._here, new))
        else:
            os.replace(old, new, src_dir_fd=self._handle, dst_dir_fd=self._handle)

    def unlink(self, name: str) -> None:
        """Removes a file; of a link, the link."""
        if self._handle is None:
            os.unlink(os.path.join(self._here, name))
        else:
            os.unlink(name, dir_fd=self._handle)

    def names(self) -> list[str]:
        """The names of all that lies in the folder."""
        if self._handle is None:
            return os.listdir(self._here)
        # What was opened only to be passed through cannot be listed.
        handle = os.open(".", os.O_RDONLY | getattr(os, "O_CLOEXEC", 0), dir_fd=self._handle)
        try:
            return os.listdir(handle)
        finally:
            os.close(handle)

    def close(self) -> None:
        if self._handle is not None:
            os.close(self._handle)
            self._handle = None

    def __enter__(self) -> "Folder":
        return self

    def __exit__(
        self,
        kind: type[BaseException] | None,
        error: BaseException | None,
        at: TracebackType | None,
    ) -> None:
        self.close()


def _leads_elsewhere(about: os.stat_result) -> bool:
    """Whether it is a link, or what Windows has beside links: a mount point of another folder."""
    if sys.platform == "win32":
        return about.st_reparse_tag in (
            stat.IO_REPARSE_TAG_SYMLINK,
            stat.IO_REPARSE_TAG_MOUNT_POINT,
        )
    return stat.S_ISLNK(about.st_mode)


def link_refused(path: str, kind: str) -> UserError:
    """What is said where a link, or something else, lies in the place of what we write."""
    return UserError(
        f"This is a link or no plain {kind}, and is not written through; nothing was changed.",
        file=path,
        hint=f"Put a {kind} in its place.",
    )
