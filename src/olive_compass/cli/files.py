"""Reads a file that a person named on the command line."""

import os
from typing import BinaryIO

from olive_compass.cli.surroundings import Surroundings
from olive_compass.desk.storage.plain_file import open_plain, read_whole
from olive_compass.errors import UserError


def open_file(context: Surroundings, path: str, what: str = "This file") -> BinaryIO:
    """The same as ``read_file``, to be read bit by bit."""
    try:
        return open_plain(os.path.join(context.folder, path), path, _is_pipe(path))
    except OSError as error:
        raise UserError(f"{what} cannot be read: {error.strerror}.", file=path) from error


def is_in_use(folder: str) -> bool:
    """Whether something is there that a new folder of this name would lose."""
    if not os.path.isdir(folder):
        return os.path.exists(folder)
    return bool(os.listdir(folder))


#: What stands for standard input where a file is named: a pipe, or pasted text.
STANDARD_INPUT = "-"


def read_file(context: Surroundings, path: str, what: str = "This file", hint: str = "") -> bytes:
    """The bytes of a file, named from the current folder; raises ``UserError``.

    ``what`` it is, and ``hint`` what to do, are for the person who named one that is not there.
    """
    if path == STANDARD_INPUT:
        stream = getattr(context.inp, "buffer", None)
        if stream is not None:
            data: bytes = stream.read()
            return data
        return context.inp.read().encode()
    try:
        return read_whole(os.path.join(context.folder, path), path, _is_pipe(path))
    except OSError as error:
        raise UserError(
            f"{what} cannot be read: {error.strerror}.", file=path, hint=hint
        ) from error


def _is_pipe(path: str) -> bool:
    """Whether a person named the pipe of a shell, and not a file."""
    return path.startswith(("/dev/stdin", "/dev/fd/", "/proc/self/fd/"))
