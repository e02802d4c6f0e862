"""A finding as it is reported: with the files and lines of its places, and its actions as lines to paste."""

from typing import Any

from msgspec import field

from olive_compass.core.severities import Severity
from olive_compass.desk.reported.report import Report
from olive_compass.desk.source_lines import FilePlace


class FindingReport(Report, frozen=True, kw_only=True):
    """A finding in the shape of ``check --json`` (docs/json.md)."""

    id: str
    #: Why a person accepted it, None: it is open.
    accepted: str | None
    severity: Severity
    app: str
    says: str
    #: What takes it away, what else would, and what only shows more: lines to paste, and the same as actions.
    to_do: str
    instead: tuple[str, ...] = field(name="or")
    to_look: str | None
    actions: dict[str, Any]
    places: tuple[FilePlace, ...]
    commands: tuple[str, ...]
    keys: tuple[str, ...]
    modes: tuple[str, ...]

    @property
    def is_note(self) -> bool:
        return self.severity == "note"

    @property
    def is_accepted(self) -> bool:
        return self.accepted is not None
