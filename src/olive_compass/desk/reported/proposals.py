"""The purposes that ``purpose guess`` proposes."""

from collections.abc import Sequence

from olive_compass.core.sharing.proposals import Proposal
from olive_compass.desk.reported.report import Report


class GuessReport(Report, frozen=True, kw_only=True):
    """A command that is proposed, with the reasons for it."""

    app: str
    command: str
    alternates: list[str]
    title: str
    score: float
    reasons: Sequence[str]


class ProposalReport(Report, frozen=True, kw_only=True):
    """A purpose with the commands that are proposed for it."""

    purpose: str
    title: str
    group: str
    risk: str
    new: bool
    kind: str
    score: float
    commands: list[GuessReport]


def proposal_report(each: Proposal) -> ProposalReport:
    """A purpose that was found, with the commands for it."""
    return ProposalReport(
        purpose=each.purpose.id,
        title=each.purpose.title,
        group=each.purpose.group,
        risk=each.purpose.risk,
        new=each.is_new,
        kind=each.kind,
        score=each.score,
        commands=[
            GuessReport(
                app=g.app,
                command=g.candidate.command.id,
                alternates=list(g.commands[1:]),
                title=g.candidate.command.title,
                score=g.score,
                reasons=g.reasons,
            )
            for g in each.guesses
        ],
    )
