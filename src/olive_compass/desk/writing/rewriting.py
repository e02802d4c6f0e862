"""The files of a desk that an older version wrote, as this one writes them."""

import os
from collections.abc import Iterator

from olive_compass.desk import older
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import purposes_file
from olive_compass.desk.paths import DESK_FILE, app_path, catalogue_path, scheme_path
from olive_compass.desk.storage.records import FileChange


def rewritten(desk: Desk) -> Iterator[FileChange]:
    """The files of the desk as they would be."""
    schemes = [
        scheme_path(app, name) for app in desk.app_names() for name in desk.scheme_names(app)
    ]
    for path in [DESK_FILE, *map(app_path, desk.app_names()), *schemes]:
        before = desk.bytes(path)
        yield FileChange(path, before, older.current(before))
    for app in desk.app_names():
        path = catalogue_path(app)
        before = desk.bytes(path)
        yield FileChange(path, before, older.current_marks(before))
    path = purposes_file.PURPOSES_FILE
    if desk.has(path):
        before = desk.bytes(path)
        old, new = (f",{risk},".encode() for risk in (older.OLD_RISK, older.RISK))
        yield FileChange(path, before, before.replace(old, new))
    folder = os.path.join(desk.root, older.TEXTFORMS)
    if not os.path.isdir(folder):
        return
    for name in sorted(os.listdir(folder)):
        path = f"{older.TEXTFORMS}/{name}"
        before = desk.bytes(path)
        yield FileChange(path, before, None)
        yield FileChange(f"{older.FORMATS}/{name}", None, older.current(before))
