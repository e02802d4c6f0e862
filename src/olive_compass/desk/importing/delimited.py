"""CSV and TSV: cells separated by commas, semicolons or tabs."""

import csv
import io
from collections import Counter

from olive_compass.core.apps.listing_row import Row
from olive_compass.desk.importing.source import MOST_ROWS, Read, Source, too_long
from olive_compass.desk.texts.cells import restored

SUFFIXES = (".csv", ".tsv", ".tab")
_NAMES = {",": "commas", ";": "semicolons", "\t": "tabs"}


def suits(source: Source) -> bool:
    return source.path.lower().endswith(SUFFIXES) or _delimiter(source.text, 0.8) is not None


def read(source: Source) -> Read:
    """The rows, their lines counted as the file has them."""
    delimiter = _delimiter(source.text, 0.0) or ","
    rows = _rows(source.text, delimiter, False, source.path)
    quoted = '"' in source.text
    if quoted and any(cell.count("\n") > 8 for row in rows for cell in row.cells):
        # A quotation mark that is never closed has swallowed the lines after it.
        rows = _rows(source.text, delimiter, True, source.path)
    return Read(
        rows=rows, set_aside=(), note=f"{source.encoding}, separated by {_NAMES[delimiter]}"
    )


def _rows(text: str, delimiter: str, whole: bool, file: str) -> list[Row]:
    """The rows; ``whole`` takes quotation marks for text like any other."""
    csv.field_size_limit(1 << 30)
    lines = io.StringIO(text, newline="")
    if whole:
        reader = csv.reader(lines, delimiter=delimiter, quoting=csv.QUOTE_NONE)
    else:
        reader = csv.reader(lines, delimiter=delimiter)
    rows: list[Row] = []
    before = 0
    shields = "'" in text
    for cells in reader:
        if len(rows) > MOST_ROWS:
            raise too_long(file, before + 1)
        rows.append(Row(line=before + 1, cells=tuple(map(restored, cells) if shields else cells)))
        before = reader.line_num
    return rows


def _delimiter(text: str, least: float) -> str | None:
    """The sign that cuts most of the first lines into the same number of cells, two or more."""
    # Another reader may have set it lower: it holds for the whole process.
    csv.field_size_limit(1 << 30)
    lines = [line for line in text[:40_000].splitlines()[:100] if line.strip()]
    best: tuple[float, int, str] = (least, 1, "")
    for sign in _NAMES:
        widths = Counter(len(cells) for cells in csv.reader(lines, delimiter=sign) if cells)
        wide = {width: count for width, count in widths.items() if width > 1}
        if wide:
            width = max(wide, key=lambda each: (wide[each], each))
            best = max(best, (wide[width] / len(lines), width, sign))
    return best[2] or None
