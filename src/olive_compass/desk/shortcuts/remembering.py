"""The settings that remember where an application's own file is, and its format."""

from collections.abc import Iterator

from olive_compass.core.apps.app import App
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import app_writing, seat_file
from olive_compass.desk.paths import app_path
from olive_compass.desk.storage.records import FileChange
from olive_compass.structs import replace


def remembered(
    to: str | None, file_format: str | None, desk: Desk, app: App, path: str
) -> Iterator[FileChange]:
    """The settings that remember the place and the format of the file for the next delivery, where they are new."""
    if to and desk.seat.files.get(app.name) != path:
        seat = desk.bytes_or_none(seat_file.SEAT_FILE)
        new = seat_file.with_value(seat, "files", app.name, path)
        yield FileChange(seat_file.SEAT_FILE, seat, new)
    if file_format and desk.reading(app.name).file_format != file_format:
        about = desk.bytes(app_path(app.name))
        reading = replace(desk.reading(app.name), file_format=file_format, pattern="")
        yield FileChange(app_path(app.name), about, app_writing.with_reading(about, reading))
