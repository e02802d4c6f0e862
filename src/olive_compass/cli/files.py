"""Reads a file that a person named on the command line."""

import os

from olive_compass.cli.surroundings import Surroundings
from olive_compass.desk.plain_file import read_whole
from olive_compass.errors import Refused


def read_file(around: Surroundings, path: str, what: str = "This file", hint: str = "") -> bytes:
    """The bytes of a file, named from the current folder; raises ``Refused``.

    ``what`` it is, and ``hint`` what to do, are for the person who named one that is not there.
    """
    try:
        # A person may well name the pipe of a shell.
        pipes = path.startswith(("/dev/stdin", "/dev/fd/", "/proc/self/fd/"))
        return read_whole(os.path.join(around.folder, path), path, pipes)
    except OSError as error:
        raise Refused(f"{what} cannot be read: {error.strerror}.", file=path, hint=hint) from error
