"""The files of a desk as a change leaves them."""

from collections.abc import Iterable
from typing import TYPE_CHECKING

from olive_compass.core.schemes.decisions import Scheme
from olive_compass.desk.desk import Desk
from olive_compass.desk.paths import macro_path, scheme_path
from olive_compass.desk.storage.records import FileChange

if TYPE_CHECKING:
    from olive_compass.core.changes.change import Change, TrayEdit
    from olive_compass.core.macros.macro import Macro
    from olive_compass.core.sharing.purposes import Purposes


def changed_scheme(desk: Desk, before: Scheme, after: Scheme) -> FileChange:
    """The file change that turns ``before`` into ``after``."""
    from olive_compass.desk.formats import scheme_writing

    path = scheme_path(after.app, after.name)
    old = desk.bytes(path)
    return FileChange(path, old, scheme_writing.edited(old, before, after, path))


def changed_macro(desk: Desk, before: "Macro | None", after: "Macro | None") -> FileChange:
    """The file change that makes, edits or takes away a macro."""
    from olive_compass.desk.formats import macro_writing

    macro = after or before
    assert macro is not None
    path = macro_path(macro.app, macro.name)
    old = None
    if before:
        old = desk.bytes(path)
    if after is None:
        return FileChange(path, old, None)
    new = None
    if before and old is not None:
        new = macro_writing.edited(old, before, after)
    return FileChange(path, old, new or macro_writing.new_text(after))


def changed_trays(desk: Desk, app: str, edits: "Iterable[TrayEdit]") -> FileChange:
    """The file change that makes these trays (None before) other ones (None after: they go)."""
    from olive_compass.desk.formats.tray_file import edited, tray_path

    path = tray_path(app)
    old = data = desk.bytes_or_none(path)
    for each in edits:
        data = edited(data, app, each.before, each.after)
    return FileChange(path, old, data)


def written_files(desk: Desk, change: "Change") -> list[FileChange]:
    """The files of the edited schemes, macros and trays."""
    files = [
        changed_scheme(desk, each.before, each.after)
        for each in change.edits
        if each.before != each.after
    ]
    files += [changed_macro(desk, each.before, each.after) for each in change.macros]
    by_app: dict[str, list[TrayEdit]] = {}
    for edit in change.trays:
        if tray := edit.after or edit.before:
            by_app.setdefault(tray.app, []).append(edit)
    return [*files, *(changed_trays(desk, app, edits) for app, edits in by_app.items())]


def changed_purposes(desk: Desk, after: "Purposes") -> FileChange:
    """The file change that writes ``after``."""
    from olive_compass.desk.formats import purposes_file

    return desk.change_of(purposes_file.PURPOSES_FILE, purposes_file.write(after))
