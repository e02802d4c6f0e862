"""What ``keyset learn`` reports."""

from olive_compass.core.sharing.learning import Learnt
from olive_compass.desk.reported.report import Report


class CloseReport(Report, frozen=True, kw_only=True):
    """Two keys that are used about as often for a purpose."""

    purpose: str
    key: str
    other: str
    why: str


class UnsettledReport(Report, frozen=True, kw_only=True):
    """A purpose for which no key was learnt, and why."""

    purpose: str
    why: str


class LearntReport(Report, frozen=True, kw_only=True):
    """What a key set learnt, and what it could not settle."""

    purposes: int
    close: list[CloseReport]
    unsettled: list[UnsettledReport]


def learnt_report(learnt: Learnt) -> LearntReport:
    """What was learnt from the keys of several applications."""
    return LearntReport(
        purposes=len(learnt.keyset.keys),
        close=[
            CloseReport(purpose=c.purpose, key=str(c.first), other=str(c.second), why=c.why)
            for c in learnt.close
        ],
        unsettled=[UnsettledReport(purpose=u.purpose, why=u.why) for u in learnt.unsettled],
    )
