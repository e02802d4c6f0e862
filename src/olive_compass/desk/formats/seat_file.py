"""What holds for this seat alone: ``seat.toml``, which git ignores and bundles leave out."""

from collections.abc import Mapping
from typing import Annotated, Any, Final, Literal

from olive_compass.core.keys.keyboards import Platform
from olive_compass.desk.formats.desk_file import Hand
from olive_compass.desk.texts.schemas import Format, fitted, saying
from olive_compass.desk.texts.toml_editor import TomlEditor
from olive_compass.desk.texts.toml_text import load, refuse

FORMAT: Final = "olive-compass-seat/1"
SEAT_FILE = "seat.toml"

_KEYBOARD = saying("A keyboard is FORM/LAYOUT, such as iso-laptop/german.", pattern="^[^/]*/[^/]*$")
_FILE = saying("“{key}” is given as text, the path of its file of keys.")
_LICENCES = saying("“{key}” is given as a table: a licence, and true or false.")


class SeatFile(Format, frozen=True, kw_only=True):
    """What the file says; where it says nothing, ``desk.toml`` and ``app.toml`` do.

    ``name`` is who sits here, as the history names them; ``keyboards`` are ``form/layout``, the first
    the one that is meant where one is meant; ``hand`` is the free one; ``current`` the application in
    use; ``licences`` those that this seat has or has not, by application; ``files`` where the
    applications keep their keys here; ``practice`` the box and the day of each command that is practised,
    by application.
    """

    format: Literal["olive-compass-seat/1"]
    name: str = ""
    platform: Platform | Literal[""] = ""
    keyboards: tuple[Annotated[str, _KEYBOARD], ...] = ()
    hand: Hand | Literal[""] = ""
    current: str = ""
    licences: Mapping[str, Annotated[Mapping[str, bool], _LICENCES]] = {}
    files: Mapping[str, Annotated[str, _FILE]] = {}
    practice: Mapping[str, Mapping[str, str]] = {}


def read(data: bytes, file: str = SEAT_FILE) -> SeatFile:
    """The file's content; raises ``UserError`` with all its mistakes and their lines."""
    said, mistakes = fitted(load(data, file, FORMAT), SeatFile, "a seat")
    refuse(mistakes, data, file)
    return said


def with_values(data: bytes | None, values: Mapping[str, Any]) -> bytes:
    """The file (None: there is none yet) in which the keys above all tables have these values; an
    empty one goes."""
    editor = _editor(data)
    for key, value in values.items():
        if value:
            editor.put((key,), value)
        else:
            editor.remove(key)
    return editor.data


def with_value(data: bytes | None, table: str, key: str, value: Any) -> bytes:
    """The file (None: there is none yet) in which ``key`` of ``table`` is ``value``; ``table`` may be
    one within another: ``licences.quillmap``."""
    editor = _editor(data)
    editor.put((*table.split("."), key), value)
    return editor.data


def _editor(data: bytes | None) -> TomlEditor:
    return TomlEditor(data or f'format = "{FORMAT}"\n')
