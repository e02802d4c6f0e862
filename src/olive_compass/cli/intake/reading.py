"""How listings are read: as a person says it now, or said it of the application before."""

from collections.abc import Mapping

from olive_compass.cli.files import read_file
from olive_compass.cli.options import Common
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import App
from olive_compass.core.apps.carrying import field_of
from olive_compass.core.apps.listing import read_listing
from olive_compass.core.apps.listing_result import Listing, ListingRequest
from olive_compass.core.apps.listing_row import Groups, Headings
from olive_compass.core.keys.new_words import checked
from olive_compass.core.wording import capital
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import catalogue_file
from olive_compass.desk.importing import read_rows
from olive_compass.desk.importing.readings import (
    ReadingOptions,
    listing_by,
    reading_wished,
    request_of,
    rows_of,
)
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
    reading = reading_wished(said, desk.reading(app.name))
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
