"""Reads files of a desk only to see whether they can be read, before they are imported."""

import os
from collections.abc import Callable, Iterable

from olive_compass.desk import keyboards
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import (
    device_file,
    file_format_file,
    keyset_file,
    macro_file,
    system_file,
    tally_file,
)
from olive_compass.desk.formats.purposes_file import PURPOSES_FILE
from olive_compass.desk.formats.scheme_file import FORMAT as SCHEME_FORMAT
from olive_compass.desk.paths import DESK_FILE, SYSTEM_FILE
from olive_compass.desk.texts import toml_text


def try_reading(desk: Desk, paths: Iterable[str]) -> None:
    """Reads each of ``paths`` as what it is. Raises ``UserError`` for the first that cannot be read."""
    for path in paths:
        folder, *rest = path.split("/")
        name = ""
        if rest:
            name = os.path.splitext(rest[-1])[0]
        if path in _BY_PATH:
            _BY_PATH[path](desk, path)
        elif folder in _IN_FOLDERS and len(rest) == 1:
            _IN_FOLDERS[folder](desk.bytes(path), path, name)
        elif folder in _BY_PLACE and len(rest) == 2:
            _BY_PLACE[folder](desk, path, rest[0], name)


def _scheme(desk: Desk, path: str, app: str, name: str) -> None:
    if app in desk.app_names():
        desk.scheme(desk.app(app), name)
        return
    # Of an application that is not here: what its commands are called cannot be known, its format can.
    toml_text.load(desk.bytes(path), path, SCHEME_FORMAT)


#: How a file is read: by its path, by its folder, or by its folder and the one below it.
_BY_PATH: dict[str, Callable[[Desk, str], object]] = {
    DESK_FILE: lambda desk, _path: desk.settings,
    SYSTEM_FILE: lambda desk, path: system_file.read_all(desk.bytes(path), path),
    PURPOSES_FILE: lambda desk, _path: desk.purposes,
}
_IN_FOLDERS: dict[str, Callable[[bytes, str, str], object]] = {
    "devices": device_file.read,
    "fileformats": file_format_file.read,
    "keysets": keyset_file.read,
    "tallies": lambda data, path, _name: tally_file.read(data, path),
}
_BY_PLACE: dict[str, Callable[[Desk, str, str, str], object]] = {
    "apps": lambda desk, _path, app, _name: desk.app(app),
    "schemes": _scheme,
    "macros": lambda desk, path, app, name: macro_file.read(desk.bytes(path), path, app, name),
    "keyboards": lambda desk, path, kind, name: keyboards.read(kind, desk.bytes(path), path, name),
}
