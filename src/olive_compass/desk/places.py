"""The files outside the desk that this seat lets it write: where applications keep their keys.

The list is in the user's own folder and never in a desk, so that a desk from elsewhere can name any
file it likes and write none.
"""

import contextlib
import json
import os

from olive_compass.desk.cache import user_folder

FORMAT = "olive-compass-places/1"


def _file() -> str:
    """Where the list is, ``""``: this user has no folder of their own."""
    folder = user_folder("data", os.environ)
    return os.path.join(folder, "places.json") if folder else ""


def allowed(root: str) -> frozenset[str]:
    """The real paths of the files outside that the desk in ``root`` may write."""
    return frozenset(_known().get(os.path.realpath(root), ()))


def allow(root: str, paths: tuple[str, ...]) -> None:
    """Lets the desk in ``root`` write these files too. Raises ``OSError`` where it cannot
    be kept."""
    from olive_compass.desk.saving import write_atomically

    known = _known()
    desk = os.path.realpath(root)
    files = sorted({*known.get(desk, ()), *map(os.path.realpath, paths)})
    if files == known.get(desk):
        return
    if not _file():
        raise OSError("this user has no folder to keep it in")
    text = json.dumps({"format": FORMAT, "desks": {**known, desk: files}}, indent=1)
    write_atomically(_file(), text.encode())


def _known() -> dict[str, list[str]]:
    """What is kept, by desk; nothing where it is missing or damaged: then nothing is allowed."""
    with contextlib.suppress(OSError, ValueError, AttributeError):
        with open(_file(), encoding="utf-8") as file:
            desks = json.load(file).get("desks", {})
        return {str(root): [str(path) for path in paths] for root, paths in desks.items()}
    return {}
