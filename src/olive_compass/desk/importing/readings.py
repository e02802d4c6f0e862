"""How the listings of an application are read: as a person says it now, or said it before."""

import contextlib
from collections.abc import Mapping, Sequence

from msgspec import Struct

from olive_compass.core.apps.listing import read_listing
from olive_compass.core.apps.listing_result import Listing, ListingRequest
from olive_compass.core.apps.listing_row import Groups, Headings, Row
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats.app_file import Reading
from olive_compass.desk.importing import read_rows
from olive_compass.desk.importing.source import Read
from olive_compass.errors import UserError
from olive_compass.structs import replace


class ReadingOptions(Struct, frozen=True, kw_only=True):
    """What the options say of how a listing is read: columns by field, and words for keys with ours."""

    columns: Mapping[str, str]
    pattern: str
    groups: Groups | None
    file_format: str
    spell: Mapping[str, str]
    headings: Headings | None = None


def reading_wished(said: ReadingOptions, kept: Reading) -> Reading:
    """How a listing is to be read: what the options say, and else what is kept of the application."""
    # A pattern and a file format each say it all: the newer takes the place of the other.
    pattern = said.pattern or ("" if said.file_format else kept.pattern)
    file_format = said.file_format or ("" if said.pattern else kept.file_format)
    columns = {**kept.columns, **said.columns}
    groups, headings = said.groups or kept.groups, said.headings or kept.headings
    return Reading(
        columns=columns, pattern=pattern, groups=groups, file_format=file_format, headings=headings
    )


def rows_of(
    desk: Desk, path: str, data: bytes, reading: Reading, said: ReadingOptions, typed: int = 0
) -> tuple[str, Read]:
    """The rows of a listing's file and the name of its format.

    What is kept of how files of the application are read counts for files of that shape: one of which it
    reads nothing is read by its own.
    """
    if reading.file_format:
        from olive_compass.desk.importing.source import bounded
        from olive_compass.desk.shortcuts.shortcuts_rows import read

        found = read(desk.file_format(reading.file_format), data, typed)
        # The first row are the headings.
        if len(found.rows) > 1 or said.file_format:
            return "shortcuts", replace(found, rows=bounded(found.rows, path))
    if reading.pattern and not said.pattern:
        with contextlib.suppress(UserError):
            return read_rows(path, data, reading.pattern)
        return read_rows(path, data, "")
    return read_rows(path, data, reading.pattern)


def request_of(
    reading: Reading,
    found: Read,
    desk: Desk,
    typed: int | None,
    words: Mapping[str, str],
    longest: int,
) -> ListingRequest:
    """How the rows that were found are made into commands on this desk."""
    return ListingRequest(
        columns=reading.columns,
        groups=reading.groups,
        typed=typed,
        platform=desk.settings.platform,
        spelling=words,
        longest=longest,
        headings=reading.headings,
        headed=found.headed,
        devices=desk.devices,
    )


def listing_by(rows: Sequence[Row], request: ListingRequest, said: ReadingOptions) -> Listing:
    """The listing in these rows. Columns that are kept of the application and that it does not have are those
    of another of its listings. Raises ``LookupError``."""
    try:
        return read_listing(rows, request)
    except LookupError:
        if request.columns == said.columns:
            raise
        return read_listing(rows, replace(request, columns=said.columns))
