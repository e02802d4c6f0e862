"""Merges the files of a desk three ways: TOML by table and key, CSV by row and column, logs by line."""

import csv
import io
import json
from collections.abc import Callable, Iterable, Mapping
from typing import Any

import tomli
from msgspec import Struct

from olive_compass.core.plain import lines_of
from olive_compass.core.sharing.merging import MISSING, Conflict, merge, merge_lines
from olive_compass.desk.storage.plain_file import utf8_of
from olive_compass.desk.texts.csv_text import each_row
from olive_compass.desk.texts.own_lines import OwnLines
from olive_compass.desk.texts.toml_editor import TomlEditor, put_quoted
from olive_compass.errors import UserError
from olive_compass.structs import replace


class FileMerge(Struct, frozen=True):
    """A merged file (None: it is gone), and its conflicts in words."""

    data: bytes | None
    conflicts: tuple[Conflict, ...] = ()


def merge_file(
    path: str,
    base: bytes | None,
    ours: bytes | None,
    theirs: bytes | None,
    resolve: Callable[[str, Conflict], str] = lambda _path, _conflict: "",
) -> FileMerge:
    """The file of both sides; ``resolve`` gets the path and a conflict, and returns a side.

    Raises ``UserError`` where a file cannot be read.
    """
    merged = _merge_file(path, base, ours, theirs, resolve)
    return replace(merged, conflicts=tuple(replace(each, path=path) for each in merged.conflicts))


def _by_content(
    path: str,
    base: bytes | None,
    ours: bytes,
    theirs: bytes,
    resolved: Callable[[Conflict], str],
) -> FileMerge | None:
    """A file merged by its tables, rows or lines; None: only as a whole."""
    if path.endswith(".toml"):
        return _toml_or_conflict(path, base, ours, theirs, resolved)
    if path.endswith(".csv"):
        return _csv(path, base, ours, theirs, resolved)
    if path.endswith(".jsonl"):
        parts = (_text(path, each or b"") for each in (base, ours, theirs))
        return FileMerge(merge_lines(*parts).encode())
    return None


def _merge_file(
    path: str,
    base: bytes | None,
    ours: bytes | None,
    theirs: bytes | None,
    resolve: Callable[[str, Conflict], str],
) -> FileMerge:
    if ours == theirs or theirs == base:
        return FileMerge(ours)
    if ours == base:
        return FileMerge(theirs)

    def resolved(conflict: Conflict) -> str:
        return resolve(path, conflict)

    if ours is not None and theirs is not None:
        merged = _by_content(path, base, ours, theirs, resolved)
        if merged:
            return merged
    conflict = Conflict(key="the file", base=base, ours=ours, theirs=theirs)
    side = resolved(conflict)
    return FileMerge(theirs if side == "theirs" else ours, () if side else (conflict,))


def _toml_or_conflict(
    path: str,
    base: bytes | None,
    ours: bytes,
    theirs: bytes,
    resolved: Callable[[Conflict], str],
) -> FileMerge:
    try:
        return _toml(path, base or b"", ours, theirs, resolved)
    except RecursionError as error:
        raise UserError("This TOML is nested too deeply to be merged.", file=path) from error
    except (LookupError, TypeError, AttributeError):
        # One side writes as a table what the other writes in a line: that is for a person.
        what = "the way in which it is written"
        return FileMerge(ours, (Conflict(key=what, base=base, ours=ours, theirs=theirs),))


def conflict_text(conflict: Conflict) -> str:
    """The conflict and both sides in a line."""
    sides = (said(each) for each in (conflict.ours, conflict.theirs, conflict.base))
    return "{}: ours {}, theirs {}, before {}".format(subject(conflict), *sides)


def subject(conflict: Conflict) -> str:
    """The changes of the two sides of a conflict."""
    if isinstance(conflict.key, tuple):
        return " ".join(str(part) for part in conflict.key if part)
    return str(conflict.key)


def said(value: Any) -> str:
    """One side of a conflict in a few words."""
    if value is MISSING:
        return "nothing"
    if isinstance(value, bytes):
        return f"{len(value)} bytes"
    if isinstance(value, dict) and all(isinstance(key, tuple) for key in value):
        # A row: its cells by column, or the keys of a decision by table.
        value = {
            " ".join(filter(None, key[1:])): each for key, each in value.items() if key[1:] != ("",)
        }
    if isinstance(value, str):
        text = value
    else:
        text = json.dumps(value, ensure_ascii=False)
    if len(text) <= 80:
        return f"“{text}”"
    return f"“{text[:77]}...”"


def _text(path: str, data: bytes) -> str:
    return utf8_of(data, path).replace("\r\n", "\n")


def _flat(path: str, text: str) -> dict[tuple[str, str], Any]:
    """The decisions of a TOML file: by table and key; what stands in no table has the table ``""``."""
    try:
        content = tomli.loads(text)
    except tomli.TOMLDecodeError as error:
        raise UserError(f"This is not TOML: {error}.", file=path) from error
    found: dict[tuple[str, str], Any] = {}
    for key, value in content.items():
        if isinstance(value, dict) and not _is_value(text, key):
            found[key, ""] = {}
            found.update({(key, inner): each for inner, each in value.items()})
        else:
            found["", key] = value
    return found


def _is_value(text: str, key: str) -> bool:
    """Whether a table is written in one line, and so is one decision."""
    headings = (
        line.strip().lstrip("[").split("]")[0].strip()
        for line in lines_of(text)
        if line.lstrip().startswith("[")
    )
    # ``[personal.evening]`` begins the table of a layer as well.
    return not any(each.strip("\"'") == key or each.startswith(f"{key}.") for each in headings)


class _TomlSide(Struct, frozen=True, kw_only=True):
    """A side of a merge: its text, and its decisions by table and key."""

    text: str
    flat: Mapping[tuple[str, str], Any]


def _toml(
    path: str, base: bytes, ours: bytes, theirs: bytes, resolve: Callable[[Conflict], str]
) -> FileMerge:
    before = _toml_side(path, base)
    mine, other = _toml_side(path, ours), _toml_side(path, theirs)
    merged = merge(before.flat, mine.flat, other.flat, resolve, _decision, exclusive=True)
    quick = _by_lines(mine, other, merged.values)
    if quick is not None:
        return FileMerge(quick.encode() if quick != mine.text else ours, merged.conflicts)
    editor = TomlEditor(mine.text)
    document, others = editor.document, TomlEditor(other.text).document
    for (table, key), value in merged.values.items():
        if mine.flat.get((table, key), MISSING) == value:
            continue
        source = document
        if other.flat.get((table, key), MISSING) == value:
            source = others
        if not key:
            editor.table(table)
        elif not table:
            document[key] = source[key]
        else:
            put_quoted(editor.table(table), key, source[table][key])
    _remove(document, mine.flat, merged.values)
    if document.unwrap() == tomli.loads(mine.text):
        data = ours
    else:
        data = editor.data
    return FileMerge(data, merged.conflicts)


def _toml_side(path: str, data: bytes) -> _TomlSide:
    text = _text(path, data)
    return _TomlSide(text=text, flat=_flat(path, text))


def _by_lines(
    mine: _TomlSide, other: _TomlSide, merged: Mapping[tuple[str, str], Any]
) -> str | None:
    """Our file with the lines that others have and the merge takes; None where it is not a matter of lines."""
    ours, theirs = OwnLines.of(mine.text), OwnLines.of(other.text)
    if ours is None or theirs is None:
        return None
    added: dict[str, list[str]] = {}
    for (table, key), value in merged.items():
        if mine.flat.get((table, key), MISSING) == value:
            continue
        line = theirs.line(table, key)
        if other.flat.get((table, key), MISSING) != value or line is None or table not in ours:
            return None
        if ours.line(table, key) is None:
            added.setdefault(table, []).append(line)
        else:
            ours.put(table, key, line)
    for table, key in mine.flat:
        if (table, key) in merged:
            continue
        if ours.line(table, key) is None:
            return None
        ours.put(table, key, None)
    for table, lines in added.items():
        ours.add(table, lines)
    return ours.text()


def _remove(
    document: Any, had: Iterable[tuple[str, str]], left: Mapping[tuple[str, str], Any]
) -> None:
    """Removes from a document what it had and what is not left in the merge."""
    had = list(had)
    for table, key in had:
        if key and (table, key) not in left:
            del (document[table] if table else document)[key]
    # A table goes once nothing of it is left, and only if a side took it out.
    kept = {table for table, _ in left}
    for table, key in had:
        if table and not key and table not in kept:
            del document[table]


def _decision(key: tuple[str, str]) -> str | None:
    """The command that a key of a scheme decides on: it has keys, or is left without any, and never both."""
    table, command = key
    if command and table in ("assign", "keyless"):
        return command
    return None


def _csv(
    path: str, base: bytes | None, ours: bytes, theirs: bytes, resolve: Callable[[Conflict], str]
) -> FileMerge:
    """Rows by their id, cell by cell; the columns of both sides."""
    first = _text(path, ours).split("\n", 1)[0]
    _, before = _cells(path, _text(path, base or b""))
    our_head, mine = _cells(path, _text(path, ours))
    their_head, other = _cells(path, _text(path, theirs))
    merged = merge(before, mine, other, resolve, lambda cell: cell[0])
    columns = list(dict.fromkeys((*our_head, *their_head)))
    rows: dict[str, dict[str, str]] = {}
    for (id_, column), value in merged.values.items():
        if column == "":
            rows.setdefault(id_, {"id": id_})
        else:
            rows.setdefault(id_, {"id": id_})[column] = value
    text = io.StringIO()
    text.write(first + "\n")
    writer = csv.writer(text, lineterminator="\n")
    writer.writerow(columns)
    for row in rows.values():
        writer.writerow([row.get(column, "") for column in columns])
    return FileMerge(text.getvalue().encode(), merged.conflicts)


def _cells(path: str, text: str) -> tuple[list[str], dict[tuple[str, str], str]]:
    reader = each_row(text.partition("\n")[2], path)
    head = [cell.strip() for cell in next(reader, [])]
    if text and "id" not in head:
        raise UserError("The column “id” is missing.", file=path, line=2)
    found: dict[tuple[str, str], str] = {}
    for row in reader:
        cells = dict(zip(head, row, strict=False))
        id_ = cells.get("id", "")
        if not id_:
            continue
        found[id_, ""] = "row"
        found.update({(id_, name): cell for name, cell in cells.items() if name != "id" and cell})
    return head, found
