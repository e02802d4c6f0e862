"""The files that a new version of an application becomes."""

from olive_compass.core.apps.app import App, Catalogue
from olive_compass.core.changes.change import Change
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import app_writing, catalogue_file, scheme_writing
from olive_compass.desk.importing.readings import ReadingOptions, reading_wished
from olive_compass.desk.paths import app_path, catalogue_path, scheme_path
from olive_compass.desk.storage.records import FileChange, changing
from olive_compass.structs import replace


def named_elsewhere(desk: Desk, app: App) -> frozenset[str]:
    """The commands that macros, trays, vias and purposes name."""
    steps = (step.command for macro in desk.macros(app.name).values() for step in macro.steps)
    linked = (id_ for purpose in desk.purposes.all for id_ in purpose.commands(app.name))
    on_trays = (item for tray in desk.trays(app.name) for item in tray.items)
    shown = (each.through for each in app.vias.values())
    return frozenset((*steps, *linked, *on_trays, *shown))


def upgraded_files(said: ReadingOptions, desk: Desk, change: Change) -> list[FileChange]:
    """The files of the new version: catalogue, version, and the schemes."""
    changes = []
    for app in change.apps:
        before, after = app.before, app.after
        own = after.catalogue.listed
        old = before.catalogue.listed
        catalogue, about = catalogue_path(after.name), app_path(after.name)
        # The same commands are not written again only because a person's file is laid out otherwise.
        if [replace(c, line=0) for c in own] != [replace(c, line=0) for c in old]:
            data = catalogue_file.write(Catalogue(own), desk.settings.platform)
            changes.append(desk.change_of(catalogue, data))
        version = app_writing.with_version(desk.bytes(about), after.version)
        version = app_writing.with_reading(version, reading_wished(said, desk.reading(after.name)))
        version = app_writing.with_spelling(version, {**after.spelling, **said.spell})
        version = app_writing.with_ids(version, after.ids)
        changes.append(desk.change_of(about, version))
    for edit in change.edits:
        before_, after_ = edit.before, edit.after
        path = scheme_path(after_.app, after_.name)
        data = desk.bytes(path)
        if after_.based_on != before_.based_on:
            data = scheme_writing.with_base(data, after_.based_on)
        edited = scheme_writing.edited(
            data, replace(before_, based_on=after_.based_on), after_, path
        )
        changes.append(desk.change_of(path, edited))
    return changing(changes)
