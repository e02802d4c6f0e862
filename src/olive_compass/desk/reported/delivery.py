"""Deliveries into an application's own file, as ``deliver`` reports them."""

from olive_compass.core.apps.app import App
from olive_compass.core.sharing.delivering import Moved
from olive_compass.desk.reported.report import Report
from olive_compass.desk.shortcuts.delivery_plans import Plan
from olive_compass.desk.shortcuts.delivery_target import Target


class MovedReport(Report, frozen=True, kw_only=True):
    """A command whose keys differ: those that were, and those that are."""

    command: str
    mode: str | None
    was: list[str]
    keys: list[str]


def moved_report(each: Moved) -> MovedReport:
    """A command whose keys changed."""
    return MovedReport(
        command=each.command,
        mode=each.mode or None,
        was=list(map(str, each.was)),
        keys=list(map(str, each.now)),
    )


class LineReport(Report, frozen=True, kw_only=True):
    """A line of the file, as it was and as it is."""

    line: int
    was: str | None
    now: str | None


class UnwrittenReport(Report, frozen=True, kw_only=True):
    """A command that cannot be written, and why."""

    command: str
    mode: str | None
    why: str


class DeliveryReport(Report, frozen=True, kw_only=True):
    """What a delivery changes in the file, and what cannot be written there."""

    app: str
    file: str
    file_format: str
    changed: bool
    change: int | None
    differences: list[MovedReport]
    lines: list[LineReport]
    unwritten: list[UnwrittenReport]


def delivery_report(app: App, found: Target, plan: Plan, number: int | None) -> DeliveryReport:
    """A delivery that is planned, or was made as the change ``number`` of the history (None: nothing was written)."""
    return DeliveryReport(
        app=app.name,
        file=found.path,
        file_format=found.form.name,
        changed=number is not None,
        change=number,
        differences=list(map(moved_report, plan.changes)),
        lines=[LineReport(line=each.line, was=each.was, now=each.now) for each in plan.lines],
        unwritten=[
            UnwrittenReport(command=e.subject, mode=e.mode or None, why=e.why)
            for e in plan.unwritten
        ],
    )
