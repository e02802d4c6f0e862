"""Reads an application's own listing again, as the desk knows the application."""

from olive_compass.cli.files import read_file
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import App
from olive_compass.core.apps.listing import Listing, Wishes, read_listing
from olive_compass.desk import catalogue_file
from olive_compass.desk.app_file import Reading
from olive_compass.desk.importing import read_rows
from olive_compass.errors import Refused


def read_for(
    path: str,
    around: Surroundings,
    app: App,
    platform: str,
    reading: Reading = Reading(),  # noqa: B008
) -> Listing:
    """The listing in a file, which may also be a catalogue of ours; raises ``Refused``.

    ``reading`` is how listings of the application are read, where a person said it.
    """
    data = read_file(around, path, "The listing")
    if catalogue_file.FORMAT.encode() in data[:200]:
        # Our own form has what no listing has: marks, inputs and ids.
        rows = data.split(b"\n", 1)[1]
        read = read_rows("commands.csv", rows)[1]
        catalogue = catalogue_file.read(data, path, app.rules.typed)
        listing = read_listing(read.rows, Wishes({}, "no", app.rules.typed, platform))
        return listing._replace(catalogue=catalogue)
    try:
        rows_ = read_rows(path, data, reading.pattern)[1].rows
        typed = app.rules.typed if app.rules.typed_runs else 0
        listing = read_listing(
            rows_, Wishes(reading.columns, reading.groups, typed, platform, app.spelling)
        )
    except LookupError as error:
        raise Refused(f"The columns cannot be told: {error.args[0]}.", file=path) from error
    for aside in listing.set_aside[:12]:
        around.warn(f"line {aside.line} was left out, {aside.what} “{aside.text}”: {aside.why}")
    return listing
