"""What was changed on the desk, by whom and why, with what is needed to take it back.

``.history/000012.json`` is a change that was carried out; ``.history/pending.json`` one that
is under way or was interrupted. A record keeps each file as it was before.
"""

import base64
import contextlib
import json
import os
from collections.abc import Iterator
from typing import Any, NamedTuple

from olive_compass.core.plain import one_line
from olive_compass.desk.plain_file import read_whole
from olive_compass.desk.saving import locked, remove_leftovers, write_atomically, written_place
from olive_compass.errors import Refused

FORMAT = "olive-compass-change/1"

#: The largest file (bytes) whose content after a change is kept in its record.
MOST_KEPT = 200_000


class Stale(Exception):
    """A file is no longer as it was when the change was worked out: work it out again."""


class FileChange(NamedTuple):
    """A file (relative to the desk) before and after; None: it does not exist."""

    path: str
    before: bytes | None
    after: bytes | None


class Record(NamedTuple):
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


class Settled(NamedTuple):
    """What became of a change whose process had ended in the middle: it holds, or was taken back."""

    number: int
    what: str
    holds: bool


class History:
    """The changes of the desk in the folder ``root``."""

    def __init__(self, root: str) -> None:
        self.root = root
        self.folder = os.path.join(root, ".history")

    def save(
        self,
        changes: list[FileChange],
        *,
        what: str,
        why: str,
        command: str,
        who: str,
        when: str,
        undoes: int = 0,
    ) -> int:
        """Carries out ``changes`` as one and returns its number.

        Raises ``Stale`` where a file is not as ``before`` says, ``Refused`` where the lock
        cannot be had or a file cannot be written; then nothing has changed.
        """
        changes = [change for change in changes if change.before != change.after]
        try:
            with locked(os.path.join(self.folder, "lock")):
                self._finish_interrupted()
                for change in changes:
                    written_place(self.root, change.path)
                    if self._now(change.path) != change.before:
                        raise Stale(change.path)
                number = (self.numbers() or [0])[-1] + 1
                self._write_pending(changes, number, what, why, command, who, when, undoes)
                try:
                    for change in changes:
                        self._put(change.path, change.after, change.before)
                except (OSError, Stale):
                    # What was written before the one that could not be is taken back at once.
                    self._finish_interrupted()
                    raise
                self._number(number)
        except OSError as error:
            raise Refused(f"{error.strerror}.", file=str(error.filename or self.root)) from error
        return number

    @contextlib.contextmanager
    def turn(self) -> Iterator[None]:
        """Holds the desk from before it is read until it is saved, so that nobody moves it meanwhile.

        Where it cannot be held, it is read all the same: saving it will say why.
        """
        with contextlib.ExitStack() as stack:
            with contextlib.suppress(OSError):
                stack.enter_context(locked(os.path.join(self.folder, "lock")))
            yield

    def settle(self) -> Settled | None:
        """Settles what an interrupted change left; None: there is nothing, or another is at it.

        Raises ``Refused`` where its record cannot be read. Where the desk cannot be written, it is
        left to whoever can.
        """
        pending = os.path.join(self.folder, "pending.json")
        if not os.path.exists(pending):
            return None
        record = _decoded(_load(pending), pending)
        try:
            with locked(os.path.join(self.folder, "lock"), patience=0):
                if not os.path.exists(pending):
                    return None
                self._finish_interrupted()
        except (OSError, Refused):
            return None
        return Settled(record.number, record.what, record.number in self.numbers())

    def numbers(self) -> list[int]:
        """The numbers of all changes, the oldest first."""
        if not os.path.isdir(self.folder):
            return []
        names = (os.path.splitext(name) for name in os.listdir(self.folder))
        return sorted(int(stem) for stem, ending in names if ending == ".json" and stem.isdigit())

    def records(self) -> Iterator[Record]:
        """All changes, the newest first."""
        for number in reversed(self.numbers()):
            yield self.record(number)

    def record(self, number: int) -> Record:
        """The change with that number."""
        path = os.path.join(self.folder, f"{number:06}.json")
        return _decoded(_load(path), path)

    def to_undo(self) -> Record | None:
        """The newest change that is neither undone nor itself an undoing."""
        skipped: set[int] = set()
        for record in self.records():
            if record.number in skipped:
                continue
            if not record.undoes:
                return record
            skipped.add(record.undoes)
        return None

    def to_redo(self) -> Record | None:
        """The newest undoing that was not taken back, if nothing else was changed after it."""
        skipped: set[int] = set()
        by_number = {record.number: record for record in self.records()}
        for number, record in by_number.items():
            if number in skipped:
                continue
            undone = by_number.get(record.undoes)
            if undone is None:
                return None
            if undone.undoes:
                # A redo: it and the undoing that it took back cancel out.
                skipped.add(undone.number)
                continue
            return record
        return None

    def undo_changes(self, record: Record) -> list[FileChange]:
        """The file changes that take ``record`` back.

        Where a file has been changed since, outside the history, only the decisions of the record
        are taken back; raises ``Refused`` where the later work changed those very decisions.
        """
        changes = []
        for file in record.files:
            now = self._now(file.path)
            if _digest(now) != record.after[file.path]:
                merged = _without(file, now)
                if merged is not None:
                    changes.append(FileChange(file.path, now, merged))
                    continue
                raise Refused(
                    f"This file was changed by hand after change {record.number}, and undoing "
                    "that change would lose the later work; nothing was changed.",
                    file=file.path,
                    hint="Save the file elsewhere, or edit it by hand.",
                )
            changes.append(FileChange(file.path, now, file.before))
        return changes

    def _finish_interrupted(self) -> None:
        """Settles a change whose process ended in the middle of it."""
        path = os.path.join(self.folder, "pending.json")
        if not os.path.exists(path):
            return
        record = _decoded(_load(path), path)
        done = [
            file
            for file in record.files
            if _digest(self._now(file.path)) == record.after[file.path]
        ]
        for file in record.files:
            remove_leftovers(written_place(self.root, file.path))
        if len(done) == len(record.files):
            self._number(record.number)
            return
        for file in done:
            self._put(file.path, file.before, self._now(file.path))
        os.unlink(path)

    def _write_pending(
        self,
        changes: list[FileChange],
        number: int,
        what: str,
        why: str,
        command: str,
        who: str,
        when: str,
        undoes: int,
    ) -> None:
        record = {
            "format": FORMAT,
            "number": number,
            "when": when,
            "who": who,
            "what": what,
            "why": why,
            "command": command,
            "undoes": undoes,
            "files": [
                {
                    "path": change.path,
                    "before": _encoded(change.before),
                    "after-digest": _digest(change.after),
                    **_small(change.after),
                }
                for change in changes
            ],
        }
        text = json.dumps(record, ensure_ascii=False, indent=1)
        path = os.path.join(self.folder, "pending.json")
        # Of a process that was killed before its record was complete.
        remove_leftovers(path)
        write_atomically(path, text.encode())

    def _number(self, number: int) -> None:
        os.replace(
            os.path.join(self.folder, "pending.json"),
            os.path.join(self.folder, f"{number:06}.json"),
        )

    def _now(self, path: str) -> bytes | None:
        try:
            return read_whole(os.path.join(self.root, path), path)
        except FileNotFoundError:
            return None

    def _put(self, path: str, data: bytes | None, before: bytes | None) -> None:
        """Writes a file, unless somebody wrote it since it was ``before``: then ``Stale``."""

        def still_good() -> None:
            if self._now(path) != before:
                raise Stale(path)

        whole = written_place(self.root, path)
        if data is None:
            # Of a link, the link goes and not what it leads to.
            whole = os.path.join(self.root, path)
            still_good()
            os.unlink(whole)
            # Folders that were made for the file go with it.
            folder = os.path.dirname(whole)
            while len(folder) > len(self.root) and not os.listdir(folder):
                os.rmdir(folder)
                folder = os.path.dirname(folder)
        else:
            write_atomically(whole, data, still_good)


def _digest(data: bytes | None) -> str:
    import hashlib

    return "" if data is None else hashlib.sha256(data).hexdigest()


def _encoded(data: bytes | None) -> object:
    if data is None:
        return None
    try:
        text = data.decode()
    except UnicodeDecodeError:
        return {"base64": base64.b64encode(data).decode()}
    return text


def _small(data: bytes | None) -> dict[str, object]:
    """The content after a change for its record, where it is small: undo merges by it."""
    return {"after": _encoded(data)} if data is not None and len(data) <= MOST_KEPT else {}


def _content(value: Any) -> bytes | None:
    """The content of a file as a record keeps it."""
    if isinstance(value, str):
        return value.encode()
    return None if value is None else base64.b64decode(value["base64"])


def _without(file: FileChange, now: bytes | None) -> bytes | None:
    """``now`` without what a change did to it, None where later work went on from that."""
    if file.before is None or file.after is None or now is None:
        return None
    from olive_compass.desk.merging import merge_file

    try:
        merged = merge_file(file.path, file.after, now, file.before)
    except Refused:
        return None
    return None if merged.clashes else merged.data


def _load(path: str) -> dict[str, object]:
    try:
        with open(path, encoding="utf-8") as file:
            loaded = json.load(file)
    except ValueError:
        loaded = None
    if not isinstance(loaded, dict) or loaded.get("format") != FORMAT:
        raise _unreadable(path)
    return loaded


def _decoded(record: dict[str, object], path: str) -> Record:
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
            int(str(record["number"])),
            when,
            who,
            what,
            why,
            command,
            tuple(files),
            after,
            int(str(record.get("undoes", 0))),
        )
    except (KeyError, TypeError, ValueError) as error:
        raise _unreadable(path) from error


def _unreadable(path: str) -> Refused:
    hint = ""
    if os.path.basename(path) == "pending.json":
        hint = "It tells of a change that was interrupted. Look at your files, then remove it."
    return Refused("This record of the history cannot be read.", file=path, hint=hint)
