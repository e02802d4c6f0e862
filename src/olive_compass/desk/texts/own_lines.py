"""A TOML file in our own form, by its lines: tables whose keys stand in quotation marks, one to a line.

Most files are as we wrote them. What changes a line of one need not read the rest, as an editor that keeps comments
and order has to: that is a hundred times slower, and takes the memory of all that it has read.
"""

from collections.abc import Container


class OwnLines:
    """The lines of a file, where each key stands, and where each table ends."""

    def __init__(self, lines: list[str]) -> None:
        self._lines: list[str | None] = [*lines]
        self._at: dict[tuple[str, str], int] = {}
        self._ends: dict[str, int] = {}

    @classmethod
    def of(cls, text: str, tables: Container[str] | None = None) -> "OwnLines | None":
        """The lines of a text; None where one is not as we write it, or in another table than these."""
        if "\r" in text:
            return None
        found = cls(text.split("\n"))
        table = ""
        for n, line in enumerate(found._lines):
            if not line or line.startswith("#"):
                continue
            if line.startswith("["):
                table = line[1:-1]
                if not _is_heading(line) or table in found._ends:
                    return None
                if tables is not None and table not in tables:
                    return None
                found._ends[table] = n
            elif table:
                name = _name_of(line)
                if name is None:
                    return None
                found._at[table, name] = found._ends[table] = n
        return found

    def __contains__(self, table: str) -> bool:
        return table in self._ends

    def line(self, table: str, key: str) -> str | None:
        """The line of a key, None: it has none."""
        place = self._at.get((table, key))
        if place is None:
            return None
        return self._lines[place]

    def put(self, table: str, key: str, line: str | None) -> None:
        """Puts another line in the place of the one of a key; None takes it out."""
        self._lines[self._at[table, key]] = line

    def add(self, table: str, added: list[str]) -> None:
        """New lines, after the last of their table, or in a table of their own at the end."""
        if not added:
            return
        if table in self._ends:
            last = self._lines[self._ends[table]]
            before = []
            if last is not None:
                before = [last]
            self._lines[self._ends[table]] = "\n".join([*before, *added])
            return
        while self._lines and not self._lines[-1]:
            self._lines.pop()
        self._lines += ["", f"[{table}]", *added, ""]

    def text(self) -> str:
        """The file as it is by now."""
        return "\n".join(line for line in self._lines if line is not None)


def _is_whole(value: str) -> bool:
    """Whether a value ends on its line."""
    return value.count("[") == value.count("]") and '"""' not in value and "'''" not in value


def _is_heading(line: str) -> bool:
    """Whether a line is the heading of a table with a plain name, and nothing else."""
    name = line[1:-1]
    return line == f"[{name}]" and name.replace("-", "").isalnum()


def _name_of(line: str) -> str | None:
    """The name of a line ``"name" = value``, None where it is written in another way."""
    name, sign, value = line[1:].partition('" = ')
    if line[0] != '"' or not sign or "\\" in name or not _is_whole(value):
        return None
    return name
