"""Key sets as they are reported by ``keyset list``."""

from olive_compass.desk.reported.report import Report


class KeysetRow(Report, frozen=True, kw_only=True):
    """A key set in a list; ``consistency`` is the share of it that the applications have (None: no command for it)."""

    name: str
    title: str
    purposes: int
    consistency: float | None
