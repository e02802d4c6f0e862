"""Times as logs write them, told as ISO 8601: one reader for all of them.

ISO 8601 itself, seconds and milliseconds since 1970, and the usual orders of day, month and year are read.
Which of two numbers is the day follows from all times of a log together; where nothing tells it, it is asked.
"""

import re
from collections.abc import Iterable
from datetime import UTC, datetime, tzinfo
from typing import Literal

#: Which comes first in a date such as 03/04/2026.
Order = Literal["day-first", "month-first"]

#: Years in which somebody may have used an application.
_YEARS = range(1980, 2100)

# Patterns are texts here, for ``re`` to compile when they are used: our own times need none of them.
_CLOCK = r"(\d{1,2}):(\d\d)(?::(\d\d)(?:[.,](\d{1,9}))?)?\s*([AaPp])?\.?(?:[Mm]\.?)?\s*(Z|[+-]\d\d:?\d\d)?"
_NUMBERS = rf"(\d{{1,4}})([-./])(\d{{1,2}})\2(\d{{1,4}})(?:[T ,]\s*{_CLOCK})?"
_DAY_AND_NAME = rf"(?i)(?:[a-z]+, )?(\d{{1,2}})[ -.]\s?([a-z]+)[ -.]\s?(\d{{4}})(?:,? {_CLOCK})?"
_NAME_AND_DAY = rf"(?i)(?:[a-z]+, )?([a-z]+)\.? (\d{{1,2}}),? (\d{{4}})(?:,? {_CLOCK})?"
_COMPACT = r"\d{8}T\d{4}(\d\d)?(\.\d+)?(Z|[+-]\d\d:?\d\d)?"
_SECONDS = r"\d{9,10}(\.\d+)?"
_MILLISECONDS = r"\d{12,13}"
_MONTHS = ("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec")

#: How a time of ours looks: a day, and mostly the time of the day.
OURS = re.compile(
    r"(\d{4}-\d\d-\d\d)(?:[T ]\d\d:\d\d(?::\d\d(?:\.\d{1,9})?)?(?:Z|[+-]\d\d:?\d\d)?)?"
)


class NoTimeError(ValueError):
    """A text that is no time, and why."""


class AmbiguousError(ValueError):
    """The times of a log whose days and months nothing tells apart: an example of them."""


def order_of(times: Iterable[str]) -> Order | None:
    """Which comes first in the dates of a log; None: none of them leaves it open.

    Raises ``AmbiguousError`` with the first date that can be read both ways, where no other tells.

    >>> order_of(["03/04/2026", "13/04/2026"]), order_of(["2026-04-03"])
    ('day-first', None)
    >>> order_of(["03/04/2026", "05/06/2026"])
    Traceback (most recent call last):
    ...
    olive_compass.core.usage.times.AmbiguousError: 03/04/2026
    """
    open_ = ""
    for text in times:
        found = re.fullmatch(_NUMBERS, text.strip())
        if found is None or len(found[1]) == 4:
            continue
        if told := _tells_order(found):
            return told
        if int(found[1]) != int(found[3]):
            open_ = open_ or text
    if open_:
        raise AmbiguousError(open_)
    return None


def _tells_order(found: re.Match[str]) -> Order | None:
    """Which comes first in a date, None: it can be read both ways."""
    first, second = int(found[1]), int(found[3])
    # With full stops nobody writes the month first.
    if found[2] == "." or first > 12 >= second:
        return "day-first"
    if second > 12 >= first:
        return "month-first"
    return None


def iso_time(text: str, order: Order | None, zone: tzinfo | None = UTC) -> str:
    """A time as ISO 8601, ``""`` for none; ``order`` as ``order_of`` tells it, ``zone`` for what counts
    seconds since 1970. Raises ``NoTimeError``.

    >>> iso_time("02.11.2026 09:00", "day-first"), iso_time("1762012800", None)
    ('2026-11-02T09:00:00', '2025-11-01T16:00:00+00:00')
    >>> iso_time("Nov 2, 2026 3:05 PM", None), iso_time("2026/11/02", None)
    ('2026-11-02T15:05:00', '2026-11-02')
    >>> iso_time("Nov 2, 2026 12:05 AM", None), iso_time("Nov 2, 2026 12:05 PM", None)
    ('2026-11-02T00:05:00', '2026-11-02T12:05:00')
    """
    text = text.strip()
    if is_ours(text, {}):
        return text
    try:
        return _read(text, order, zone)
    except NoTimeError:
        raise
    except (ValueError, OverflowError) as error:
        raise NoTimeError(f"“{text[:40]}” is no time") from error


def _of_numbers(found: re.Match[str], order: Order | None) -> str:
    """A date of three numbers; one that begins with a year has the month next."""
    first, _, second, third, *clock = found.groups()
    if len(first) == 4:
        return _put(int(first), int(second), int(third), clock)
    year = int(third)
    if len(third) == 2:
        year += 2000
    if order == "month-first":
        return _put(year, int(first), int(second), clock)
    return _put(year, int(second), int(first), clock)


def _read(text: str, order: Order | None, zone: tzinfo | None) -> str:
    if re.fullmatch(_SECONDS, text):
        return _told(datetime.fromtimestamp(float(text), zone))
    if re.fullmatch(_MILLISECONDS, text):
        return _told(datetime.fromtimestamp(int(text) / 1000, zone))
    if re.fullmatch(_COMPACT, text):
        return _told(datetime.fromisoformat(text))
    if found := re.fullmatch(_NUMBERS, text):
        return _of_numbers(found, order)
    if found := re.fullmatch(_DAY_AND_NAME, text):
        day, month, year_, *clock = found.groups()
        return _put(int(year_), _month(month), int(day), clock)
    if found := re.fullmatch(_NAME_AND_DAY, text):
        month, day, year_, *clock = found.groups()
        return _put(int(year_), _month(month), int(day), clock)
    if re.fullmatch(_CLOCK, text):
        raise NoTimeError(f"“{text}” says no day")
    raise NoTimeError(f"“{text[:40]}” is no time")


def _month(name: str) -> int:
    """The number of a month by its English name, or the beginning of that."""
    return _MONTHS.index(name[:3].casefold()) + 1


def _put(year: int, month: int, day: int, clock: list[str | None]) -> str:
    hour, minute, second, part, half, zone = clock
    if hour is None:
        return _told(datetime(year, month, day))[:10]
    hours = int(hour)
    if half is not None:
        if not 1 <= hours <= 12:
            raise ValueError(hours)
        hours = hours % 12 + (12 if half in "Pp" else 0)
    micro = int((part or "0")[:6].ljust(6, "0"))
    told = _told(datetime(year, month, day, hours, int(minute or 0), int(second or 0), micro))
    return told + (zone or "")


def _told(time: datetime) -> str:
    if time.year not in _YEARS:
        raise ValueError(time.year)
    return time.isoformat()


def is_ours(text: str, days: dict[str, bool]) -> bool:
    """Whether a text is a time of ours, or none at all. ``days`` are those that were looked at before."""
    if not text:
        return True
    found = OURS.fullmatch(text)
    if found is None:
        return False
    day = found[1]
    known = days.get(day)
    if known is None:
        try:
            known = datetime.fromisoformat(day).year in _YEARS
        except ValueError:
            known = False
        days[day] = known
    return known
