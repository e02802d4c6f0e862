"""The files of a desk as they are, or as they would be after a change: bytes, names and lines, whatever they mean."""

import os
from typing import TYPE_CHECKING

from olive_compass.core.plain import is_text
from olive_compass.desk import older
from olive_compass.desk.storage.plain_file import read_whole, text_of
from olive_compass.desk.texts.toml_text import key_lines
from olive_compass.errors import UserError

if TYPE_CHECKING:
    from collections.abc import Iterable, Mapping

    from olive_compass.desk.storage.records import FileChange

#: The files of a desk as they lie there.
NO_FILES: "Mapping[str, bytes | None]" = {}


class DeskFiles:
    """The files in the folder ``root``. What is read is kept for this object's life.

    ``instead`` are contents that count in the place of files (None: that file is not there).
    """

    def __init__(self, root: str, instead: "Mapping[str, bytes | None]") -> None:
        self.root = root
        self.instead = instead
        #: What is wrong with names or lines that were left out: whoever ran the command is told.
        self.left_out: list[str] = []
        self._bytes: dict[str, bytes] = {}
        self._lines: dict[str, dict[tuple[str, str], int]] = {}

    def bytes_or_none(self, path: str) -> bytes | None:
        """The content of a file, None where there is no such file."""
        if self.has(path):
            return self.bytes(path)
        return None

    def change_of(self, path: str, after: bytes | None) -> "FileChange":
        """The change that makes a file another one, or takes it away (None)."""
        from olive_compass.desk.storage.records import FileChange

        return FileChange(path, self.bytes_or_none(path), after)

    def bytes(self, path: str) -> bytes:
        """The content of a file, named from the desk. Raises ``UserError`` where it is missing."""
        if path not in self._bytes and self.instead.get(path) is not None:
            self._bytes[path] = self.instead[path] or b""
        if path not in self._bytes:
            try:
                self._bytes[path] = read_whole(os.path.join(self.root, path), path)
            except OSError as error:
                raise UserError(
                    f"This file cannot be read: {error.strerror}.", file=path
                ) from error
        return self._bytes[path]

    def has(self, path: str) -> bool:
        """Whether there is such a file."""
        if path in self.instead:
            return self.instead[path] is not None
        return os.path.exists(os.path.join(self.root, path))

    def toml_names(self, folder: str) -> list[str]:
        """The names of the TOML files in a folder of the desk, without their ending, sorted."""
        return sorted(
            name.removesuffix(".toml")
            for name in self.listed(folder)
            if name.endswith(".toml") and not name.startswith(".")
        )

    def _leave_out(self, folder: str, names: "Iterable[str]") -> None:
        """Notes the names that are no text."""
        for name in names:
            shown = f"{folder}/{ascii(name)[1:-1]}: This name is no UTF-8; it is left out."
            if not is_text(name) and shown not in self.left_out:
                self.left_out.append(shown)

    def listed(self, folder: str) -> list[str]:
        """The names in a folder of the desk, none where it is not there."""
        try:
            found = os.listdir(os.path.join(self.root, folder))
        except (FileNotFoundError, NotADirectoryError):
            found = []
        names = [name for name in found if is_text(name)]
        if len(names) < len(found):
            self._leave_out(folder, found)
        if not self.instead:
            return names
        there = {
            name: None for name in names if self.instead.get(f"{folder}/{name}", b"") is not None
        }
        for path, data in self.instead.items():
            inside = path.removeprefix(f"{folder}/")
            if inside != path and data is not None:
                there[inside.split("/")[0]] = None
        return list(there)

    def line(self, path: str, table: str, key: str) -> int:
        """The line of a key in a TOML file of the desk, 0 where it has none."""
        return self.keys_of(path).get((table, key), 0)

    def keys_of(self, path: str) -> dict[tuple[str, str], int]:
        """Every table and key of a TOML file of the desk, with its line."""
        if path not in self._lines:
            self._lines[path] = key_lines(text_of(older.current(self.bytes(path))))
        return self._lines[path]
