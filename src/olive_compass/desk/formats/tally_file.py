"""Tallies as ``tallies/<seat>-<year>-W<week>.csv``."""

import csv
import io
from collections.abc import Iterable, Iterator

from msgspec.structs import astuple

from olive_compass.core.usage.tally import FOLLOWS, Count, Tally, Use
from olive_compass.core.usage.times import is_ours
from olive_compass.desk.storage.plain_file import utf8_of
from olive_compass.desk.texts.csv_text import LONGEST, too_long
from olive_compass.errors import UserError

FORMAT = "olive-compass-tally/1"
FOLDER = "tallies"

_HEAD = (*Use.__struct_fields__, *Count.__struct_fields__)


#: The longest field, in characters, and the most that anything is counted.
_LONGEST, _MOST = 1_000, 1_000_000_000


def read(data: bytes, file: str) -> dict[Use, Count]:
    """The tally in a file. Raises ``UserError`` with the first line that is none."""
    found = {}
    for number, row in _rows(data, file):
        if row is None:
            raise UserError("This line is no count.", file=file, line=number)
        found[row[0]] = row[1]
    return found


def read_what_can_be(
    data: bytes, file: str, follows: bool = True
) -> tuple[dict[Use, Count], list[UserError]]:
    """The same, without what followed what unless ``follows``; and what is wrong with lines that are none,
    or with the whole file: these are left out."""
    found = {}
    wrong = []
    try:
        for number, row in _rows(data, file, follows):
            if row is None:
                wrong.append(
                    UserError("This line is no count, and is left out.", file=file, line=number)
                )
            else:
                found[row[0]] = row[1]
    except UserError as error:
        wrong.append(error)
    return found, wrong


def _rows(
    data: bytes, file: str, follows: bool = True
) -> Iterator[tuple[int, tuple[Use, Count] | None]]:
    """Each line's number, and its count; None: it is none."""
    first, _, rest = utf8_of(data, file).partition("\n")
    if first.strip() != f"# {FORMAT}":
        raise UserError(f"A tally begins with “# {FORMAT}”.", file=file, line=1)
    lines: Iterable[str] = io.StringIO(rest, newline="")
    if not follows and '"' not in rest:
        # Half of a tally or more: passed over before it is taken apart.
        lines = (line if f",{FOLLOWS}," not in line else "\n" for line in lines)
    csv.field_size_limit(LONGEST)
    rows = csv.reader(lines)
    days: dict[str, bool] = {}
    try:
        head = next(rows, [])
        if tuple(head) != _HEAD:
            raise UserError(f"A tally has the columns {', '.join(_HEAD)}.", file=file, line=2)
        for row in rows:
            if not row:
                continue
            count = _count(row, days)
            if follows or count is None or count[0].how != FOLLOWS:
                yield rows.line_num + 1, count
    except csv.Error as error:
        raise too_long(file, rows) from error


def _count(row: list[str], days: dict[str, bool]) -> tuple[Use, Count] | None:
    if len(row) != len(_HEAD) or max(map(len, row)) > _LONGEST:
        return None
    log, seat, day, app, mode, command, how, key, after, times, undone, first, last = row
    sound = (
        _is_number(times)
        and _is_number(undone)
        and len(day) in (0, 10)
        and is_ours(day, days)
        and is_ours(first, days)
        and is_ours(last, days)
    )
    if not sound:
        return None
    count = Count(times=int(times), undone=int(undone), first=first, last=last)
    if not count.undone <= count.times <= _MOST:
        return None
    use = Use(
        log=log,
        seat=seat,
        day=day,
        app=app,
        mode=mode,
        command=command,
        how=how,
        key=key,
        after=after,
    )
    return use, count


def _is_number(text: str) -> bool:
    """Whether a cell is a whole number that a computer counts to in no time."""
    return len(text) <= 10 and text.isdecimal()


def write(tally: Tally) -> bytes:
    """The file of a tally, in a fixed order, so that the same counts are the same bytes."""
    text = io.StringIO()
    text.write(f"# {FORMAT}\n")
    writer = csv.writer(text, lineterminator="\n")
    writer.writerow(_HEAD)
    for use in sorted(tally):
        writer.writerow((*astuple(use), *astuple(tally[use])))
    return text.getvalue().encode()


def by_file(tally: Tally) -> dict[str, dict[Use, Count]]:
    """The tally by the files that it belongs into: a seat and a week each."""
    names: dict[tuple[str, str], str] = {}
    found: dict[str, dict[Use, Count]] = {}
    for use, count in tally.items():
        of = use.seat, use.day
        if of not in names:
            names[of] = _file_of(use.seat, use.day)
        found.setdefault(names[of], {})[use] = count
    return found


def week_of(day: str) -> str:
    """The week of a day as the names of files have it: ``2026-W41``. Raises ``ValueError`` where the text is no day."""
    from datetime import date

    year, week, _ = date.fromisoformat(day).isocalendar()
    return f"{year}-W{week:02}"


def _file_of(seat: str, day: str) -> str:
    """The file of what a seat did on a day."""
    from olive_compass.core.apps.command_ids import slug

    who = slug(seat)[:60] or "seat"
    try:
        week = week_of(day)
    except ValueError:
        week = "undated"
    return f"{FOLDER}/{who}-{week}.csv"
