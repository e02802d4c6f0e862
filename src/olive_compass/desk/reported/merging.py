"""What a merge came to, as ``merge`` reports it."""

from collections.abc import Sequence

from olive_compass.core.sharing.merging import Conflict
from olive_compass.desk.merging import said, subject
from olive_compass.desk.reported.report import Report


class ConflictReport(Report, frozen=True, kw_only=True):
    """What both sides changed, each in its way."""

    file: str
    what: str
    ours: str
    theirs: str
    before: str


class MergedReport(Report, frozen=True, kw_only=True):
    """What a merge came to."""

    changed: bool
    dry_run: bool
    files: list[str]
    unsettled: list[ConflictReport]


def merged_report(
    dry_run: bool, files: Sequence[str], conflicts: Sequence[Conflict], changed: bool
) -> MergedReport:
    """What a merge wrote, or would write, and what it could not settle."""
    return MergedReport(
        changed=changed,
        dry_run=dry_run,
        files=list(files),
        unsettled=[
            ConflictReport(
                file=each.path,
                what=subject(each),
                ours=said(each.ours),
                theirs=said(each.theirs),
                before=said(each.base),
            )
            for each in conflicts
        ],
    )
