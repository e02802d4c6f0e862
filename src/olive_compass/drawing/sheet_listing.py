"""A sheet as a listing that can be read back: it goes along in the PDF."""

import csv
import io
from collections.abc import Iterator, Sequence

from olive_compass.desk.texts.cells import shielded
from olive_compass.drawing.documents import Sheet


def as_listing(sheets: Sequence[Sheet]) -> str:
    """What sheets have: each command once, its keys in our spelling."""
    text = io.StringIO()
    writer = csv.writer(text, lineterminator="\n")
    writer.writerow(("id", "title", "menu", "keys", "modes"))
    for sheet in sheets:
        above = (sheet.about.title,) if len(sheets) > 1 else ()
        for row in _rows(sheet, above):
            writer.writerow(map(shielded, row))
    return text.getvalue()


def _rows(sheet: Sheet, above: tuple[str, ...]) -> Iterator[tuple[str, ...]]:
    known = set()
    for group in sheet.groups:
        for line in group.lines:
            if line.id in known:
                continue
            known.add(line.id)
            keys = " or ".join(str(key.trigger) for key in line.keys)
            modes = dict.fromkeys(m for key in line.keys if key.where for m in key.modes)
            yield line.id, line.title, " > ".join((*above, group.name)), keys, ", ".join(modes)
