"""The keys in a shortcuts file, and the keys wanted in it."""

from collections.abc import Mapping
from typing import Any

from msgspec import Struct

from olive_compass.core.keys.triggers import Run
from olive_compass.desk.shortcuts.file_format import FileFormat
from olive_compass.desk.shortcuts.shortcut_cells import Piece


class Entry(Struct, frozen=True, kw_only=True, gc=False):
    """A record of a file: where it was found, its parts, its mode (``""``: the file names none), and its keys one by
    one with their places in their cell."""

    # Large files have records by the ten thousand, and none of them is part of a circle: ``gc=False``.
    found: Any
    parts: Mapping[str, str]
    mode: str
    in_cell: tuple[Piece, ...]

    @property
    def span(self) -> tuple[int, int]:
        """Where the whole of it stands in the file."""
        span: tuple[int, int] = self.found.span()
        return span

    @property
    def cell(self) -> tuple[int, int]:
        """Where its keys stand, or would: at its end."""
        if part_of(self.found, "keys") is None:
            end = self.span[1]
            return end, end
        span: tuple[int, int] = self.found.span("keys")
        return span

    @property
    def id_span(self) -> tuple[int, int]:
        """Where the id of its command stands."""
        span: tuple[int, int] = self.found.span("id")
        return span

    @property
    def pieces(self) -> tuple[Piece, ...]:
        """Its keys with their places in the file."""
        at = self.cell[0]
        return tuple(
            Piece((each.span[0] + at, each.span[1] + at), each.run, each.problem)
            for each in self.in_cell
        )

    @property
    def keys(self) -> tuple[Run, ...]:
        """The keys that can be read."""
        return tuple(dict.fromkeys(each.run for each in self.in_cell if each.run))

    @property
    def problem(self) -> str:
        """Why keys of it cannot be read, ``""``: they can."""
        return next((each.problem for each in self.in_cell if each.run is None), "")

    @property
    def subject(self) -> str:
        """What names the command: its id, or else its title."""
        return self.parts.get("id") or self.parts.get("title", "")


class Off(Struct, frozen=True):
    """A record that switches a key off: in which mode, which key (None: it cannot be read), and where it stands."""

    mode: str
    run: Run | None
    span: tuple[int, int]


class Content(Struct, frozen=True, kw_only=True):
    """What a format makes of a file: its records, its headings with their ends, the lines with something in them
    that belong to neither, and the keys that are switched off. ``form`` is the format with what the file itself tells
    of it."""

    entries: tuple[Entry, ...]
    sections: tuple[tuple[str, int], ...]
    outside: tuple[int, ...]
    offs: tuple[Off, ...]
    form: FileFormat

    @property
    def passed_over(self) -> int:
        """How many lines belong to no record and no heading."""
        return len(self.outside)


class Wanted(Struct, frozen=True):
    """What a command is to have in a mode: its parts, the mode as we call it, and its keys.

    None for the keys: the file is to say nothing of it.
    """

    parts: Mapping[str, str]
    mode: str
    keys: tuple[Run, ...] | None


class Unwritten(Struct, frozen=True, kw_only=True):
    """What a format cannot write: whose, why, and the field of the format that would say how."""

    subject: str
    mode: str
    why: str
    field: str = ""


def part_of(found: Any, name: str) -> str | None:
    """A part of a record, None: it has none of that name."""
    try:
        value: str | None = found[name]
    except IndexError:
        return None
    return value


def subject(parts: Mapping[str, str]) -> str:
    return parts.get("id") or parts.get("title", "")
