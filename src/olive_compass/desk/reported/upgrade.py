"""A new version of an application, as ``upgrade`` reports it."""

from collections.abc import Sequence

from olive_compass.core.apps.app import Command
from olive_compass.core.sharing.upgrading import Upgrade
from olive_compass.desk.reported.report import Report


class MatchReport(Report, frozen=True, kw_only=True):
    """A command that changed, as it was and as it is."""

    what: Sequence[str]
    command: str
    before: str | None
    after: str | None
    keys_before: list[str]
    keys_after: list[str]
    score: float
    by: str


class HeldReport(Report, frozen=True, kw_only=True):
    """A decision of a scheme, and what becomes of it."""

    scheme: str
    table: str
    subject: str
    key: str | None
    what: str
    says: str
    candidates: list[str]


class UpgradeReport(Report, frozen=True, kw_only=True):
    """A new version of an application: what changed in its commands, and which decisions still hold."""

    app: str
    version: str
    commands: list[MatchReport]
    decisions: list[HeldReport]


def upgrade_report(found: Upgrade) -> UpgradeReport:
    """A new version of an application; commands that are as they were are left out."""
    return UpgradeReport(
        app=found.app.name,
        version=found.app.version,
        commands=[
            MatchReport(
                what=each.what,
                command=each.id,
                before=_title(each.old),
                after=_title(each.new),
                keys_before=_keys(each.old),
                keys_after=_keys(each.new),
                score=each.score,
                by=each.by,
            )
            for each in found.matches
            if each.what
        ],
        decisions=[
            HeldReport(
                scheme=v.scheme,
                table=v.table,
                subject=v.subject,
                key=str(v.trigger) if v.trigger else None,
                what=v.what,
                says=v.says,
                candidates=[c.id for c in v.candidates],
            )
            for v in found.verdicts
        ],
    )


def _title(command: Command | None) -> str | None:
    if command:
        return command.title
    return None


def _keys(command: Command | None) -> list[str]:
    if command:
        return list(map(str, command.keys))
    return []
