"""How listings are read: as a person says it now, or said it of the application before."""

import contextlib
from collections.abc import Mapping, Sequence

from msgspec import Struct

from olive_compass.cli.files import read_file
from olive_compass.cli.options import Common
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import App
from olive_compass.core.apps.carrying import field_of
from olive_compass.core.apps.listing import read_listing
from olive_compass.core.apps.listing_result import Listing, ListingRequest
from olive_compass.core.apps.listing_row import Groups, Headings, Row
from olive_compass.core.keys.new_words import checked
from olive_compass.core.wording import capital
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import catalogue_file
from olive_compass.desk.formats.app_file import Reading
from olive_compass.desk.importing import read_rows
from olive_compass.desk.importing.source import Read
from olive_compass.errors import UserError
from olive_compass.structs import replace

#: What helps where no column looks like it.
NAME_COLUMN = "To name a column: --column title=HEADING."

#: What a column of a listing may hold.
COLUMNS = ("title", "keys", "keys-elsewhere", "menu", "mode", "id", "kind", "does")


class ListingOptions(Common, kw_only=True):
    """The options that say how a listing is read."""

    columns: list[str]
    pattern: str
    file_format: str
    groups: Groups | None
    headings: Headings | None
    spell: list[str]


class ReadingOptions(Struct, frozen=True, kw_only=True):
    """What the options say of how a listing is read: columns by field, and words for keys with ours."""

    columns: Mapping[str, str]
    pattern: str
    groups: Groups | None
    file_format: str
    spell: Mapping[str, str]
    headings: Headings | None = None


def said_of(args: ListingOptions) -> ReadingOptions:
    """The options as values. Raises ``UserError``."""
    return ReadingOptions(
        columns=dict(_column(each) for each in args.columns),
        pattern=args.pattern or "",
        groups=args.groups,
        file_format=args.file_format or "",
        spell=dict(spelt(each) for each in args.spell),
        headings=args.headings,
    )


def wished(said: ReadingOptions, kept: Reading) -> Reading:
    """How a listing is to be read: what the options say, and else what is kept of the application."""
    # A pattern and a file format each say it all: the newer takes the place of the other.
    pattern = said.pattern or ("" if said.file_format else kept.pattern)
    file_format = said.file_format or ("" if said.pattern else kept.file_format)
    columns = {**kept.columns, **said.columns}
    groups, headings = said.groups or kept.groups, said.headings or kept.headings
    return Reading(
        columns=columns, pattern=pattern, groups=groups, file_format=file_format, headings=headings
    )


def _column(given: str) -> tuple[str, str]:
    """``FIELD=HEADING`` of ``--column``."""
    field, _, heading = given.partition("=")
    if field not in COLUMNS or not heading:
        raise UserError(
            f"“{given}” names no column.",
            hint=f"Write --column FIELD=HEADING; FIELD is one of {', '.join(COLUMNS)}",
        )
    return ("modes" if field == "mode" else field_of(field)), heading


def spelt(given: str) -> tuple[str, str]:
    """``WORD=OURS`` of ``--spell``."""
    word, sign, ours = given.partition("=")
    try:
        return checked(word, ours if sign else "")
    except ValueError as error:
        raise UserError(
            f"{capital(error)}.", hint="Write --spell 'C-=Ctrl+' --spell Sft=Shift"
        ) from error


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


def read_for(
    said: ReadingOptions, path: str, context: Surroundings, desk: Desk, app: App
) -> Listing:
    """The listing in a file, which may also be a catalogue of ours; raises ``UserError``.

    It is read as listings of the application are, but for what the options say.
    """
    data = read_file(context, path, "The listing")
    platform = desk.settings.platform
    if catalogue_file.FORMAT.encode() in data[:200]:
        # Our own form has what no listing has: marks, inputs and ids.
        rows = data.split(b"\n", 1)[1]
        read = read_rows("commands.csv", rows)[1]
        catalogue = catalogue_file.read(data, path, app.rules.typed, platform)
        listing = read_listing(
            read.rows,
            ListingRequest(columns={}, groups="no", typed=app.rules.typed, platform=platform),
        )
        return replace(listing, catalogue=catalogue)
    reading = wished(said, desk.reading(app.name))
    words: Mapping[str, str] = {**app.spelling, **said.spell}
    typed = 0
    if app.rules.typed_sequences:
        typed = app.rules.typed
    try:
        found = rows_of(desk, path, data, reading, said, typed)[1]
        request = request_of(reading, found, desk, typed, words, app.rules.longest_sequence)
        listing = listing_by(found.rows, request, said)
    except LookupError as error:
        raise UserError(
            f"It is not clear which column is which: {error.args[0]}.",
            file=path,
            hint=NAME_COLUMN,
        ) from error
    for aside in listing.set_aside[:12]:
        context.warn(f"line {aside.line} was left out, {aside.what} “{aside.text}”: {aside.why}")
    return listing
