"""The history as ``history`` reports it."""

from collections.abc import Sequence

from olive_compass.desk.reported.report import Report
from olive_compass.desk.storage.records import Record


class RecordReport(Report, frozen=True, kw_only=True):
    """A change of the desk: when, who, what, and whether it was undone."""

    number: int
    when: str
    who: str
    what: str
    why: str
    command: str
    files: Sequence[str]
    undoes: int | None
    undone: bool


def record_report(record: Record, undone: set[int]) -> RecordReport:
    """A change of the history; ``undone`` are the numbers of those that were undone."""
    return RecordReport(
        number=record.number,
        when=record.when,
        who=record.who,
        what=record.what,
        why=record.why,
        command=record.command,
        files=record.paths,
        undoes=record.undoes or None,
        undone=record.number in undone,
    )
