"""The record of a change: what it did to which files, as ``.history`` keeps it.

A record keeps each file as it was before, and of a small one what it was afterwards.
"""

import os
from hashlib import sha256
from typing import Any

from msgspec import Struct

from olive_compass.core.plain import one_line
from olive_compass.desk.plain_file import read_whole
from olive_compass.errors import UserError

FORMAT = "olive-compass-change/1"

#: The largest file (bytes) whose content after a change is kept in its record.
MOST_KEPT = 200_000


class StaleError(Exception):
    """A file is no longer as it was when the change was worked out: work it out again."""


class FileChange(Struct, frozen=True):
    """A file (relative to the desk) before and after; None: it does not exist."""

    path: str
    before: bytes | None
    after: bytes | None


class Record(Struct, frozen=True, kw_only=True):
    """A change that was carried out. ``undoes`` is the number of the change it takes back.

    ``files`` are before and after it; a large file has no after (None), only its digest.
    """

    number: int
    when: str
    who: str
    what: str
    why: str
    command: str
    files: tuple[FileChange, ...]
    after: dict[str, str]
    undoes: int = 0


def digest(data: bytes | None) -> str:
    return "" if data is None else sha256(data).hexdigest()


def encoded(data: bytes | None) -> object:
    if data is None:
        return None
    try:
        text = data.decode()
    except UnicodeDecodeError:
        import base64

        return {"base64": base64.b64encode(data).decode()}
    return text


def small(data: bytes | None) -> dict[str, object]:
    """The content after a change for its record, where it is small: undo merges by it."""
    return {"after": encoded(data)} if data is not None and len(data) <= MOST_KEPT else {}


def _content(value: Any) -> bytes | None:
    """The content of a file as a record keeps it."""
    if isinstance(value, str):
        return value.encode()
    if value is None:
        return None
    import base64

    return base64.b64decode(value["base64"])


def load_record(path: str) -> dict[str, object]:
    from olive_compass.desk.json_text import loads

    try:
        loaded = loads(read_whole(path).decode())
    except (OSError, ValueError):
        loaded = None
    if not isinstance(loaded, dict) or loaded.get("format") != FORMAT:
        raise _unreadable(path)
    return loaded


def decoded(record: dict[str, object], path: str) -> Record:
    files = []
    after = {}
    try:
        for file in record["files"]:  # type: ignore[attr-defined]
            before = _content(file["before"])
            files.append(FileChange(file["path"], before, _content(file.get("after"))))
            after[file["path"]] = file["after-digest"]
        when, who, what, why, command = (
            one_line(str(record[key])) for key in ("when", "who", "what", "why", "command")
        )
        return Record(
            number=int(str(record["number"])),
            when=when,
            who=who,
            what=what,
            why=why,
            command=command,
            files=tuple(files),
            after=after,
            undoes=int(str(record.get("undoes", 0))),
        )
    except (KeyError, TypeError, ValueError) as error:
        raise _unreadable(path) from error


def _unreadable(path: str) -> UserError:
    hint = ""
    if os.path.basename(path) == "pending.json":
        hint = "It tells of a change that was interrupted. Look at your files, then remove it."
    return UserError("This record of the history cannot be read.", file=path, hint=hint)
