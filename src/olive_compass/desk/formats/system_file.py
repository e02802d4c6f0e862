"""The keys that operating systems take before any application sees them: ``system.toml``.

A table has the keys of one platform, by its name; the table ``keys`` has those of the platform that
``desk.toml`` states. Only those of the platform of this computer count.
"""

from collections.abc import Container, Iterable, Mapping
from typing import Literal

from msgspec import Struct

from olive_compass.core.keys.keyboards import PLATFORMS
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.keys.triggers import Run
from olive_compass.core.wording import capital
from olive_compass.desk.texts.schemas import Format, Mistake, fitted
from olive_compass.desk.texts.toml_editor import TomlEditor, as_written
from olive_compass.desk.texts.toml_text import load, quoted, refuse

FORMAT = "olive-compass-system/1"


#: The table of the platform that the desk states.
STATED = "keys"


class KeyTable(Format, frozen=True, kw_only=True):
    """What a key does. Switched off it stays in the file: whoever changes systems wants it back."""

    does: str = ""
    on: bool = True


class SystemTable(Format, frozen=True, kw_only=True):
    """Keys that operating systems take, a table a platform."""

    format: Literal["olive-compass-system/1"]
    keys: Mapping[str, str | KeyTable] = {}
    pc: Mapping[str, str | KeyTable] = {}
    mac: Mapping[str, str | KeyTable] = {}
    linux: Mapping[str, str | KeyTable] = {}


class SystemKey(Struct, frozen=True, kw_only=True):
    """A key of the operating system: how the file spells it, what it does, whether it counts, and in which
    table it stands."""

    text: str
    trigger: Run
    does: str
    on: bool
    table: str = STATED


def tables_of(platform: str, stated: str) -> tuple[str, ...]:
    """The tables that count on a computer of ``platform``, on a desk that states ``stated``."""
    if platform == stated:
        return (platform, STATED)
    return (platform,)


def read(data: bytes, file: str, tables: Container[str] = (STATED,)) -> dict[Run, str]:
    """The keys of some tables that are switched on, with what they do.

    Raises ``UserError`` with all the file's mistakes and their lines.
    """
    keys = read_all(data, file)
    return {key.trigger: key.does for key in keys if key.on and key.table in tables}


def read_all(data: bytes | None, file: str) -> list[SystemKey]:
    """Every key of the file (None: there is no file), including those switched off. Raises ``UserError`` as ``read``
    does."""
    if data is None:
        return []
    said, mistakes = fitted(load(data, file, FORMAT), SystemTable, "the system's keys")
    found = []
    for table in (*PLATFORMS, STATED):
        for text, value in getattr(said, table).items():
            if isinstance(value, KeyTable):
                key = value
            else:
                key = KeyTable(does=value)
            try:
                trigger = read_trigger(text)
            except TriggerError as error:
                mistakes.append(Mistake((table, text), f"{capital(error)}."))
            else:
                found.append(
                    SystemKey(text=text, trigger=trigger, does=key.does, on=key.on, table=table)
                )
    refuse(mistakes, data, file)
    return found


def new_text(keys: Mapping[str, str], platform: str = STATED) -> bytes:
    """A file with these keys of a platform, all switched on."""
    head = [
        f'format = "{FORMAT}"',
        "",
        "# Keys that the operating system takes before any application sees them.",
        f"[{platform}]",
    ]
    return "\n".join([*head, *(f"{quoted(k)} = {quoted(v)}" for k, v in keys.items()), ""]).encode()


def with_key(data: bytes, text: str, does: str, on: bool, table: str = STATED) -> bytes:
    """The file in which the key that its table spells ``text`` does this, and counts or not."""
    editor = TomlEditor(data)
    _put(editor, text, does, on, table)
    return editor.data


def without_key(data: bytes, text: str, table: str = STATED) -> bytes:
    """The file without the key that its table spells ``text``."""
    editor = TomlEditor(data)
    editor.remove(table, text)
    return editor.data


def with_platform(data: bytes, platform: str, keys: Iterable[SystemKey]) -> bytes:
    """The file with the keys of one more platform, or of one in the place of those that it has."""
    editor = TomlEditor(data)
    editor.remove(platform)
    for key in keys:
        _put(editor, key.text, key.does, key.on, platform)
    return editor.data


def _put(editor: TomlEditor, text: str, does: str, on: bool, table: str) -> None:
    off = as_written(f"{{ does = {quoted(does)}, on = false }}")
    editor.put((table, text), does if on else off)
