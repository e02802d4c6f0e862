"""Tallies as ``tallies/<seat>-<year>-W<week>.csv``."""

import csv
import io
from collections.abc import Iterable, Iterator, Sequence
from typing import Annotated

from msgspec import Meta, Struct, ValidationError
from msgspec.structs import astuple

from olive_compass.core.usage.tally import FOLLOWS, Count, Tally, Use
from olive_compass.core.usage.times import is_ours
from olive_compass.desk.storage.plain_file import utf8_of
from olive_compass.desk.texts.csv_text import LONGEST, too_long
from olive_compass.errors import UserError
from olive_compass.structs import convert

FORMAT = "olive-compass-tally/1"
FOLDER = "tallies"

#: A cell of a tally, and a number in one.
Text = Annotated[str, Meta(max_length=1_000)]
Number = Annotated[int, Meta(ge=0, le=1_000_000_000)]


class _Line(Struct, frozen=True, array_like=True, forbid_unknown_fields=True):
    """A line of the file, cell by cell: what is counted, and how often it was done."""

    log: Text
    seat: Text
    day: Text
    app: Text
    mode: Text
    command: Text
    how: Text
    key: Text
    after: Text
    times: Number
    undone: Number
    first: Text
    last: Text

    @property
    def use(self) -> Use:
        """What is counted."""
        return Use(
            log=self.log,
            seat=self.seat,
            day=self.day,
            app=self.app,
            mode=self.mode,
            command=self.command,
            how=self.how,
            key=self.key,
            after=self.after,
        )

    @property
    def count(self) -> Count:
        """How often it was done."""
        return Count(times=self.times, undone=self.undone, first=self.first, last=self.last)

    def is_sound(self, days: dict[str, bool]) -> bool:
        """Whether its times are times, and no more is undone than was done; ``days`` are those looked at before."""
        return (
            self.undone <= self.times
            and len(self.day) in (0, 10)
            and is_ours(self.day, days)
            and is_ours(self.first, days)
            and is_ours(self.last, days)
        )


_HEAD = _Line.__struct_fields__


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
    cells, broken = _cells(lines, file)
    days: dict[str, bool] = {}
    for number, line in zip(cells, _lines_of(list(cells.values())), strict=True):
        if line is None or not line.is_sound(days):
            yield number, None
        elif follows or line.how != FOLLOWS:
            yield number, (line.use, line.count)
    # The lines before a broken one count.
    if broken:
        raise broken


def _cells(lines: Iterable[str], file: str) -> tuple[dict[int, list[str]], UserError | None]:
    """The cells below the headings, by the numbers of their lines; and the error where reading stops, None: it does
    not."""
    csv.field_size_limit(LONGEST)
    rows = csv.reader(lines)
    found: dict[int, list[str]] = {}
    try:
        if tuple(next(rows, [])) != _HEAD:
            raise UserError(f"A tally has the columns {', '.join(_HEAD)}.", file=file, line=2)
        for row in rows:
            if row:
                found[rows.line_num + 1] = row
    except csv.Error:
        return found, too_long(file, rows)
    return found, None


def _lines_of(rows: list[list[str]]) -> Sequence[_Line | None]:
    """The rows as lines of a tally; None: it is none."""
    try:
        return convert(rows, list[_Line], strict=False)
    except ValidationError:
        return [_line_of(row) for row in rows]


def _line_of(row: list[str]) -> _Line | None:
    try:
        return convert(row, _Line, strict=False)
    except ValidationError:
        return None


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
