"""The plans of a key set, application by application: the keys before and after them, and the files."""

from msgspec import Struct

from olive_compass.core.changes.change import Change, after_edits
from olive_compass.core.changes.view import AppView
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.sharing.planned import Planned
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import scheme_writing
from olive_compass.desk.formats.desk_file import with_stack
from olive_compass.desk.paths import DESK_FILE, scheme_path
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.writing.changed_files import changed_scheme


class Recipient(Struct, frozen=True):
    """An application with the scheme that a set is written into, which may be new."""

    view: AppView
    scheme: Scheme
    is_new: bool


def keymaps_of_plans(
    desk: Desk, plans: list[tuple[Recipient, Change]]
) -> tuple[list[Keymap], list[Keymap]]:
    """The keys of all applications before and after the plans."""
    planned = {target.view.app.name: (target, change) for target, change in plans}
    before, after = [], []
    for name in desk.app_names():
        if name in planned:
            target, change = planned[name]
            before.append(target.view.keymap)
            after.append(after_edits(target.view, change.edits))
        else:
            before.append(Keymap(desk.stack(name), desk.keyboard))
            after.append(before[-1])
    return before, after


def files_of_plans(desk: Desk, plans: list[tuple[Recipient, Change]]) -> list[FileChange]:
    """The files of the schemes that change, new ones with their place in the stack."""
    files = []
    settings = before = desk.bytes(DESK_FILE)
    for target, change in plans:
        if change.already:
            continue
        (edit,) = change.edits
        if not target.is_new:
            files.append(changed_scheme(desk, edit.before, edit.after))
            continue
        path = scheme_path(target.view.app.name, target.scheme.name)
        files.append(FileChange(path, None, scheme_writing.new_text(edit.after)))
        names = target.view.stack.scheme_names
        settings = with_stack(settings, target.view.app.name, names)
    if settings != before:
        files.append(FileChange(DESK_FILE, before, settings))
    return files


def planned_of(change: Change) -> list[Planned]:
    """What was planned, purpose by purpose."""
    return [each for each in change.effects if isinstance(each, Planned)]
