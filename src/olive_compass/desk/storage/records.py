"""The record of a change: what it did to which files, as ``.history`` keeps it.

A record says of each file what it was before and what it became, as text that a person can read. What it was before
is most often what an earlier record left, and is named by the number of that one; what it became is the lines that
changed. So a change takes what was changed, and not what the file weighs.
"""

import os
from collections.abc import Callable, Iterable, Iterator
from hashlib import sha256
from itertools import takewhile
from typing import Any

from msgspec import Struct

from olive_compass.core.plain import one_line
from olive_compass.desk.storage.plain_file import read_whole
from olive_compass.errors import UserError

FORMAT = "olive-compass-change/2"

#: What was written before: each file whole, before and after.
WHOLE_FORMAT = "olive-compass-change/1"

#: The largest file (bytes) whose content after a change is kept in its record.
MOST_KEPT = 200_000

#: Smaller files (bytes) are kept whole before a change: a record that can be read alone is worth more.
LEAST_NAMED = 200

#: A file is kept whole after so many records that each name the one before.
MOST_STEPS = 16


class StaleError(Exception):
    """A file is no longer as it was when the change was worked out: work it out again."""


class FileChange(Struct, frozen=True):
    """A file (relative to the desk) before and after; None: it does not exist."""

    path: str
    before: bytes | None
    after: bytes | None


def changing(files: Iterable[FileChange]) -> list[FileChange]:
    """Those of the files that are not the same afterwards."""
    return [each for each in files if each.before != each.after]


class Entry(Struct, frozen=True, kw_only=True):
    """A file in a record, with its content as the record has it, and the digest of what it became.

    ``before`` is a text, ``{"base64": …}``, None where there was no file, or ``{"change": 12}``: what it became by
    change 12; ``steps`` beside it says over how many records one comes to a content that is kept whole. ``after`` is
    the same, but for ``{"lines": [3, 4], "become": …}``: from the fourth line on one line gives way to the text
    (counted from 0). It is None as well where it was too large to keep.
    """

    path: str
    before: Any
    after: Any
    digest: str

    @property
    def steps(self) -> int:
        """Over how many earlier records one comes to a content that is kept whole."""
        if _names_change(self.before):
            return int(self.before.get("steps", 1))
        return 0


class Record(Struct, frozen=True, kw_only=True):
    """A change that was carried out. ``undoes`` is the number of the change it takes back."""

    number: int
    when: str
    who: str
    what: str
    why: str
    command: str
    entries: tuple[Entry, ...]
    undoes: int = 0

    @property
    def paths(self) -> tuple[str, ...]:
        """The files that it changed, relative to the desk."""
        return tuple(entry.path for entry in self.entries)

    def entry(self, path: str) -> Entry | None:
        """What it did to a file, None: nothing."""
        return next((each for each in self.entries if each.path == path), None)


#: How a record is found by its number; raises ``UserError`` where it is gone or cannot be read.
Load = Callable[[int], Record]


def digest(data: bytes | None) -> str:
    if data is None:
        return ""
    return sha256(data).hexdigest()


def entry_of(change: FileChange, earlier: Iterator[Record]) -> Entry:
    """A change of a file for its record; ``earlier`` are records before it, the newest first."""
    return Entry(
        path=change.path,
        before=_before(change, earlier),
        after=_after(change),
        digest=digest(change.after),
    )


def whole_before(entry: Entry, load: Load) -> Entry:
    """The entry with its content before the change in itself, naming no earlier record."""
    if not _names_change(entry.before):
        return entry
    return Entry(
        path=entry.path,
        before=_encoded(before_of(entry, load)),
        after=entry.after,
        digest=entry.digest,
    )


def changes_of(record: Record, load: Load) -> tuple[FileChange, ...]:
    """The files of a record, before and after it. Raises ``UserError`` where a record that it names is gone."""
    return tuple(
        FileChange(entry.path, before_of(entry, load), _after_of(entry, load))
        for entry in record.entries
    )


def before_of(entry: Entry, load: Load, steps: int = MOST_STEPS) -> bytes | None:
    """What a file was before a change, over so many earlier records at most.

    Raises ``UserError`` where one of them is gone, or says nothing of the file.
    """
    if not _names_change(entry.before):
        return _content(entry.before)
    number = int(entry.before["change"])
    earlier = None
    if steps:
        earlier = load(number).entry(entry.path)
    if earlier is None:
        raise UserError(
            f"The history no longer has the earlier content of this file: change {number} lacks it.",
            file=entry.path,
        )
    return _after_of(earlier, load, steps - 1)


def _after_of(entry: Entry, load: Load, steps: int = MOST_STEPS) -> bytes | None:
    kept = entry.after
    if not isinstance(kept, dict) or "lines" not in kept:
        return _content(kept)
    first, last = kept["lines"]
    lines = (before_of(entry, load, steps) or b"").splitlines(keepends=True)
    return b"".join((*lines[:first], kept["become"].encode(), *lines[last:]))


def _before(change: FileChange, earlier: Iterator[Record]) -> object:
    """What a file was before a change: by the record that left it so, where there is one, else whole."""
    data = change.before
    if data is None or len(data) < LEAST_NAMED:
        return _encoded(data)
    for record in earlier:
        entry = record.entry(change.path)
        if entry is None:
            continue
        if _needs_whole(entry, data):
            break
        return {"change": record.number, "steps": entry.steps + 1}
    return _encoded(data)


def _needs_whole(entry: Entry, data: bytes) -> bool:
    return entry.after is None or entry.digest != digest(data) or entry.steps >= MOST_STEPS


def _after(change: FileChange) -> object:
    """What a file became by a change: the lines that are others, or all of it where that is no more."""
    data = change.after
    if data is None or len(data) > MOST_KEPT:
        return None
    whole = _encoded(data)
    if change.before is None or not isinstance(whole, str):
        return whole
    old, new = (each.splitlines(keepends=True) for each in (change.before, data))
    start = _alike(old, new)
    end = _alike(old[start:][::-1], new[start:][::-1])
    text = b"".join(new[start : len(new) - end])
    if len(text) > len(data) // 2:
        return whole
    return {"lines": [start, len(old) - end], "become": text.decode()}


def _alike(one: list[bytes], other: list[bytes]) -> int:
    """How many lines are the same at the beginning of both."""
    return sum(1 for _ in takewhile(lambda pair: pair[0] == pair[1], zip(one, other, strict=False)))


def _names_change(kept: object) -> bool:
    return isinstance(kept, dict) and "change" in kept


def _encoded(data: bytes | None) -> object:
    if data is None:
        return None
    try:
        return data.decode()
    except UnicodeDecodeError:
        import base64

        return {"base64": base64.b64encode(data).decode()}


def _content(kept: Any) -> bytes | None:
    """The content of a file that a record keeps whole."""
    if isinstance(kept, str):
        return kept.encode()
    if kept is None:
        return None
    import base64

    return base64.b64decode(kept["base64"])


def text_of(record: Record) -> bytes:
    """The file of a record."""
    # Loaded here: a change that is only shown writes no record.
    import json

    value = {
        "format": FORMAT,
        "number": record.number,
        "when": record.when,
        "who": record.who,
        "what": record.what,
        "why": record.why,
        "command": record.command,
        "undoes": record.undoes,
        "files": [
            {
                "path": entry.path,
                "before": entry.before,
                "after-digest": entry.digest,
                **({} if entry.after is None else {"after": entry.after}),
            }
            for entry in record.entries
        ],
    }
    return json.dumps(value, ensure_ascii=False, indent=1).encode()


def read_record(path: str) -> Record:
    """The record in a file. Raises ``UserError`` where it is none."""
    from olive_compass.desk.texts.json_text import loads

    try:
        loaded = loads(read_whole(path).decode())
    except (OSError, ValueError):
        loaded = None
    if not isinstance(loaded, dict) or loaded.get("format") not in (FORMAT, WHOLE_FORMAT):
        raise _unreadable(path)
    try:
        return _decoded(loaded)
    except (KeyError, TypeError, ValueError) as error:
        raise _unreadable(path) from error


def _decoded(value: dict[str, Any]) -> Record:
    when, who, what, why, command = (
        one_line(str(value[key])) for key in ("when", "who", "what", "why", "command")
    )
    return Record(
        number=int(str(value["number"])),
        when=when,
        who=who,
        what=what,
        why=why,
        command=command,
        entries=tuple(
            Entry(
                path=file["path"],
                before=_checked(file["before"]),
                after=_checked(file.get("after")),
                digest=file["after-digest"],
            )
            for file in value["files"]
        ),
        undoes=int(str(value.get("undoes", 0))),
    )


def _checked(kept: Any) -> Any:
    """A content as a record has it, once it is sure that it can be taken. Raises ``ValueError`` and the like."""
    if isinstance(kept, dict) and "lines" in kept:
        first, last = map(int, kept["lines"])
        return {"lines": [first, last], "become": str(kept["become"])}
    if _names_change(kept):
        return {"change": int(kept["change"]), "steps": int(kept.get("steps", 1))}
    _content(kept)
    return kept


def _unreadable(path: str) -> UserError:
    hint = ""
    if os.path.basename(path) == "pending.json":
        hint = "It tells of a change that was interrupted. Look at your files, then remove it."
    return UserError("This record of the history cannot be read.", file=path, hint=hint)
