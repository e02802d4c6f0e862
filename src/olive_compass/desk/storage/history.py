"""What was changed on the desk, by whom and why, with what is needed to take it back.

``.history/000012.json`` is a change that was carried out; ``.history/pending.json`` one that
is under way or was interrupted (``records.py`` says what is in them).
"""

import contextlib
import os
from collections.abc import Callable, Iterator, Sequence

from msgspec import Struct

from olive_compass.desk.storage.folders import Folder
from olive_compass.desk.storage.locking import locked
from olive_compass.desk.storage.plain_file import read_whole
from olive_compass.desk.storage.recorded_changes import RecordedChanges, record_name
from olive_compass.desk.storage.records import (
    FileChange,
    Record,
    StaleError,
    changing,
    digest,
    entry_of,
    read_record,
    text_of,
    whole_before,
)
from olive_compass.desk.storage.saving import (
    own_place,
    refuse_protected,
    remove_leftovers,
    write,
    write_in,
    written_place,
)
from olive_compass.errors import UserError
from olive_compass.structs import replace

#: Among how many records before it a change looks for the one that left a file as it is.
MOST_LOOKED_AT = 8


def _no_other_way(_file: FileChange, _now: bytes | None) -> FileChange | None:
    """The other way to take a file back, where nobody knows any."""
    return None


class Recovered(Struct, frozen=True):
    """What became of a change whose process had ended in the middle: it holds, or was taken back."""

    number: int
    what: str
    holds: bool


class History(RecordedChanges):
    """The changes of the desk in the folder ``root``: made, undone and removed."""

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

        Raises ``StaleError`` where a file is not as ``before`` says, ``UserError`` where the lock
        cannot be had or a file cannot be written; then nothing has changed.
        """
        changes = changing(changes)
        try:
            with locked(self.root) as folder:
                # What a killed process left comes first: its files are not as their readers think.
                self._finish_interrupted(folder)
                for change in changes:
                    self._refuse_protected(change.path)
                    # Looked at under the lock: between reading and saving somebody else may have written.
                    if self._now(change.path) != change.before:
                        raise StaleError(change.path)
                numbers = self.numbers()
                number = max(numbers, default=0) + 1
                earlier = list(self.readable(numbers[-MOST_LOOKED_AT:]))
                record = Record(
                    number=number,
                    when=when,
                    who=who,
                    what=what,
                    why=why,
                    command=command,
                    entries=tuple(entry_of(change, iter(earlier)) for change in changes),
                    undoes=undoes,
                )
                # From here on a kill can be recovered from: the record has every file as it was and as it becomes.
                self._write_pending(folder, record)
                try:
                    for change in changes:
                        self._put(change.path, change.after, change.before)
                except (OSError, UserError, StaleError, KeyboardInterrupt):
                    # What was written before the one that could not be is taken back at once.
                    self._finish_interrupted(folder)
                    raise
                self._number(folder, number)
        except OSError as error:
            raise UserError(f"{error.strerror}.", file=str(error.filename or self.root)) from error
        return number

    @contextlib.contextmanager
    def turn(self) -> Iterator[None]:
        """Holds the desk from before it is read until it is saved, so that nobody moves it meanwhile.

        Where it cannot be held, it is read all the same: saving it will say why.
        """
        with contextlib.ExitStack() as stack:
            with contextlib.suppress(OSError):
                stack.enter_context(locked(self.root))
            yield

    def recover(self) -> Recovered | None:
        """Finishes or undoes what an interrupted change left; None: there is nothing, or another is at it.

        Raises ``UserError`` where its record cannot be read. Where the desk cannot be written, it is
        left to whoever can.
        """
        pending = os.path.join(self.folder, "pending.json")
        if not os.path.exists(pending):
            return None
        record = read_record(pending)
        try:
            # Whoever holds it is in the middle of a change, which is no interrupted one.
            with locked(self.root, patience=0) as folder:
                if not os.path.exists(pending):
                    return None
                self._finish_interrupted(folder)
        except (OSError, UserError):
            return None
        return Recovered(record.number, record.what, record.number in self.numbers())

    def undo_changes(
        self,
        record: Record,
        otherwise: "Callable[[FileChange, bytes | None], FileChange | None]" = _no_other_way,
    ) -> list[FileChange]:
        """The file changes that take ``record`` back.

        Where a file has been changed since, outside the history, only the decisions of the record
        are taken back, or what ``otherwise`` makes of the file and its bytes now; raises ``UserError`` where
        the later work changed those very decisions.
        """
        changes = []
        for file, entry in zip(self.files(record), record.entries, strict=True):
            now = self._now(file.path)
            # Undo must not lose what a person did in an editor since.
            if digest(now) != entry.digest:
                merged = _without(file, now)
                if merged is not None:
                    changes.append(FileChange(file.path, now, merged))
                    continue
                other = otherwise(file, now)
                if other is not None:
                    changes.append(other)
                    continue
                raise UserError(
                    f"This file was changed by hand after change {record.number}, and undoing "
                    "that change would lose the later work; nothing was changed.",
                    file=file.path,
                    hint="Save the file elsewhere, or edit it by hand. To leave this change as it is, and go "
                    "on with older ones: olive-compass undo --skip.",
                )
            changes.append(FileChange(file.path, now, file.before))
        return changes

    def prune(self, numbers: Sequence[int]) -> None:
        """Removes the oldest changes, those with these numbers: they can be undone no more.

        Raises ``UserError`` where the lock cannot be had or a file cannot be written. A kill leaves some of them.
        """
        gone = set(numbers)
        try:
            with locked(self.root) as folder:
                self._finish_interrupted(folder)
                kept = [number for number in self.numbers() if number not in gone]
                # Those that stay must not name what goes.
                for number in kept[:MOST_LOOKED_AT]:
                    record = self.record(number)
                    entries = tuple(whole_before(each, self.record) for each in record.entries)
                    if entries != record.entries:
                        write_in(
                            folder, record_name(number), text_of(replace(record, entries=entries))
                        )
                for number in sorted(gone):
                    folder.unlink(record_name(number))
        except OSError as error:
            raise UserError(f"{error.strerror}.", file=str(error.filename or self.root)) from error

    def _refuse_protected(self, path: str) -> None:
        """Refuses a file that is not to be written, before anything is."""
        place = written_place(self.root, path)
        # Where its folder is yet to be made there is no file, and nothing protects it.
        with contextlib.suppress(FileNotFoundError), place.folder() as folder:
            refuse_protected(folder, place.name)

    def _finish_interrupted(self, folder: Folder) -> None:
        """Finishes or undoes a change whose process ended in the middle of it."""
        path = os.path.join(self.folder, "pending.json")
        if not os.path.exists(path):
            return
        record = read_record(path)
        done = [
            file
            for file, entry in zip(self.files(record), record.entries, strict=True)
            if digest(self._now(file.path)) == entry.digest
        ]
        for changed in record.paths:
            place = written_place(self.root, changed)
            with contextlib.suppress(FileNotFoundError), place.folder() as beside:
                remove_leftovers(beside, place.name)
        # All of it was written, only its number was not: it holds.
        if len(done) == len(record.entries):
            self._number(folder, record.number)
            return
        # Part of it was written: half a change is none.
        for file in done:
            self._put(file.path, file.before, self._now(file.path))
        folder.unlink("pending.json")

    def _write_pending(self, folder: Folder, record: Record) -> None:
        # Of a process that was killed before its record was complete.
        remove_leftovers(folder, "pending.json")
        write_in(folder, "pending.json", text_of(record))

    def _number(self, folder: Folder, number: int) -> None:
        folder.rename("pending.json", record_name(number))

    def _now(self, path: str) -> bytes | None:
        try:
            return read_whole(os.path.join(self.root, path), path)
        except FileNotFoundError:
            return None

    def _put(self, path: str, data: bytes | None, before: bytes | None) -> None:
        """Writes a file, unless somebody wrote it since it was ``before``: then ``StaleError``."""

        def still_good() -> None:
            if self._now(path) != before:
                raise StaleError(path)

        if data is not None:
            write(written_place(self.root, path), data, still_good)
            return
        # Of a link, the link goes and not what it leads to.
        place = own_place(self.root, path)
        with place.folder() as folder:
            still_good()
            folder.unlink(place.name)
        # Folders of the desk that were made for the file go with it, as far as nothing else is in them.
        with contextlib.suppress(OSError):
            for depth in range(0 if os.path.isabs(path) else len(place.folders), 0, -1):
                os.rmdir(os.path.join(place.base, *place.folders[:depth]))


def _without(file: FileChange, now: bytes | None) -> bytes | None:
    """``now`` without what a change did to it, None where later work went on from that."""
    if file.before is None or file.after is None or now is None:
        return None
    from olive_compass.desk.merging import merge_file

    try:
        merged = merge_file(file.path, file.after, now, file.before)
    except UserError:
        return None
    if merged.conflicts:
        return None
    return merged.data
