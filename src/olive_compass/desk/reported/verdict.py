"""What stands against a key, as every command that writes reports it."""

from collections.abc import Callable, Sequence

from olive_compass.core.schemes.objections.kind import Objection
from olive_compass.core.schemes.verdicts import Verdict
from olive_compass.desk.reported.report import Report


class AgainstReport(Report, frozen=True, kw_only=True):
    """An objection, its weight and its sentence."""

    part: str
    weight: str
    says: str


class LostReport(Report, frozen=True, kw_only=True):
    """A command that loses a key, and those that are left to it."""

    command: str
    modes: Sequence[str]
    left_with: list[str]


class VerdictReport(Report, frozen=True, kw_only=True):
    """What stands against a key for a command."""

    effect: str
    command: str
    key: str
    modes: Sequence[str]
    effort: float | None
    against: list[AgainstReport]
    lost: list[LostReport]


def verdict_report(found: Verdict, says: Callable[[Objection], str]) -> VerdictReport:
    """``says`` gives the sentence of an objection."""
    return VerdictReport(
        effect="verdict",
        command=found.command.id,
        key=str(found.trigger),
        modes=found.modes,
        effort=found.effort.strokes if found.effort else None,
        against=[
            AgainstReport(part=each.id, weight=each.kind.weight, says=says(each))
            for each in found.objections
        ],
        lost=[
            LostReport(command=loss.command, modes=loss.modes, left_with=list(map(str, loss.left)))
            for loss in found.lost
        ],
    )
