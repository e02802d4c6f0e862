"""The files outside the desk that this seat lets it write: where applications keep their keys.

The list is in the user's own folder and never in a desk, so that a desk from elsewhere can name any
file it likes and write none.
"""

import contextlib
import json
import os

from olive_compass.desk.storage.folders import HISTORY
from olive_compass.desk.storage.plain_file import read_whole
from olive_compass.desk.storage.user_folders import user_folder
from olive_compass.errors import UserError

FORMAT = "olive-compass-places/2"

#: Where a desk keeps what it is known by: a number drawn at random, which no desk from elsewhere can have.
IDENTITY = "identity"


def list_file() -> str:
    """Where the list is, ``""``: this user has no folder of their own."""
    folder = user_folder("data", os.environ)
    if folder:
        return os.path.join(folder, "places.json")
    return ""


def allowed(root: str) -> frozenset[str]:
    """The real paths of the files outside that the desk in ``root`` may write."""
    return frozenset(known_to(key_of(root)))


def key_of(root: str) -> str:
    """What a desk is known by, ``""``: it was never let write anything outside. Another desk that comes to
    lie in the same folder is not the same one."""
    try:
        identity = read_whole(os.path.join(root, HISTORY, IDENTITY)).decode("ascii")
    except (OSError, ValueError, UserError):
        return ""
    if identity:
        return f"{os.path.realpath(root)} {identity}"
    return ""


def known_to(key: str) -> list[str]:
    paths = None
    if key:
        paths = all_known().get(key)
    if isinstance(paths, list):
        return list(map(str, paths))
    return []


def all_known() -> dict[str, list[str]]:
    """What is kept, by desk; nothing where it is missing or damaged: then nothing is allowed."""
    with contextlib.suppress(OSError, ValueError, AttributeError, UserError):
        kept = json.loads(read_whole(list_file()))
        if kept.get("format") == FORMAT:
            return dict(kept.get("desks", {}))
    return {}
