"""Files in the user's own cache folder, which may be lost without harm."""

import contextlib
import os
from collections.abc import Mapping

from olive_compass.desk.storage.plain_file import lies_in
from olive_compass.desk.storage.user_folders import user_folder
from olive_compass.errors import UserError


def cache_file(root: str, environ: Mapping[str, str], ending: str) -> str:
    """Where something of the desk in ``root`` is kept, ``""``: nowhere."""
    folder = user_folder("cache", environ)
    if not folder or is_within(folder, root) or not _is_ours(folder):
        return ""
    # Two desks with one name share a file: no harm, for what counts is what it says it was made from.
    whole = os.path.abspath(root)
    plain = "".join(char if char.isascii() and char.isalnum() else "-" for char in whole[-80:])
    return os.path.join(folder, f"{plain}.{ending}")


def is_within(path: str, root: str) -> bool:
    """Whether something is the folder ``root`` or lies below it, links followed."""
    return lies_in(os.path.realpath(path), os.path.realpath(root))


def _is_ours(folder: str) -> bool:
    """Whether nobody but this user can write to a folder: what others may write is not believed."""
    try:
        about = os.stat(folder)
    except OSError:
        # It is yet to be made, and will be ours.
        return True
    return os.name == "nt" or (about.st_uid == os.geteuid() and not about.st_mode & 0o022)


def put(path: str, data: bytes) -> None:
    """Writes a file of the cache as a whole; nothing happens where that cannot be."""
    # Loaded here: mostly nothing is new.
    from olive_compass.desk.storage.folders import Folder
    from olive_compass.desk.storage.saving import remove_leftovers, write_in

    folder, name = os.path.split(path)
    with contextlib.suppress(OSError, UserError):
        os.makedirs(folder, mode=0o700, exist_ok=True)
        with Folder(folder) as inside:
            # What a killed process began, or another is at: that one writes anew next time.
            remove_leftovers(inside, name)
            write_in(inside, name, data, durable=False)
