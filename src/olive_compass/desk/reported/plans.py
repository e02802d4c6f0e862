"""What ``keyset apply`` plans."""

from collections.abc import Callable, Sequence

from olive_compass.core.changes.change import Change
from olive_compass.core.sharing.planned import Obstacle
from olive_compass.core.sharing.sameness import Practice, habits
from olive_compass.desk.reported.report import Report
from olive_compass.desk.writing.plans import Recipient, planned_of


class DisplacedReport(Report, frozen=True, kw_only=True):
    """A command that loses a key, and those that are left to it."""

    command: str
    left_with: list[str]


class PurposeReport(Report, frozen=True, kw_only=True):
    """A purpose: the key that its command gets, and what that displaces."""

    purpose: str
    command: str | None
    what: str
    key: str | None
    reasons: list[str]
    displaced: list[DisplacedReport]
    given_up: list[str]
    unlisted_meanings: Sequence[str]
    habits: int


class PlannedReport(Report, frozen=True, kw_only=True):
    """What a key set changes in an application."""

    app: str
    scheme: str
    planned: list[PurposeReport]


def plan_report(
    target: Recipient, change: Change, done: Practice, says: Callable[[Obstacle], str]
) -> PlannedReport:
    """``says`` gives the sentence of what is in the way of a key."""
    return PlannedReport(
        app=target.view.app.name,
        scheme=target.scheme.name,
        planned=[
            PurposeReport(
                purpose=p.purpose,
                command=p.command or None,
                what=p.what,
                key=str(p.trigger) if p.trigger else None,
                reasons=list(map(says, p.why)),
                displaced=[
                    DisplacedReport(command=loss.command, left_with=list(map(str, loss.left)))
                    for loss in p.lost
                ],
                given_up=list(map(str, p.dropped)),
                unlisted_meanings=p.unlisted,
                habits=habits(target.view.keymap, p, done),
            )
            for p in planned_of(change)
        ],
    )
