"""What ``press`` answers, as it is reported."""

from collections.abc import Iterable

from olive_compass.core.answers.press import Here, PressAnswer
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.desk.desk import Desk
from olive_compass.desk.reported.claims import ClaimReport, claim_report
from olive_compass.desk.reported.report import Report


class OutcomeReport(Report, frozen=True, kw_only=True):
    """What a press does in some modes, who decides it, and who else wanted it."""

    modes: tuple[str, ...]
    outcome: str
    decided_by: list[ClaimReport]
    overridden: list[ClaimReport]
    longer: list[ClaimReport]


class AbsentReport(Report, frozen=True, kw_only=True):
    """A command that would have the press and is not there."""

    command: str
    why: str


class PressReport(Report, frozen=True, kw_only=True):
    """What a press does in an application."""

    app: str
    key: str
    outcomes: list[OutcomeReport]
    by_letters: tuple[str, ...]
    not_there: list[AbsentReport]


def press_report(desk: Desk, keymap: Keymap, answer: PressAnswer) -> PressReport:
    """What a press does, with the files and lines of all that wants it."""
    app = keymap.app
    absent = [
        AbsentReport(command=claim.command, why=app.why_absent(app.catalogue.by_id[claim.command]))
        for claim in answer.absent
    ]
    return PressReport(
        app=app.name,
        key=str(answer.trigger),
        outcomes=[_outcome(desk, keymap, each) for each in answer.here],
        by_letters=answer.letters,
        not_there=absent,
    )


def _outcome(desk: Desk, keymap: Keymap, here: Here) -> OutcomeReport:
    def reports(claims: Iterable[Claim]) -> list[ClaimReport]:
        return [claim_report(desk, keymap, claim) for claim in claims]

    outcome = here.outcome
    return OutcomeReport(
        modes=tuple(here.modes),
        outcome=outcome.what,
        decided_by=reports(outcome.winners),
        overridden=reports(outcome.overridden),
        longer=reports(outcome.longer),
    )
