"""An application with all that goes by its name: its files under another name, and what names it elsewhere."""

import os

from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import app_writing, purposes_file
from olive_compass.desk.paths import DESK_FILE
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.texts.toml_editor import with_top

#: The folders in which an application has a folder of its own, or a file.
FOLDERS = ("apps", "schemes", "macros", "trays", "documents")


def renamed_app(desk: Desk, old: str, new: str, title: str) -> list[FileChange]:
    """Every file of the application under its new name, and what names it elsewhere."""
    files = []
    for path in owned(desk, old):
        data = desk.bytes(path)
        parts = path.split("/")
        parts[1] = new + parts[1].removeprefix(old)
        after = data
        if path == f"apps/{old}/app.toml":
            after = with_top(data, "title", title)
        elif parts[0] in ("schemes", "macros", "trays") and path.endswith(".toml"):
            after = with_top(data, "app", new)
        files += [FileChange(path, data, None), FileChange("/".join(parts), None, after)]
    stacks = desk.settings.stacks
    if old in stacks:
        data = desk.bytes(DESK_FILE)
        files.append(FileChange(DESK_FILE, data, app_writing.renamed_key(data, "stacks", old, new)))
    if purposes_file.exists(desk.root):
        path = purposes_file.PURPOSES_FILE
        data = desk.bytes(path)
        files.append(FileChange(path, data, purposes_file.with_app(data, path, old, new)))
    return files


def owned(desk: Desk, app: str) -> list[str]:
    """The files of the desk that are the application's own, sorted."""
    found = []
    for folder in FOLDERS:
        root = os.path.join(desk.root, folder, app)
        for where, folders, names in os.walk(root):
            folders[:] = sorted(each for each in folders if not each.startswith("."))
            for name in sorted(names):
                path = os.path.relpath(os.path.join(where, name), desk.root)
                found.append(path.replace(os.sep, "/"))
        if desk.has(f"{folder}/{app}.toml"):
            found.append(f"{folder}/{app}.toml")
    return found
