"""Where somebody stopped when going through commands one by one, and what was changed then: ``.history/sitting.json``.

It belongs to this computer, as the history does, and nothing is lost with it but the place.
"""

import os

import msgspec

from olive_compass.desk.desk import Desk
from olive_compass.desk.storage.saving import write_atomically
from olive_compass.structs import uninterrupted

FILE = ".history/sitting.json"


class Sitting(msgspec.Struct, omit_defaults=True):
    """``stopped`` is the command that was shown last, by application; ``changes`` the numbers of the changes of the
    last sitting."""

    stopped: dict[str, str] = {}
    changes: list[int] = []


def read(desk: Desk) -> Sitting:
    """What is kept; an empty sitting where nothing is, or where it cannot be read."""
    if not desk.has(FILE):
        return Sitting()
    try:
        with uninterrupted():
            return msgspec.json.decode(desk.bytes(FILE), type=Sitting)
    except (msgspec.MsgspecError, UnicodeDecodeError):
        return Sitting()


def write(desk: Desk, sitting: Sitting) -> None:
    """Keeps it. Raises ``OSError`` and ``UserError`` as every writing does."""
    path = os.path.join(desk.root, FILE)
    os.makedirs(os.path.dirname(path), exist_ok=True)
    with uninterrupted():
        data = msgspec.json.encode(sitting)
    write_atomically(path, data)
