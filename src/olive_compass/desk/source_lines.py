"""The file of a desk, and the line in it, where something stands."""

from collections.abc import Sequence

from msgspec import Struct

from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.layers import FACTORY, MENUS, SYSTEM
from olive_compass.core.schemes.places import Place, place
from olive_compass.desk.desk import Desk
from olive_compass.desk.paths import SYSTEM_FILE, app_path, catalogue_path, macro_path, scheme_path


class FilePlace(Struct, frozen=True):
    """A file of the desk and a line of it, 0: it has no one line."""

    file: str
    line: int

    def __str__(self) -> str:
        if self.line:
            return f"{self.file}:{self.line}"
        return self.file


def _macro_line(desk: Desk, app: str, key: str) -> FilePlace:
    """The file of a macro, and the line of a step of it."""
    name, _, step = key.removeprefix("macro.").partition("#")
    path = macro_path(app, name)
    if step:
        return FilePlace(path, desk.line(path, f"steps.{int(step) - 1}", ""))
    return FilePlace(path, 1)


def file_and_line(desk: Desk, keymap: Keymap, at: Place) -> FilePlace:
    """The file of the desk, and the line in it, where something stands."""
    app = keymap.app
    if at.table == "macro" or (not at.scheme and at.key.startswith("macro.")):
        return _macro_line(desk, app.name, at.key)
    if at.table == "tray" or (not at.scheme and at.key.startswith("tray.")):
        return _tray_line(desk, app.name, at.key)
    if at.scheme:
        return _line_in(desk, scheme_path(app.name, at.scheme), at.key, (at.table,))
    # Access letters stand in the titles of many rows: no one line gives them.
    if at.table == MENUS.table:
        return FilePlace(catalogue_path(app.name), 0)
    if at.table == FACTORY.table:
        known = app.catalogue.by_id.get(at.key)
        return FilePlace(catalogue_path(app.name), known.line if known else 0)
    if at.table == SYSTEM.table:
        return _line_in(desk, SYSTEM_FILE, at.key, desk.system_tables)
    return _line_in(desk, app_path(app.name), at.key, (at.table,))


def _line_in(desk: Desk, path: str, key: str, tables: Sequence[str]) -> FilePlace:
    """A file, and the line in which one of its tables has a key, however that is written there."""
    lines = (desk.line(path, table, key) for table in tables)
    line = next(filter(None, lines), 0)
    return FilePlace(path, line or _line_of_spelling(desk, path, key, tables))


def _tray_line(desk: Desk, app: str, key: str) -> FilePlace:
    """The file of the trays, and the line of one, or of an item of it: ``personal.evening#edit.undo``."""
    path = f"trays/{app}.toml"
    where, _, item = key.partition("#")
    if where.startswith("tray."):
        name = where.removeprefix("tray.")
        where = next((t for t, k in desk.keys_of(path) if not k and t.endswith(f".{name}")), "")
    line = desk.line(path, where, "")
    if item and line:
        rows = desk.bytes(path).decode("utf-8-sig").splitlines()
        found = (n for n, row in enumerate(rows[line:], line + 1) if f'"{item}"' in row)
        line = next(found, line)
    return FilePlace(path, line)


def _line_of_spelling(desk: Desk, path: str, trigger: str, tables: Sequence[str]) -> int:
    """The line of a mute or guard whose trigger the file spells in another way than ours."""
    from olive_compass.core.keys.reading import MOST_TYPED, read_trigger
    from olive_compass.core.keys.trigger_error import TriggerError

    for table, key in desk.keys_of(path):
        if table in tables and key:
            try:
                if str(read_trigger(key, typed=MOST_TYPED)) == trigger:
                    return desk.line(path, table, key)
            except TriggerError:
                continue
    return 0


def file_and_line_text(desk: Desk, keymap: Keymap, claim: Claim) -> str:
    """``schemes/quillmap/mine.toml:7`` for a claim."""
    return str(file_and_line(desk, keymap, place(claim)))
