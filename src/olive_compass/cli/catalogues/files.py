"""The files in which an application's knowledge stands, as they are and as they are to be."""

from olive_compass.core.apps.app import App, Catalogue
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import catalogue_file
from olive_compass.desk.paths import app_path, catalogue_path
from olive_compass.desk.storage.records import FileChange


def about_file(desk: Desk, app: str) -> tuple[str, bytes]:
    """The path and the content of ``app.toml``."""
    path = app_path(app)
    return path, desk.bytes(path)


def catalogue_change(desk: Desk, after: App) -> list[FileChange]:
    """The catalogue with the commands of ``after``; nothing where they are as they were."""
    path = catalogue_path(after.name)
    own = after.catalogue.listed
    if own == desk.catalogue(after.name).commands:
        return []
    return [
        FileChange(
            path, desk.bytes(path), catalogue_file.write(Catalogue(own), desk.settings.platform)
        )
    ]
