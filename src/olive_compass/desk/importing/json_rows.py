"""JSON (a list of objects, or objects by id, or by group) and JSON Lines."""

import json
from typing import Any

from olive_compass.core.apps.listing_result import SetAside
from olive_compass.core.apps.listing_row import Row
from olive_compass.core.keys.written_cells import JOIN
from olive_compass.core.plain import lines_of
from olive_compass.desk.importing.line_pairs import is_keys
from olive_compass.desk.importing.source import MOST_COLUMNS, Read, Source, too_wide
from olive_compass.desk.texts.json_text import loads, without_comments
from olive_compass.errors import UserError
from olive_compass.structs import replace

SUFFIXES = (".json", ".jsonl", ".ndjson")


def suits(source: Source) -> bool:
    text = source.text.lstrip("\ufeff \t\r\n")
    return text[:1] in ("{", "[") or (source.path.endswith(SUFFIXES) and text[:2] in ("//", "/*"))


def read(source: Source) -> Read:
    """The rows: JSON Lines count lines, JSON counts entries from 1."""
    text = source.text.lstrip("\ufeff")
    try:
        whole = loads(text)
    except json.JSONDecodeError as error:
        lines = [line for line in lines_of(text) if line.strip()]
        if len(lines) > 1 and lines[0].strip()[:1] == "{" and lines[0].strip()[-1:] == "}":
            return _lines(text, source.path)
        plain = without_comments(text)
        if plain != text:
            return read(replace(source, text=plain))
        raise UserError(
            f"This is not JSON: {error.msg}.", file=source.path, line=error.lineno
        ) from error
    except ValueError as error:
        raise UserError(f"This JSON cannot be read: {error}.", file=source.path) from error
    return rows_of(whole, source.path, "JSON")


def rows_of(whole: Any, file: str, form: str) -> Read:
    """The rows of nested values, whatever form of file (``form``) they came in."""
    if isinstance(whole, dict) and all(
        not isinstance(value, (dict, list)) for value in whole.values()
    ):
        whole = {key: {"keys": value} for key, value in whole.items()}
    entries = _entries(whole)
    if not entries:
        raise UserError(f"This {form} holds no list of commands.", file=file)
    if _keys_are_names(entries):
        turned = {"title": "keys", "id": "keys", "keys": "title"}
        entries = [
            {turned.get(name, name): value for name, value in each.items()} for each in entries
        ]
    read = _table([(n, entry) for n, entry in enumerate(entries, 1)], (), file)
    return replace(read, note=form)


def _keys_are_names(entries: list[dict[str, Any]]) -> bool:
    """Whether values have keys as their names, and commands as values: ``{"Ctrl+S": "Save"}``."""
    pairs = [each for each in entries if each.keys() <= {"title", "id", "menu", "keys"}]
    names = sum(is_keys(str(each.get("title") or each.get("id") or "")) for each in pairs)
    values = sum(is_keys(str(each.get("keys") or "")) for each in pairs)
    return names * 2 > len(entries) and values < names


def _lines(text: str, file: str) -> Read:
    entries = []
    aside = []
    for number, line in enumerate(lines_of(text), 1):
        if not line.strip():
            continue
        try:
            entry = loads(line)
        except ValueError:
            entry = None
        if isinstance(entry, dict):
            entries.append((number, entry))
        else:
            aside.append(SetAside(line=number, what="row", why="it is no JSON object", text=line))
    return _table(entries, tuple(aside), file)


def _entries(value: Any, group: str = "", depth: int = 0) -> list[dict[str, Any]]:
    """The objects that stand for commands, wherever the listing keeps them."""
    found: list[dict[str, Any]] = []
    if depth > 6:
        return found
    if isinstance(value, list):
        for item in value:
            found += _entries_of_item(item, group, depth)
        return found
    if not isinstance(value, dict):
        return found
    lists = {key: inner for key, inner in value.items() if _is_list_of_things(inner)}
    if not lists:
        for key, inner in value.items():
            found += _entries_under(key, inner, group, depth)
        return found
    # What stands beside a list of things is about the whole; one list alone is no menu.
    named = len(lists) > 1 and depth > 0
    for key, inner in lists.items():
        found += _entries(inner, key if named else "", depth + 1)
    return found


def _entries_under(key: str, inner: Any, group: str, depth: int) -> list[dict[str, Any]]:
    """What stands under a key: an object, or the keys of the command that it names."""
    if isinstance(inner, dict):
        return _entries_of_object(key, inner, group, depth)
    if depth > 0 and (inner is None or isinstance(inner, str)):
        return [{"title": key, "keys": inner, **_menu(group)}]
    return []


def _entries_of_object(
    key: str, inner: dict[str, Any], group: str, depth: int
) -> list[dict[str, Any]]:
    """What stands under a key: a command, of which the key is the id, or a menu with commands."""
    if any(_is_field(name) and not isinstance(part, dict) for name, part in inner.items()):
        return [{"id": key, **_menu(group), **inner}]
    return _entries(inner, f"{group} > {key}" if group else key, depth + 1)


def _menu(group: str) -> dict[str, str]:
    """The field that says in which menu a command is, none where that is not known."""
    if group:
        return {"menu": group}
    return {}


def _entries_of_item(item: Any, group: str, depth: int) -> list[dict[str, Any]]:
    if not isinstance(item, dict):
        return []
    if any(map(_is_list_of_things, item.values())):
        item = {key: _keys_alone(key, value) for key, value in item.items()}
    nested = [value for value in item.values() if _is_list_of_things(value)]
    if not nested:
        return [{**_menu(group), **item}]
    name = next((str(v) for v in item.values() if isinstance(v, str)), group)
    found = []
    for value in nested:
        found += _entries(value, name, depth + 1)
    return found


def _is_list_of_things(value: Any) -> bool:
    return isinstance(value, list) and any(isinstance(part, dict) for part in value)


def _keys_alone(name: str, value: Any) -> Any:
    """A list of keys, each with what is known of it, as the keys alone."""
    if not _is_list_of_things(value) or not _is_keys(name):
        return value
    inner = [[v for key, v in part.items() if _is_keys(key)] for part in value]
    if all(inner):
        return [found[0] for found in inner if found]
    return value


def _is_keys(name: str) -> bool:
    from olive_compass.core.apps.headings import WORDS

    return name.lower() in WORDS["keys"]


def _is_field(name: str) -> bool:
    from olive_compass.core.apps.headings import WORDS

    return any(name.lower() in words for words in WORDS.values())


def _table(
    entries: list[tuple[int, dict[str, Any]]], aside: tuple[SetAside, ...], file: str
) -> Read:
    known: dict[str, None] = {}
    for number, entry in entries:
        known.update(dict.fromkeys(entry))
        if len(known) > MOST_COLUMNS:
            raise too_wide(file, number)
    names = list(known)
    rows = [Row(line=0, cells=tuple(names))]
    for number, entry in entries:
        rows.append(Row(line=number, cells=tuple(_cell(name, entry.get(name)) for name in names)))
    return Read(rows=rows, set_aside=aside, note="")


def _joiner(name: str) -> str:
    """What stands between the parts of a list of that name."""
    if any(word in name for word in ("menu", "path", "group", "categor")):
        return " > "
    if "mode" in name or "context" in name:
        return ", "
    return JOIN


def _cell(name: str, value: Any) -> str:
    if value is None or value is False:
        return ""
    if isinstance(value, list):
        return _joiner(name.lower()).join(_cell(name, part) for part in value)
    if isinstance(value, dict):
        return " ".join(_cell(name, part) for part in value.values())
    return str(value)
