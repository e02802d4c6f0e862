"""The changes of a desk as its history has them, and which of them is undone or redone next."""

import contextlib
import os
from collections.abc import Iterator, Sequence

from olive_compass.desk.storage.folders import HISTORY
from olive_compass.desk.storage.records import FileChange, Record, changes_of, read_record
from olive_compass.errors import UserError


class RecordedChanges:
    """The changes of the desk in the folder ``root``, to be read."""

    def __init__(self, root: str) -> None:
        self.root = root
        self.folder = os.path.join(root, HISTORY)

    def numbers(self) -> list[int]:
        """The numbers of all changes, the oldest first."""
        if not os.path.isdir(self.folder):
            return []
        stems = (name[:-5] for name in os.listdir(self.folder) if name.endswith(".json"))
        return sorted(int(stem) for stem in stems if stem.isdigit())

    def records(self) -> Iterator[Record]:
        """All changes, the newest first."""
        for number in reversed(self.numbers()):
            yield self.record(number)

    def record(self, number: int) -> Record:
        """The change with that number. Raises ``UserError`` where it is gone, or cannot be read."""
        return read_record(self.path_of(number))

    def path_of(self, number: int) -> str:
        """The file of the change with that number."""
        return os.path.join(self.folder, record_name(number))

    def files(self, record: Record) -> tuple[FileChange, ...]:
        """The files of a change, before and after it. Raises ``UserError`` where that is not known any more."""
        return changes_of(record, self.record)

    def readable(self, numbers: Sequence[int]) -> Iterator[Record]:
        """The changes with these numbers, the newest first, as far as they can be read."""
        with contextlib.suppress(UserError):
            yield from map(self.record, reversed(numbers))

    def undoable(self) -> Iterator[Record]:
        """The changes that are neither undone nor undoings, the newest first."""
        skipped: set[int] = set()
        for record in self.records():
            if record.number in skipped:
                continue
            if record.undoes:
                skipped.add(record.undoes)
            else:
                yield record

    def to_undo(self) -> Record | None:
        """The newest change that is neither undone nor itself an undoing."""
        return next(self.undoable(), None)

    def to_redo(self) -> Record | None:
        """The newest undoing that was not taken back, if nothing else was changed after it."""
        skipped: set[int] = set()
        numbers = self.numbers()
        for record in map(self.record, reversed(numbers)):
            if record.number in skipped:
                continue
            # A change that is no undoing stands after what could be redone.
            if record.undoes not in numbers:
                return None
            undone = self.record(record.undoes)
            if undone.undoes:
                # A redo: it and the undoing that it took back cancel out.
                skipped.add(undone.number)
                continue
            return record
        return None


def record_name(number: int) -> str:
    """The name of the file of a change."""
    return f"{number:06}.json"
