"""The files outside the desk that this seat lets it write: where applications keep their keys.

The list is in the user's own folder and never in a desk, so that a desk from elsewhere can name any
file it likes and write none.
"""

import contextlib
import json
import os

from olive_compass.desk.cache import user_folder
from olive_compass.desk.plain_file import read_whole
from olive_compass.desk.saving import HISTORY
from olive_compass.errors import UserError

FORMAT = "olive-compass-places/2"

#: Where a desk keeps what it is known by: a number drawn at random, which no desk from elsewhere can have.
_IDENTITY = "identity"


def _file() -> str:
    """Where the list is, ``""``: this user has no folder of their own."""
    folder = user_folder("data", os.environ)
    return os.path.join(folder, "places.json") if folder else ""


def allowed(root: str) -> frozenset[str]:
    """The real paths of the files outside that the desk in ``root`` may write."""
    return frozenset(_known(_key(root)))


def allow(root: str, paths: tuple[str, ...]) -> None:
    """Lets the desk in ``root`` write these files too. Raises ``OSError`` where it cannot
    be kept."""
    from olive_compass.desk.saving import write_atomically

    if not _file():
        raise OSError("this user has no folder to keep it in")
    key = _key(root) or _new_key(root)
    known = _known(key)
    files = sorted({*known, *paths})
    if files == known:
        return
    text = json.dumps({"format": FORMAT, "desks": {**_all(), key: files}}, indent=1)
    write_atomically(_file(), text.encode())


def _key(root: str) -> str:
    """What a desk is known by, ``""``: it was never let write anything outside. Another desk that comes to
    lie in the same folder is not the same one."""
    try:
        identity = read_whole(os.path.join(root, HISTORY, _IDENTITY)).decode("ascii")
    except (OSError, ValueError, UserError):
        return ""
    return f"{os.path.realpath(root)} {identity}" if identity else ""


def _new_key(root: str) -> str:
    from olive_compass.desk.saving import locked, write_in

    with locked(root) as folder:
        write_in(folder, _IDENTITY, os.urandom(16).hex().encode())
    return _key(root)


def _known(key: str) -> list[str]:
    paths = _all().get(key) if key else None
    return [str(path) for path in paths] if isinstance(paths, list) else []


def _all() -> dict[str, list[str]]:
    """What is kept, by desk; nothing where it is missing or damaged: then nothing is allowed."""
    with contextlib.suppress(OSError, ValueError, AttributeError, UserError):
        kept = json.loads(read_whole(_file()))
        if kept.get("format") == FORMAT:
            return dict(kept.get("desks", {}))
    return {}
