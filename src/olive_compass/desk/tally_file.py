"""Tallies as ``tallies/<seat>-<year>-W<week>.csv``."""

import csv
import io
from collections.abc import Iterable

from msgspec.structs import astuple

from olive_compass.core.usage.tally import FOLLOWS, Count, Tally, Use
from olive_compass.errors import Refused

FORMAT = "olive-compass-tally/1"
FOLDER = "tallies"

_HEAD = (*Use.__struct_fields__, *Count.__struct_fields__)


def read(data: bytes, file: str, follows: bool = True) -> dict[Use, Count]:
    """The tally in a file, without what followed what unless ``follows``. Raises ``Refused`` with the
    line that is none."""
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise Refused("This is not UTF-8 text.", file=file) from error
    first, _, rest = text.partition("\n")
    if first.strip() != f"# {FORMAT}":
        raise Refused(f"A tally begins with “# {FORMAT}”.", file=file, line=1)
    lines: Iterable[str] = io.StringIO(rest, newline="")
    if not follows and '"' not in rest:
        # Half of a tally or more: passed over before it is taken apart.
        lines = (line for line in lines if f",{FOLLOWS}," not in line)
    rows = csv.reader(lines)
    head = next(rows, [])
    if tuple(head) != _HEAD:
        raise Refused(f"A tally has the columns {', '.join(_HEAD)}.", file=file, line=2)
    found = {}
    for row in rows:
        number = rows.line_num + 1
        if not row:
            continue
        try:
            times, undone = int(row[9]), int(row[10])
            use, count = Use(*row[:9]), Count(times, undone, row[11], row[12])
        except (ValueError, IndexError, TypeError) as error:
            raise Refused("This line is no count.", file=file, line=number) from error
        if follows or use.how != FOLLOWS:
            found[use] = count
    return found


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
    from datetime import date

    from olive_compass.core.apps.listing import slug

    found: dict[str, dict[Use, Count]] = {}
    for use, count in tally.items():
        try:
            year, week, _ = date.fromisoformat(use.day).isocalendar()
            name = f"{slug(use.seat) or 'seat'}-{year}-W{week:02}"
        except ValueError:
            name = f"{slug(use.seat) or 'seat'}-undated"
        found.setdefault(f"{FOLDER}/{name}.csv", {})[use] = count
    return found


def merged(files: Iterable[tuple[bytes, str]]) -> dict[Use, Count]:
    """All tallies of these files as one."""
    from olive_compass.core.usage.tally import joined

    return joined(read(data, file) for data, file in files)
