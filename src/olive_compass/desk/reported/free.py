"""Free keys, as ``free`` reports them."""

from collections.abc import Sequence

from msgspec import field

from olive_compass.core.answers.free import FreeAnswer
from olive_compass.core.apps.app import Command
from olive_compass.desk.reported.report import Report


class RankedReport(Report, frozen=True, kw_only=True):
    """A free key, what it takes to press it, and why it suits."""

    key: str
    effort: float
    score: float
    reasons: Sequence[str]


class FreeReport(Report, frozen=True, kw_only=True):
    """The free keys of an application, and those that suit a command."""

    app: str
    modes: Sequence[str]
    for_: str | None = field(name="for")
    free: dict[str, list[str]]
    why_none: list[str]
    ranked: list[RankedReport]


def free_report(app: str, command: Command | None, found: FreeAnswer, why: list[str]) -> FreeReport:
    """``why`` says why the command itself can have no further key."""
    return FreeReport(
        app=app,
        modes=found.modes,
        for_=command.id if command else None,
        free={
            "+".join(held): [str(s.stroke) for bank in banks.values() for s in bank if s.free]
            for held, banks in found.map.items()
        },
        why_none=why,
        ranked=[
            RankedReport(
                key=str(each.trigger), effort=each.strokes, score=each.score, reasons=each.reasons
            )
            for each in found.ranked
        ],
    )
