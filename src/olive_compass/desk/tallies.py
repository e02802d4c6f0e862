"""The tallies of a desk: every count, and the sums by week, which are kept in the cache until a file of the week changes."""

import os
import re
from collections.abc import Callable, Iterator, Mapping, Sequence
from itertools import groupby

from msgspec import Struct

from olive_compass.core.usage.summing import Usage, by_app, together, weeks_together
from olive_compass.core.usage.tally import Count, Use, joined
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import tally_file
from olive_compass.desk.storage.records import FileChange

#: Under which name the sums of a week are kept.
KIND = "week"

#: The column of days, where no cell is in quotation marks.
_DAY = re.compile(rb"^[^,\n]*,[^,\n]*,(\d{4}-\d\d-\d\d),", re.MULTILINE)
_WEEK = re.compile(r"(\d{4}-W\d\d|undated)\.csv")


class _Kept(Struct, frozen=True, kw_only=True):
    """A ``Usage`` as JSON can have it."""

    seats: list[str]
    first: str
    last: str
    rows: list[tuple[Use, Count]]


def whole_tally(desk: Desk, follows: bool = False) -> dict[Use, Count]:
    """All that was counted on this desk, of all seats; what followed what only with ``follows``."""
    return joined(_read(desk, path, follows) for path in desk.tally_names())


def _is_before(desk: Desk, path: str, day: str) -> bool:
    """Whether a tally has no counts after a day (``""``: all days are wanted).

    The name says which week it is of; someone may have put counts of other weeks into it.
    """
    return bool(day) and _week(path) < tally_file.week_of(day) and _latest(desk.bytes(path)) <= day


def tally_since(desk: Desk, since: Callable[[str], str]) -> dict[Use, Count]:
    """The recent counts: ``since`` gets the last day on which a key was pressed, and gives the day after which counts are wanted.

    Tallies without a later day are not parsed. The others may have counts of earlier days as well.
    """
    found: dict[str, Mapping[Use, Count]] = {}
    last = ""
    for path in sorted(desk.tally_names(), key=_week, reverse=True):
        if last and _is_before(desk, path, since(last)):
            continue
        found[path] = _read(desk, path)
        pressed = (use.day for use in found[path] if use.how == "key" and use.key)
        last = max([last, *pressed])
    return joined(found[path] for path in desk.tally_names() if path in found)


def _latest(data: bytes) -> str:
    """The last day that a tally has counts of, found without parsing it; where that is impossible, a day after all others."""
    if b'"' in data:
        return "9999"
    return max(_DAY.findall(data), default=b"").decode()


def usage_by_app(desk: Desk) -> Mapping[str, Usage]:
    """What was counted of each application: as sums by week, or every count where a file has counts of another week."""
    if not desk.kept.folder:
        # The sums are only worth their cost where they can be kept.
        return by_app(whole_tally(desk))
    weeks: list[Mapping[str, Usage]] = []
    for week, paths in groupby(sorted(desk.tally_names(), key=_week), _week):
        found = _of_week(desk, week, list(paths))
        if found is None:
            return by_app(whole_tally(desk))
        weeks.append(found)
    apps = dict.fromkeys(app for week in weeks for app in week)
    return {app: together(week[app] for week in weeks if app in week) for app in apps}


def _of_week(desk: Desk, week: str, paths: Sequence[str]) -> Mapping[str, Usage] | None:
    """The sums of a week by application; None: a file has counts that belong in another, so that some may be in both."""
    kept = desk.kept.find(KIND, week, paths, dict[str, _Kept])
    if kept is not None:
        return {app: _restored(each) for app, each in kept.items()}
    left_out = len(desk.left_out)
    whole: dict[Use, Count] = {}
    for path in paths:
        tally = _read(desk, path)
        if set(tally_file.by_file(tally)) - {path}:
            return None
        whole |= tally
    found = {app: weeks_together(usage) for app, usage in by_app(whole).items()}
    # What could not be read is said each time, until it can be.
    if len(desk.left_out) == left_out:
        desk.kept.note(KIND, week, paths, {app: _to_keep(each) for app, each in found.items()})
    return found


def _week(path: str) -> str:
    """Of which week a file is by its name."""
    found = _WEEK.search(path)
    if found:
        return found[1]
    return os.path.basename(path)


def _read(desk: Desk, path: str, follows: bool = False) -> dict[Use, Count]:
    tally, wrong = tally_file.read_what_can_be(desk.bytes(path), path, follows)
    desk.left_out += [each for each in map(str, wrong) if each not in desk.left_out]
    return tally


def _to_keep(usage: Usage) -> _Kept:
    return _Kept(
        seats=sorted(usage.seats),
        first=usage.first,
        last=usage.last,
        rows=list(usage.tally.items()),
    )


def _restored(kept: _Kept) -> Usage:
    return Usage(
        tally=dict(kept.rows), seats=frozenset(kept.seats), first=kept.first, last=kept.last
    )


def changed_tallies(
    desk: Desk, before: dict[Use, Count], after: dict[Use, Count]
) -> Iterator[FileChange]:
    """The files of tallies that are other than they were."""
    there = set(desk.tally_names())
    old = tally_file.by_file(before)
    for path, tally in tally_file.by_file(after).items():
        if old.get(path) != tally:
            now = None
            if path in there:
                now = desk.bytes(path)
            if now is not None:
                # A line that is none would be lost when the file is written anew.
                tally_file.read(now, path)
            yield FileChange(path, now, tally_file.write(tally))
