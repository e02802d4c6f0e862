"""What was counted, as ``usage`` reports it."""

from collections.abc import Sequence

from olive_compass.core.apps.app import App
from olive_compass.core.usage.looking import Used
from olive_compass.desk.reported.report import Report


class UsedReport(Report, frozen=True, kw_only=True):
    """How often a command was used, in which ways, and by which keys it can be."""

    command: str
    title: str
    times: int
    a_week: float
    ways: dict[str, int]
    undone: int
    keys: list[str]
    first: str | None
    last: str | None


def used_report(app: App, weeks: float, e: Used, keys: Sequence[str]) -> UsedReport:
    """How often a command was used in so many weeks; ``keys`` are those that start it."""
    return UsedReport(
        command=e.command,
        title=app.shown(e.command),
        times=e.times,
        a_week=round(e.times / weeks, 2),
        ways=dict(e.ways),
        undone=e.undone,
        keys=list(keys),
        first=e.first or None,
        last=e.last or None,
    )
