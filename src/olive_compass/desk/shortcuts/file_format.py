"""The format of a shortcuts file: how it is read and written."""

import re
from collections.abc import Mapping
from typing import Literal, get_args

from olive_compass.core.keys.terminal_notation import Notation
from olive_compass.desk.texts.schemas import Format

#: How the records of a file with a structure are nested.
Structure = Literal["xml", "json", "plist"]
STRUCTURES: tuple[Structure, ...] = get_args(Structure)

#: The groups that a pattern may name.
GROUPS = ("id", "title", "menu", "mode", "keys", "kind", "does")

#: What a command with several keys becomes: one record for all, one a key, or its first key only.
Several = Literal["joined", "records", "first"]
SEVERAL: tuple[Several, ...] = get_args(Several)

#: Whether the file has the keys of every command; those of the commands only that differ from the factory; or only
#: the keys that do, one by one.
Holds = Literal["all", "changes", "keys"]
HOLDS: tuple[Holds, ...] = get_args(Holds)

#: How capital letters are read: as the file tells (a letter stands there both ways), or as Shift and the letter.
Capitals = Literal["", "shift"]


class FileFormatTable(Format, frozen=True, kw_only=True):
    """How a file is read and written.

    ``pattern`` matches a record and names its parts; ``section`` the heading of records that follow it.
    ``entry`` is a new record, with the parts in braces; ``between`` what parts two records, its sign
    (a comma, say) also where a record is taken out; ``new_section`` is a new section with ``{entry}`` in
    it, put after the sign ``section_end`` of the last one; ``outside`` is the mode of records that no section
    has. ``each`` is how one key is written in the
    cell, ``named_key`` how one is that is more than a single sign, ``join`` what parts several; ``none`` is the cell of a command without a key (None: its record
    goes). ``escapes`` are signs that are written otherwise, ``modes`` our modes as the file calls them.
    ``off`` is a record that switches a key off, ``off_pattern`` matches one; ``notation`` is one of
    ``terminal_notation``; ``capitals`` says how capital letters are read. Of a file with a ``structure`` the
    ``records`` are found by a path, and their ``fields`` by attribute, element or name.
    """

    format: Literal["olive-compass-fileformat/1"]
    title: str = ""
    pattern: str = ""
    section: str = ""
    entry: str = ""
    between: str = "\n"
    new_section: str = ""
    section_end: str = ""
    outside: str = ""
    each: str = "{key}"
    named_key: str = "{key}"
    join: str = ", "
    none: str | None = None
    several: Several = "joined"
    holds: Holds = "all"
    off: str = ""
    off_pattern: str = ""
    notation: Notation | Literal[""] = ""
    capitals: Capitals = ""
    structure: Structure | Literal[""] = ""
    records: str = ""
    fields: Mapping[str, str] = {}
    spelling: Mapping[str, str] = {}
    escapes: Mapping[str, str] = {}
    modes: Mapping[str, str] = {}


class FileFormat(FileFormatTable, frozen=True, kw_only=True):
    """A file format under its name."""

    format: Literal["olive-compass-fileformat/1"] = "olive-compass-fileformat/1"
    name: str


def id_in_mode(id_: str, mode: str) -> str:
    """The id in our catalogue of a command that has other keys in another mode: there it is a command of its own.

    >>> id_in_mode("cancel", "copy")
    'copy/cancel'
    """
    return f"{mode}/{id_}"


def names_modes(form: FileFormat) -> bool:
    """Whether files of the format say in which mode a key counts."""
    return "(?P<mode>" in form.pattern or bool(form.section) or "mode" in form.fields


def our_mode(form: FileFormat, text: str) -> str:
    return next((ours for ours, theirs in form.modes.items() if theirs == text), text)


def their_mode(form: FileFormat, mode: str) -> str:
    return form.modes.get(mode, mode)


def escaped(form: FileFormat, text: str) -> str:
    return "".join(form.escapes.get(char, char) for char in text)


def unescaped(form: FileFormat, text: str) -> str:
    if not form.escapes:
        return text
    signs = {theirs: ours for ours, theirs in form.escapes.items()}
    pattern = "|".join(re.escape(each) for each in sorted(signs, key=len, reverse=True))
    return re.sub(pattern, lambda found: signs[found[0]], text)
