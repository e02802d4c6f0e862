"""Key sets as they are reported by ``keyset list``."""

from olive_compass.core.sharing.keysets import Cell
from olive_compass.desk.reported.report import Report


class KeysetRow(Report, frozen=True, kw_only=True):
    """A key set in a list; ``consistency`` is the share of it that the applications have (None: no command for it)."""

    name: str
    title: str
    purposes: int
    consistency: float | None


class CellReport(Report, frozen=True, kw_only=True):
    """What an application has for a purpose, and what has the key of the set there."""

    app: str
    state: str
    command: str | None
    keys: list[str]
    holder: str | None


def cell_report(each: Cell) -> CellReport:
    """What one application has for a purpose of a set."""
    return CellReport(
        app=each.app,
        state=each.state,
        command=each.command or None,
        keys=list(map(str, each.triggers)),
        holder=each.holder or None,
    )
