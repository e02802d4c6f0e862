"""What was counted of an application, and its sums by week, which are quicker to read than every count of every day."""

from collections.abc import Iterable, Mapping
from datetime import date
from types import MappingProxyType

from msgspec import Struct

from olive_compass.core.usage.tally import SLIP, Count, Tally, Use, added, monday_of, uses


class Usage(Struct, frozen=True, kw_only=True):
    """What was counted of an application: at which seats, and from which day to which (``""``: no row has a day)."""

    tally: Tally = MappingProxyType({})
    seats: frozenset[str] = frozenset()
    first: str = ""
    last: str = ""

    @property
    def days(self) -> int:
        """From the first day to the last, both counted; 0: there is none."""
        if not self.first:
            return 0
        return (date.fromisoformat(self.last) - date.fromisoformat(self.first)).days + 1

    @property
    def weeks(self) -> float:
        """The same in weeks: one at the least, for two days say nothing of a week."""
        return max(self.days / 7, 1.0)


NOTHING = Usage()


def usage_of(tally: Tally) -> Usage:
    """A tally with the seats and the days that it is about."""
    days = [use.day for use, _ in uses(tally) if use.day]
    return Usage(
        tally=tally,
        seats=frozenset(use.seat for use in tally),
        first=min(days, default=""),
        last=max(days, default=""),
    )


def weeks_together(usage: Usage) -> Usage:
    """The sums by week: the counts of all logs and seats are added, and dated to the Monday of their week.

    A count from a plain list is left as it is: it is recognised by having no time of day.
    """
    found: dict[Use, Count] = {}
    mondays: dict[str, str] = {}
    for use, count in usage.tally.items():
        whole = use
        if use.how == SLIP or len(count.first) > len(use.day):
            if use.day not in mondays:
                if use.day:
                    mondays[use.day] = monday_of(use.day)
                else:
                    mondays[use.day] = ""
            whole = Use(
                log="",
                seat="",
                day=mondays[use.day],
                app=use.app,
                mode=use.mode,
                command=use.command,
                how=use.how,
                key=use.key,
                after=use.after,
            )
        if whole in found:
            found[whole] = added(found[whole], count)
        else:
            found[whole] = count
    return Usage(tally=found, seats=usage.seats, first=usage.first, last=usage.last)


def together(usages: Iterable[Usage]) -> Usage:
    """Several usages as one. No count may be in two of them."""
    listed = list(usages)
    found: dict[Use, Count] = {}
    for usage in listed:
        found.update(usage.tally)
    return Usage(
        tally=found,
        seats=frozenset().union(*(usage.seats for usage in listed)),
        first=min((usage.first for usage in listed if usage.first), default=""),
        last=max((usage.last for usage in listed), default=""),
    )


def by_app(tally: Tally) -> Mapping[str, Usage]:
    """What was counted of each application that was counted."""
    found: dict[str, dict[Use, Count]] = {}
    for use, count in tally.items():
        found.setdefault(use.app, {})[use] = count
    return {app: usage_of(own) for app, own in found.items()}
