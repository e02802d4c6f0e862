"""Opens plain files only: a pipe or a device in the place of one would be waited for without end."""

import os
import stat
from typing import BinaryIO

from olive_compass.errors import UserError

#: The largest file that is read whole, in bytes.
LARGEST = 400_000_000
_CHUNK = 1 << 20
_FLAGS = (
    os.O_RDONLY
    | getattr(os, "O_NONBLOCK", 0)
    | getattr(os, "O_BINARY", 0)
    | getattr(os, "O_CLOEXEC", 0)
)


def lies_in(path: str, folder: str) -> bool:
    """Whether a path is a folder or lies below it, by their names alone.

    >>> lies_in("/desk/a", "/desk"), lies_in("/desk", "/desk"), lies_in("/desk-2", "/desk"), lies_in("/a", "/")
    (True, True, False, True)
    """
    return path == folder or path.startswith(folder.rstrip(os.sep) + os.sep)


def size_of(path: str) -> int:
    """The bytes of a file, 0 where there is none: who reads it says so."""
    try:
        return os.path.getsize(path)
    except OSError:
        return 0


def read_whole(path: str, shown: str = "", pipes: bool = False) -> bytes:
    """The bytes of a plain file, called ``shown`` in what is said of it.

    ``pipes`` are read too where a person named one (``/dev/stdin``). Raises ``OSError``, and
    ``UserError`` where it is a folder, a device, or larger than ``LARGEST``.
    """
    handle = _opened(path, shown, pipes)
    try:
        about = os.fstat(handle)
        parts: list[bytes] = []
        size = 0
        while part := os.read(handle, max(_CHUNK, about.st_size + 1)):
            parts.append(part)
            size += len(part)
            if size > LARGEST:
                says = f"This is larger than {LARGEST // 1_000_000} MB, which is the most."
                raise UserError(says, file=shown or path)
            if size == about.st_size:
                break
        if len(parts) == 1:
            return parts[0]
        return b"".join(parts)
    finally:
        os.close(handle)


def text_of(data: bytes) -> str:
    """The text of a UTF-8 file, without the mark that some editors begin it with.

    Raises ``UnicodeDecodeError``.
    """
    return data.decode("utf-8-sig")


def utf8_of(data: bytes, file: str) -> str:
    """The same; raises ``UserError`` with the line that is no UTF-8."""
    try:
        return text_of(data)
    except UnicodeDecodeError as error:
        line = error.object[: error.start].count(b"\n") + 1
        raise UserError("This is not UTF-8 text.", file=file, line=line) from error


def open_plain(path: str, shown: str = "", pipes: bool = False) -> BinaryIO:
    """A plain file to be read bit by bit; raises as ``read_whole`` does."""
    return os.fdopen(_opened(path, shown, pipes), "rb")


def _opened(path: str, shown: str, pipes: bool) -> int:
    handle = os.open(path, _FLAGS if not pipes else _FLAGS & ~getattr(os, "O_NONBLOCK", 0))
    about = os.fstat(handle)
    if stat.S_ISREG(about.st_mode) or (pipes and stat.S_ISFIFO(about.st_mode)):
        return handle
    os.close(handle)
    kind = "a pipe or a device"
    if stat.S_ISDIR(about.st_mode):
        kind = "a folder"
    raise UserError(f"This is {kind}, not a plain file.", file=shown or path)
