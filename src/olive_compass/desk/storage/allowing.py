"""Lets a desk write files outside of it: says so in the list of this seat (``places.py``)."""

import json
import os

from olive_compass.desk.storage.locking import locked
from olive_compass.desk.storage.places import (
    FORMAT,
    IDENTITY,
    all_known,
    key_of,
    known_to,
    list_file,
)
from olive_compass.desk.storage.saving import write_atomically, write_in


def allow(root: str, paths: tuple[str, ...]) -> None:
    """Lets the desk in ``root`` write these files too. Raises ``OSError`` where it cannot
    be kept."""
    if not list_file():
        raise OSError("this user has no folder to keep it in")
    key = key_of(root) or _new_key(root)
    known = known_to(key)
    files = sorted({*known, *paths})
    if files == known:
        return
    text = json.dumps({"format": FORMAT, "desks": {**all_known(), key: files}}, indent=1)
    write_atomically(list_file(), text.encode())


def _new_key(root: str) -> str:
    with locked(root) as folder:
        write_in(folder, IDENTITY, os.urandom(16).hex().encode())
    return key_of(root)
