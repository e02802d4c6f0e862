"""A tally: how often what was done, without inputs and documents. Tallies add up.

The law: adding is a join. Its order, its grouping and doubles do not matter, for every count says of
which log it is, and of two counts of one log the larger is of the longer version of it.
"""

from collections.abc import Iterable, Iterator, Mapping

from msgspec import Struct


class Use(Struct, frozen=True, order=True, kw_only=True, array_like=True):
    """What is counted together: of one log, one seat and one day, a command in a mode, and how it was
    started; ``key`` is the trigger.

    With ``after`` it is how often ``command`` came after that command, or, where ``how`` is ``slip``,
    how often ``key`` was undone at once and the trigger ``after`` pressed then.
    """

    log: str
    seat: str
    day: str
    app: str
    mode: str
    command: str
    how: str
    key: str = ""
    after: str = ""


class Count(Struct, frozen=True, kw_only=True, array_like=True):
    """How often, how often of that undone or cancelled at once, and when first and last."""

    times: int
    undone: int
    first: str
    last: str


#: How a row is marked that is no use: one command after another, and a slip.
FOLLOWS, SLIP = "follows", "slip"

Tally = Mapping[Use, Count]


def join(one: Tally, other: Tally) -> dict[Use, Count]:
    """Both tallies as one.

    >>> use = Use(
    ...     log="a1",
    ...     seat="s",
    ...     day="2026-10-12",
    ...     app="app",
    ...     mode="draw",
    ...     command="undo",
    ...     how="key",
    ...     key="Ctrl+Z",
    ... )
    >>> one = {use: Count(times=2, undone=0, first="09:00", last="09:10")}
    >>> join(one, one) == one
    True
    """
    return joined((one, other))


def joined(tallies: Iterable[Tally]) -> dict[Use, Count]:
    """All of them as one."""
    found: dict[Use, Count] = {}
    for tally in tallies:
        for use, count in tally.items():
            known = found.get(use)
            if known:
                found[use] = _larger(known, count)
            else:
                found[use] = count
    return found


def added(one: Count, other: Count) -> Count:
    """Two different counts of the same use, in one log."""
    return Count(
        times=one.times + other.times,
        undone=one.undone + other.undone,
        first=min(one.first, other.first),
        last=max(one.last, other.last),
    )


def _larger(one: Count, other: Count) -> Count:
    return Count(
        times=max(one.times, other.times),
        undone=max(one.undone, other.undone),
        first=min(one.first, other.first),
        last=max(one.last, other.last),
    )


def uses(tally: Tally) -> Iterator[tuple[Use, Count]]:
    """The uses of a tally, without what followed what and without slips."""
    return ((use, count) for use, count in tally.items() if use.how not in (FOLLOWS, SLIP))


def says_no_way(use: Use, count: Count) -> bool:
    """Whether a count is from a plain list of commands and times, which does not say how they were started:
    it has a day, and no time of the day."""
    return bool(use.day) and not use.key and count.first == use.day


def monday_of(day: str) -> str:
    """The day on which the week of a day begins. Raises ``ValueError`` where the text is no day.

    >>> monday_of("2026-10-14")
    '2026-10-12'
    """
    from datetime import date, timedelta

    found = date.fromisoformat(day)
    return (found - timedelta(days=found.weekday())).isoformat()


def times_of(tally: Tally) -> int:
    return sum(count.times for _, count in uses(tally))


def moments(tally: Tally) -> Iterator[tuple[tuple[str, ...], str]]:
    """When each command was last done in each way, to the second, and the log that says so."""
    for use, count in uses(tally):
        # A plain list of sums has days, and no moments.
        if len(count.last) > len("2026-11-02T09:00"):
            yield (use.seat, use.app, use.mode, use.command, use.how, use.key, count.last), use.log
