"""The files in which an application's knowledge stands, as a change of it leaves them."""

from olive_compass.core.apps.app import App, Catalogue
from olive_compass.core.changes.change import Change
from olive_compass.core.changes.edit_modes import EditModes
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import app_file, app_writing, catalogue_file, scheme_writing
from olive_compass.desk.paths import app_path, catalogue_path, scheme_path
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


def mode_files(desk: Desk, change: Change, request: EditModes) -> list[FileChange]:
    """The file of the application, its catalogue, and the schemes, with the mode changed."""
    (app,) = change.apps
    before, after = app.before, app.after
    path, data = about_file(desk, before.name)
    if request.verb == "rename":
        for table in ("modes", "swipes"):
            data = app_writing.renamed_key(data, table, request.mode, request.to)
    data = app_writing.with_mode_tree(data, after.modes.parents)
    data = app_writing.with_table(data, "swipes", dict(after.rules.swipes))
    if after.rules.text_modes != before.rules.text_modes:
        data = app_writing.with_rule(
            data, "rules", "text-modes", list(after.rules.text_modes) or None
        )
    # Read back before it is written: what is wrong is refused with its line.
    app_file.read(data, path, before.name)
    files = [desk.change_of(path, data), *catalogue_change(desk, after)]
    for edit in change.edits:
        old, new = edit.before, edit.after
        where = scheme_path(new.app, new.name)
        edited = scheme_writing.edited(desk.bytes(where), old, new, where)
        files.append(desk.change_of(where, edited))
    return files
