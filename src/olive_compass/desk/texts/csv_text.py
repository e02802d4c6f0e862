"""Our own CSV files as text: in whatever encoding a spreadsheet saved them, and without merge marks."""

import csv
import io
from collections.abc import Iterable, Iterator, Sequence
from typing import Any

from olive_compass.desk.storage.plain_file import text_of as unmarked
from olive_compass.errors import UserError

#: The longest cell, in characters: what is longer is no cell of ours.
LONGEST = 20_000


def text_of(data: bytes, file: str, format_name: str) -> str:
    """The text of a file that begins with ``# format_name``.

    Raises ``UserError`` where it does not, or where a merge left its marks in it.
    """
    try:
        text = unmarked(data)
    except UnicodeDecodeError:
        text = data.decode("cp1252", "replace")
    if "\r" in text:
        text = text.replace("\r\n", "\n").replace("\r", "\n")
    refuse_markers(text, file)
    if format_name not in text[:200].split("\n", 1)[0]:
        raise UserError(f"The file does not begin with # {format_name}.", file=file, line=1)
    return text


def rows_of(text: str, file: str) -> tuple[list[str], Any]:
    """The headings of such a text, and a reader of its rows; lines before the headings that begin with ``#`` are
    comments. Raises ``UserError``."""
    # A spreadsheet may have put a comment into quotation marks.
    first = next((line for line in text.split("\n") if not line.lstrip('"').startswith("#")), "")
    delimiter = max(",;\t", key=first.count)
    csv.field_size_limit(LONGEST)
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=delimiter)
    try:
        rows = (row for row in reader if row[:1] == [] or not row[0].startswith("#"))
        return [cell.strip() for cell in next(rows, [])], reader
    except csv.Error as error:
        raise too_long(file, reader) from error


def columns_of(head: Sequence[str], fields: Iterable[str], file: str) -> list[int]:
    """The columns of the fields, -1 where one is missing. Raises ``UserError`` without ids and titles."""
    for field in ("id", "title"):
        if field not in head:
            raise UserError(f"The column “{field}” is missing.", file=file, line=2)
    return [head.index(field) if field in head else -1 for field in fields]


def each_row(text: str, file: str) -> Iterator[list[str]]:
    """The rows of a text with commas. Raises ``UserError`` where a cell is too long."""
    csv.field_size_limit(LONGEST)
    reader = csv.reader(io.StringIO(text, newline=""))
    try:
        yield from reader
    except csv.Error as error:
        raise too_long(file, reader) from error


def too_long(file: str, reader: Any) -> UserError:
    """What is said where the reader raised ``csv.Error``: a cell is too long."""
    return UserError(
        f"A cell has more than {LONGEST} characters.",
        file=file,
        line=reader.line_num or 1,
        hint="Shorten it, or close the quotation mark that is open there.",
    )


def refuse_markers(text: str, file: str) -> None:
    """Raises ``UserError`` where lines begin as a merge begins them that left two sides."""
    if "<<<<<<<" not in text:
        return
    for number, line in enumerate(text.split("\n"), 1):
        if line.startswith("<<<<<<<"):
            raise UserError(
                "Two versions of this file were merged and never settled: here one of them begins.",
                file=file,
                line=number,
                hint="Settle it: olive-compass merge --unsettled --if-taken keep|replace, or keep one "
                "of the two by hand.",
            )
