"""Changes TOML files of ours: what is not touched keeps its line, its order and the comments of a person."""

from collections.abc import Iterable, Mapping
from typing import TYPE_CHECKING, Any

from olive_compass.desk.older import current
from olive_compass.desk.storage.plain_file import text_of
from olive_compass.desk.texts.toml_text import parsed
from olive_compass.errors import UserError

if TYPE_CHECKING:
    from tomlkit import TOMLDocument

#: How long a list on one line may be.
WIDE = 80


class TomlEditor:
    """A file under change. ``path`` are the names of the tables and of the key, from the outside in.

    Raises ``UserError`` where the file is no TOML.
    """

    def __init__(self, data: bytes | str, file: str = "") -> None:
        self.document: Any = _document(data, file)

    @property
    def data(self) -> bytes:
        """The file as it is by now."""
        # Loaded here: a command that only reads has no use for it.
        import tomlkit

        return tomlkit.dumps(self.document).encode()

    def value(self, *path: str) -> Any:
        """What stands at a place, as a plain value; None: nothing."""
        found = self.document
        for name in path:
            if not isinstance(found, Mapping) or name not in found:
                return None
            found = found[name]
        if hasattr(found, "unwrap"):
            return found.unwrap()
        return found

    def table(self, *path: str) -> Any:
        """The table of that name; it is made where there is none."""
        import tomlkit

        table = self.document
        for depth, name in enumerate(path, 1):
            if name not in table:
                # One that only holds others has no head of its own.
                table[name] = tomlkit.table(is_super_table=depth < len(path))
            table = table[name]
        return table

    def put(self, path: tuple[str, ...], value: Any) -> None:
        """Sets a value. A new one goes below the last of its table; its tables are made where there are none."""
        *tables, name = path
        if tables:
            _put(self.table(*tables), name, _item(value))
        else:
            # Above all tables the editor finds the place by itself.
            self.document[name] = _item(value)

    def remove(self, *path: str) -> None:
        """Removes a value or a table, if it is there."""
        *tables, name = path
        table = self.document
        for each in tables:
            table = table.get(each, {})
        table.pop(name, None)

    def fill(self, path: tuple[str, ...], wanted: Mapping[str, Any]) -> None:
        """Gives a table these values and no others; what stays keeps its line."""
        now = self.value(*path) or {}
        if now == dict(wanted):
            return
        table = self.table(*path)
        for name in now.keys() - wanted.keys():
            table.pop(name)
        for name, value in wanted.items():
            if now.get(name) != value:
                _put(table, name, _item(value))

    def write_anew(self, name: str, wanted: Mapping[str, Any], comment: str = "") -> None:
        """Puts a table of these values in the place of the one that is there; without any, none."""
        import tomlkit

        if (self.value(name) or {}) == dict(wanted):
            return
        self.document.pop(name, None)
        if not wanted:
            return
        table = tomlkit.table()
        if comment:
            table.comment(comment)
        for key, value in wanted.items():
            table[key] = _item(value)
        self.document[name] = table


def with_top(data: bytes, key: str, value: str) -> bytes:
    """The file in which a key above all tables is ``value``, its line otherwise as it was."""
    editor = TomlEditor(data)
    if editor.value(key) == value:
        return data
    editor.put((key,), value)
    return editor.data


def put_quoted(table: Any, name: str, value: Any) -> None:
    """Sets a value of a table; a new key is written in quotation marks, for ids and keys hold all kinds of signs."""
    from tomlkit.items import KeyType, SingleKey

    if name in table:
        table[name] = value
    else:
        table.add(SingleKey(name, KeyType.Basic), value)


def as_written(text: str) -> Any:
    """A value in just these words of TOML."""
    import tomlkit

    return tomlkit.value(text)


def listed(values: Iterable[str], always: bool = False) -> Any:
    """A list of texts, a line each where they are many (or ``always``)."""
    import tomlkit

    array = tomlkit.array()
    array.extend(values)
    if always or len(array.as_string()) > WIDE:
        array.multiline(True)
    return array


def _document(data: bytes | str, file: str) -> "TOMLDocument":
    import tomlkit
    from tomlkit.exceptions import TOMLKitError

    whole = current(data.encode() if isinstance(data, str) else data)
    try:
        return tomlkit.parse(text_of(whole))
    except (TOMLKitError, ValueError, RecursionError) as error:
        # Who reads our files says it with its line.
        parsed(whole, file)
        raise UserError(f"This TOML cannot be edited: {error}.", file=file) from error


def _item(value: Any) -> Any:
    """A value for the editor; a table within one line, as a person would write a handful of pairs."""
    import tomlkit

    if type(value) is not dict:
        return value
    table = tomlkit.inline_table()
    table.update(value)
    return table


def _put(table: Any, name: str, value: Any) -> None:
    if name in table:
        table[name] = value
        return
    # Blank lines and comments at the end of a table belong to what follows it, and stay there.
    body = table.value.body
    tail: list[Any] = []
    while body and body[-1][0] is None:
        tail.insert(0, body.pop())
    table[name] = value
    body.extend(tail)
