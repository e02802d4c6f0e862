"""Writes a scheme as TOML, and edits one so that a person's comments and order stay."""

import re
from collections.abc import Iterable, Mapping
from typing import Any

from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.reading import MOST_TYPED, read_trigger
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme
from olive_compass.desk.formats.scheme_file import FORMAT, TABLES
from olive_compass.desk.older import current
from olive_compass.desk.texts.own_lines import OwnLines
from olive_compass.desk.texts.toml_editor import TomlEditor, as_written, put_quoted, with_top
from olive_compass.desk.texts.toml_text import line_end, quoted
from olive_compass.structs import replace


def new_text(scheme: Scheme) -> bytes:
    """The file of a scheme that has none yet."""
    head = f'format = "{FORMAT}"\napp = {quoted(scheme.app)}\nlayer = "{scheme.layer}"\n'
    if scheme.project:
        head += f"project = {quoted(scheme.project)}\n"
    head += f"based-on = {quoted(scheme.based_on)}\n"
    empty = replace(scheme, assign={}, keyless={}, mute={}, guard={}, accept={}, order={})
    return edited(head.encode(), empty, scheme, "")


def with_base(data: bytes, based_on: str) -> bytes:
    """The file of a scheme that is based on something else."""
    return with_top(data, "based-on", based_on)


def edited(data: bytes, before: Scheme, after: Scheme, file: str) -> bytes:
    """The file of ``before`` with the decisions in which ``after`` differs put in."""
    text = current(data).decode("utf-8-sig")
    quick = quick_edit(text, before, after)
    if quick is not None:
        return quick.encode()
    return _slow_edit(text, before, after, file)


def quick_edit(text: str, before: Scheme, after: Scheme) -> str | None:
    """The edited text where all that it touches is in our own form, line by line; else None.

    It does what the full editor does, without reading the rest: most files are as we wrote them,
    and the full editor is a hundred times slower.
    """
    lines = OwnLines.of(text, TABLES)
    if lines is None:
        return None
    for table in TABLES:
        old = {str(key): value for key, value in getattr(before, table).items()}
        new = {str(key): value for key, value in getattr(after, table).items()}
        if not _put_lines(lines, table, old, new):
            return None
    return lines.text()


def _put_lines(lines: OwnLines, table: str, old: Mapping[str, Any], new: Mapping[str, Any]) -> bool:
    """Puts in what of a table is new, other or gone; False where the file has it otherwise."""
    if old and table not in lines:
        return False
    added = []
    for key in dict.fromkeys((*old, *new)):
        if old.get(key) == new.get(key):
            continue
        line = None
        if key in new:
            line = f"{quoted(key)} = {_value_text(new[key])}"
        now = lines.line(table, key)
        if key not in old:
            if now is not None:
                return False
            added.append(line or "")
            continue
        # A line that a person wrote otherwise is for the editor that keeps all of it.
        if now != f"{quoted(key)} = {_value_text(old[key])}":
            return False
        lines.put(table, key, line)
    lines.add(table, added)
    return True


def _slow_edit(text: str, before: Scheme, after: Scheme, file: str) -> bytes:
    """The edited text of any file, by an editor that keeps comments and order."""
    newline = line_end(text)
    text = text.replace("\r\n", "\n")
    for table in TABLES:
        if getattr(after, table) and not re.search(rf"(?m)^\s*\[\s*{table}\s*\]", text):
            # Put in as text: the editor would begin a new table without an empty line before it.
            text = text.rstrip("\n") + f"\n\n[{table}]\n"
    editor = TomlEditor(text, file)
    document = editor.document
    for table in TABLES:
        old = {str(key): value for key, value in getattr(before, table).items()}
        new = {str(key): value for key, value in getattr(after, table).items()}
        names = _names_in(document.get(table, {}), table)
        for key in old.keys() - new.keys():
            for name in names.get(key, []):
                del document[table][name]
        for key, value in new.items():
            if old.get(key) != value:
                # A key that a person wrote in another spelling keeps it: the line is changed, not replaced.
                name = names.get(key, [key])[0]
                _put(document[table], name, as_written(_value_text(value)))
    return editor.data.replace(b"\n", newline.encode())


def _names_in(table: Any, kind: str) -> dict[str, list[str]]:
    """How the file spells each key: a trigger may be written in another way than ours."""
    names: dict[str, list[str]] = {}
    for name in table:
        plain = name
        if kind in ("mute", "guard", "order"):
            try:
                plain = str(read_trigger(name, typed=MOST_TYPED))
            except TriggerError:
                continue
        names.setdefault(plain, []).append(name)
    return names


def _put(table: Any, name: str, value: Any) -> None:
    """Sets a value; where an inline table stays one, only the fields that differ are touched."""
    old = table.get(name)
    if isinstance(old, dict) and isinstance(value, dict):
        for field in [field for field in old if field not in value]:
            del old[field]
        for field, new in value.items():
            if old.get(field) != new:
                old[field] = new
    else:
        put_quoted(table, name, value)


def _decision_text(value: Decision) -> str:
    """A decision as a table; nothing but its reason is, as a person would write it, a text by itself."""
    if value == Decision(why=value.why):
        return quoted(value.why)
    parts = []
    if value.keeps:
        parts = [f"keeps = {quoted(value.keeps)}"]
    if value.never:
        parts.append(f"never = {quoted(value.never)}")
    if value.away:
        parts.append(f"away = {quoted(str(value.away))}")
    if value.modes != (ROOT,):
        parts.append(f"modes = {_list(value.modes)}")
    return f"{{ {', '.join([*parts, f'why = {quoted(value.why)}'])} }}"


def _value_text(value: Any) -> str:
    """Assignments or a decision as the shortest TOML that says it all."""
    if isinstance(value, Decision):
        return _decision_text(value)
    if value and isinstance(value[0], str):
        return _list(value)
    if len(value) == 1:
        return _assignment(value[0], short=True)
    items = "".join(f"  {_assignment(each, short=False)},\n" for each in value)
    return f"[\n{items}]"


def _assignment(each: Assignment, short: bool) -> str:
    if short and each == Assignment(keys=each.keys):
        if len(each.keys) == 1:
            return quoted(str(each.keys[0]))
        return _list(each.keys)
    parts = [f"keys = {_list(each.keys)}"]
    if each.modes != (ROOT,):
        parts.append(f"modes = {_list(each.modes)}")
    if each.why:
        parts.append(f"why = {quoted(each.why)}")
    if each.slot:
        parts.append(f"slot = {quoted(each.slot)}")
    if each.instead:
        parts.append("instead = true")
    return f"{{ {', '.join(parts)} }}"


def _list(values: Iterable[object]) -> str:
    return f"[{', '.join(quoted(str(value)) for value in values)}]"
