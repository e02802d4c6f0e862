"""Reads files of a desk only to see whether they can be read, before they are taken in."""

import os
from collections.abc import Iterable

from olive_compass.desk import (
    device_file,
    file_format_file,
    keyboards,
    keyset_file,
    macro_file,
    system_file,
    tally_file,
    toml_text,
)
from olive_compass.desk.desk import DESK_FILE, SYSTEM_FILE, Desk
from olive_compass.desk.purposes_file import PURPOSES_FILE
from olive_compass.desk.scheme_file import FORMAT as SCHEME_FORMAT


def try_reading(at: Desk, paths: Iterable[str]) -> None:
    """Reads each of ``paths`` as what it is. Raises ``UserError`` for the first that cannot be read."""
    apps = at.app_names()
    for path in paths:
        folder, *rest = path.split("/")
        name = os.path.splitext(rest[-1])[0] if rest else ""
        if path == DESK_FILE:
            _ = at.settings
        elif path == SYSTEM_FILE:
            system_file.read_all(at.bytes(path), path)
        elif path == PURPOSES_FILE:
            _ = at.purposes
        elif folder == "apps" and len(rest) == 2:
            at.app(rest[0])
        elif folder == "schemes" and len(rest) == 2:
            if rest[0] in apps:
                at.scheme(at.app(rest[0]), name)
            else:
                # Of an application that is not here: what its commands are called cannot be known, its
                # format can.
                toml_text.load(at.bytes(path), path, SCHEME_FORMAT)
        elif folder == "macros" and len(rest) == 2:
            macro_file.read(at.bytes(path), path, rest[0], name)
        elif folder == "devices":
            device_file.read(at.bytes(path), path, name)
        elif folder == "fileformats":
            file_format_file.read(at.bytes(path), path, name)
        elif folder == "keysets":
            keyset_file.read(at.bytes(path), path, name)
        elif folder == "tallies":
            tally_file.read(at.bytes(path), path)
        elif folder == "keyboards" and len(rest) == 2:
            keyboards.read(rest[0], at.bytes(path), path, name)
