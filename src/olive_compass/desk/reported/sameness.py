"""How many presses do the same everywhere, as ``keyset show`` and ``keyset apply`` report it."""

from collections.abc import Iterable

from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.sharing.purposes import Purposes
from olive_compass.core.sharing.sameness import DAYS, Practice, sameness
from olive_compass.desk.reported.report import Report


class SamenessReport(Report, frozen=True, kw_only=True):
    """How many of the presses of some weeks do the same in all applications, now and after a plan."""

    days: int
    last: str | None
    of: int
    same: int
    after: int | None


def sameness_report(
    purposes: Purposes, now: Iterable[Keymap], done: Practice, after: Iterable[Keymap] | None = None
) -> SamenessReport:
    """How many presses do the same in all applications ``now``, and would with other keys (``after``; None: not asked
    for)."""
    before = sameness(purposes, now, done)
    then = None
    if after is not None:
        then = sameness(purposes, after, done).same
    return SamenessReport(
        days=DAYS, last=done.last or None, of=before.of, same=before.same, after=then
    )
