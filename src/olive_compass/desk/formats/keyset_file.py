"""A key set as ``keysets/<name>.toml``: purposes and their triggers."""

import re
from collections.abc import Mapping
from typing import Annotated, Literal

from msgspec import Meta

from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.keys.triggers import Run
from olive_compass.core.sharing.keysets import Entry, KeySet
from olive_compass.desk.texts.schemas import Format, Mistake, fitted, saying
from olive_compass.desk.texts.toml_editor import TomlEditor, as_written
from olive_compass.desk.texts.toml_text import load, quoted, refuse

FORMAT = "olive-compass-keyset/1"

_KEYS = saying(
    "“{key}” needs a key, or a list of keys.", lacks="“{key}” needs a key, or a list of keys."
)

#: A key, or a list of them.
Keys = Annotated[str | Annotated[tuple[str, ...], Meta(min_length=1)], _KEYS]


class EntryTable(Format, frozen=True, kw_only=True):
    """The keys of a purpose, the preferred one first, and the reason."""

    keys: Keys
    why: str = ""


class KeySetTable(Format, frozen=True, kw_only=True):
    """Purposes and their keys, for all applications at once."""

    format: Literal["olive-compass-keyset/1"]
    title: str = ""
    keys: Mapping[
        str, Annotated[str | Annotated[tuple[str, ...], Meta(min_length=1)] | EntryTable, _KEYS]
    ] = {}


def keyset_path(name: str) -> str:
    return f"keysets/{name}.toml"


def read(data: bytes, file: str, name: str) -> KeySet:
    """The set in a file; raises ``UserError`` with all its mistakes and their lines."""
    said, mistakes = fitted(load(data, file, FORMAT), KeySetTable, "a key set")
    keys = {}
    for purpose, value in said.keys.items():
        if isinstance(value, EntryTable):
            entry = value
        else:
            entry = EntryTable(keys=value)
        keys[purpose] = Entry(_triggers(purpose, entry, mistakes), entry.why)
    refuse(mistakes, data, file)
    return KeySet(name, said.title or name, keys)


def _triggers(purpose: str, entry: EntryTable, mistakes: list[Mistake]) -> tuple[Run, ...]:
    found = []
    for text in (entry.keys,) if isinstance(entry.keys, str) else entry.keys:
        try:
            # A set is for all applications, and most take no typed runs: “GD” would be read otherwise in each.
            found.append(read_trigger(text, typed=0))
        except TriggerError as error:
            says = f"“{purpose}”: {str(error)[0].lower()}{str(error)[1:]}."
            mistakes.append(Mistake(("keys", purpose), says))
    return tuple(found)


def new_text(keyset: KeySet) -> bytes:
    """The file of a set that has none yet."""
    head = f'format = "{FORMAT}"\ntitle = {quoted(keyset.title or keyset.name)}\n\n[keys]\n'
    lines = [f"{_key(id_)} = {_value(entry)}\n" for id_, entry in keyset.keys.items()]
    return (head + "".join(lines)).encode()


def edited(data: bytes, before: KeySet, after: KeySet) -> bytes:
    """The file of ``before`` with what ``after`` has otherwise put in; comments stay."""
    editor = TomlEditor(data)
    if before.title != after.title:
        editor.put(("title",), after.title)
    editor.table("keys")
    for id_ in before.keys:
        if id_ not in after.keys:
            editor.remove("keys", id_)
    for id_, entry in after.keys.items():
        # What is the same keeps the line as a person wrote it.
        if before.keys.get(id_) != entry:
            editor.put(("keys", id_), as_written(_value(entry)))
    return editor.data


def _key(id_: str) -> str:
    if re.fullmatch(r"[A-Za-z0-9_-]+", id_):
        return id_
    return quoted(id_)


def _value(entry: Entry) -> str:
    keys = [quoted(str(run)) for run in entry.triggers]
    if len(keys) == 1:
        text = keys[0]
    else:
        text = f"[{', '.join(keys)}]"
    if entry.why:
        return f"{{ keys = {text}, why = {quoted(entry.why)} }}"
    return text
