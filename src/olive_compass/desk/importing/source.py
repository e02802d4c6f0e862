"""The input and the result of a format's module."""

import codecs
import re

from msgspec import Struct

from olive_compass.core.apps.listing_result import SetAside
from olive_compass.core.apps.listing_row import Row
from olive_compass.errors import UserError
from olive_compass.structs import replace


class Source(Struct, frozen=True, kw_only=True):
    """A listing's file: its path, bytes, text and encoding, and the pattern for plain text."""

    path: str
    data: bytes
    text: str
    encoding: str
    pattern: str = ""


class Read(Struct, frozen=True, kw_only=True):
    """The rows of a listing, what could not be read, and a sentence on how it was read."""

    rows: list[Row]
    set_aside: tuple[SetAside, ...] = ()
    note: str = ""
    #: Whether what stands as the menu of a row is always the heading above it.
    headed: bool = False


#: The most rows of a listing, and the most columns.
MOST_ROWS = 100_000
MOST_COLUMNS = 200


def bounded(rows: list[Row], file: str) -> list[Row]:
    """The rows without the empty cells at their ends. Raises ``UserError`` where there is too much."""
    if len(rows) > MOST_ROWS:
        raise too_long(file, rows[MOST_ROWS].line)
    kept = []
    for row in rows:
        if len(row.cells) > MOST_COLUMNS:
            used = max((n for n, cell in enumerate(row.cells, 1) if cell), default=0)
            if used > MOST_COLUMNS:
                raise too_wide(file, row.line)
            row = replace(row, cells=row.cells[:used])
        kept.append(row)
    return kept


def damaged(file: str, error: Exception, hint: str) -> UserError:
    """What is said of a packed document that its reader cannot open: whatever went wrong, to the person it is one
    thing."""
    says = f"This document cannot be read ({type(error).__name__})."
    return UserError(says, file=file, hint=hint)


def too_long(file: str, line: int) -> UserError:
    """What is said of a listing with too many rows: readers say it as soon as they know."""
    return UserError(
        f"The listing has more than {MOST_ROWS} rows; this is no list of commands.",
        file=file,
        line=line,
    )


def too_wide(file: str, line: int) -> UserError:
    """What is said of a listing with too many columns."""
    return UserError(
        f"The listing has more than {MOST_COLUMNS} columns; this is no list of commands.",
        file=file,
        line=line,
        hint="Leave out the columns that are not of use.",
    )


_MARKS = (
    (codecs.BOM_UTF8, "utf-8-sig", "UTF-8"),
    (codecs.BOM_UTF16_LE, "utf-16", "UTF-16"),
    (codecs.BOM_UTF16_BE, "utf-16", "UTF-16"),
)


#: What makes letters bold, underlined or coloured in text for a terminal: struck twice, or by escapes.
_STRUCK = re.compile(r".\x08|\x1b\[[0-9;]*m")


def decoded(data: bytes) -> tuple[str, str]:
    """The text of a file and the name of its encoding, told by its mark or by trying; without what only makes
    letters bold at a terminal."""
    text, name = _decoded(data)
    return (_STRUCK.sub("", text) if "\x08" in text or "\x1b[" in text else text), name


def _decoded(data: bytes) -> tuple[str, str]:
    for mark, codec, name in _MARKS:
        if data.startswith(mark):
            return data.decode(codec, "replace"), name
    head = data[:4000]
    if head[1::2].count(0) * 3 > len(head[1::2]) > 0:
        return data.decode("utf-16-le", "replace"), "UTF-16"
    if head[0::2].count(0) * 3 > len(head[0::2]) > 0:
        return data.decode("utf-16-be", "replace"), "UTF-16"
    try:
        return data.decode(), "UTF-8"
    except UnicodeDecodeError:
        return data.decode("cp1252", "replace"), "Windows-1252"
