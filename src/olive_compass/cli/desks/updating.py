"""``desk update``: rewrites what an older version wrote, in the words of today."""

import os
from collections.abc import Iterator

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import keep, writing_of
from olive_compass.cli.options import WriteOptions
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.wording import counted
from olive_compass.desk import older
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import purposes_file
from olive_compass.desk.paths import DESK_FILE, app_path, catalogue_path, scheme_path
from olive_compass.desk.storage.records import FileChange, changing


class DeskUpdateOptions(WriteOptions, kw_only=True):
    """The options of ``desk update``."""


def update(args: DeskUpdateOptions, context: Surroundings) -> int:
    """Runs ``desk update``."""
    desk = pick.desk(args, context)
    files = changing(_changes(desk))
    if not files and not args.json:
        context.report("Nothing on this desk was written by an older version.")
        return 0
    paths = list(dict.fromkeys(each.path for each in files))
    what = f"Rewrote {counted(len(paths), 'file')} of an older version"
    return keep(writing_of(args), context, desk, files, what)


def _changes(desk: Desk) -> Iterator[FileChange]:
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
