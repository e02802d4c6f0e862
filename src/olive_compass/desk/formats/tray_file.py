"""Reads and writes ``trays/<app>.toml``: the trays of an application, a table a layer and tray."""

from collections.abc import Mapping
from typing import Any

from olive_compass.core.apps.trays import FILLS, Group, Tray
from olive_compass.core.schemes.layers import SCHEME_LAYERS
from olive_compass.core.trays.counting import BESIDE, FIRST, LAST
from olive_compass.desk.storage.plain_file import text_of
from olive_compass.desk.texts.toml_text import check_fields, editable, load, put, refuse_all

FORMAT = "olive-compass-trays/1"

_TRAY: dict[str, type | tuple[type, ...]] = {
    "title": str,
    "kind": str,
    "place": str,
    "letter": str,
    "off": bool,
    "why": str,
    "project": str,
    "fill": str,
    "most": int,
    "modes": list,
    "items": list,
    "groups": dict,
}

#: What is wrong in a file: the table, the key in it, and the sentence.
Problems = list[tuple[str, str, str]]


def tray_path(app: str) -> str:
    return f"trays/{app}.toml"


def table_of(tray: Tray) -> str:
    """The table of the file in which a tray stands."""
    return f"{tray.layer}.{tray.name}"


def read(data: bytes, file: str, app: str) -> list[Tray]:
    """The trays in a file, all layers; raises ``UserError`` with all its mistakes and their lines."""
    content = load(data, file, FORMAT)
    layers = {str(layer): dict for layer in SCHEME_LAYERS}
    top: dict[str, type | tuple[type, ...]] = {"format": str, "app": str, **layers}
    problems: Problems = [("", *each) for each in check_fields(content, top, "a file of trays")]
    if content.get("app", app) != app:
        says = f"These trays are for “{content['app']}”, but they lie with those of {app}."
        problems.append(("", "app", says))
    found = []
    for layer in layers:
        tables = content.get(layer, {})
        for name, table in (tables if isinstance(tables, dict) else {}).items():
            where = f"{layer}.{name}"
            if not isinstance(table, dict):
                problems.append((layer, name, f"“{name}” is no table of a tray."))
                continue
            wrong = _wrong(table, where)
            problems += wrong
            if not wrong:
                found.append(_tray(app, name, layer, table))
    refuse_all(problems, data, file)
    return found


def _wrong(table: Mapping[str, Any], where: str) -> Problems:
    problems: Problems = [(where, *each) for each in check_fields(table, _TRAY, "a tray")]
    # What is of the wrong type is said first: the questions below take the types for granted.
    if problems:
        return problems
    if not table.get("kind"):
        problems.append((where, "", "A tray has a kind, such as “tab”."))
    word, _, name = table.get("place", LAST).partition(" ")
    if (word not in (FIRST, LAST) or name) and (word not in BESIDE or not name):
        says = f"“{table['place']}” is no place: first, last, before MENU or after MENU."
        problems.append((where, "place", says))
    if table.get("fill", "") not in ("", *FILLS):
        problems.append((where, "fill", f"“fill” is one of {', '.join(FILLS)}."))
    if len(table.get("letter", "")) > 1:
        problems.append((where, "letter", "“letter” is one letter."))
    lists = [(where, key, table.get(key, [])) for key in ("items", "modes")]
    lists += [(f"{where}.groups", title, items) for title, items in table.get("groups", {}).items()]
    for at, key, values in lists:
        if not isinstance(values, list) or not all(isinstance(each, str) for each in values):
            problems.append((at, key, f"“{key}” is a list of texts."))
    return problems


def _tray(app: str, name: str, layer: str, table: Mapping[str, Any]) -> Tray:
    loose = [Group("", tuple(table["items"]))] if table.get("items") else []
    groups = [Group(title, tuple(items)) for title, items in table.get("groups", {}).items()]
    return Tray(
        app=app,
        name=name,
        title=table.get("title", name),
        layer=layer,
        kind=table["kind"],
        groups=(*loose, *groups),
        place=table.get("place", LAST),
        off=table.get("off", False),
        why=table.get("why", ""),
        project=table.get("project", ""),
        fill=table.get("fill", ""),
        most=table.get("most", 0),
        modes=tuple(table.get("modes", [])),
        letter=table.get("letter", "").upper(),
    )


def edited(data: bytes | None, app: str, before: Tray | None, after: Tray | None) -> bytes | None:
    """The file in which ``before`` (None: it is new) is ``after`` (None: it goes), both of one layer.

    What stays keeps its line and the comments beside it. None comes back where no tray is left.
    """
    import tomlkit

    if data is None:
        head = f'format = "{FORMAT}"\napp = "{app}"\n'
        document: Any = editable(head)
    else:
        document = editable(text_of(data))
    if before is not None and after is None:
        document[before.layer].pop(before.name)
        if not document[before.layer]:
            document.pop(before.layer)
    if after is None:
        left = any(str(layer) in document for layer in SCHEME_LAYERS)
        return tomlkit.dumps(document).encode() if left else None
    _put(document, before, after)
    return tomlkit.dumps(document).encode()


def _put(document: Any, before: Tray | None, after: Tray) -> None:
    """Gives the tray's table the values of ``after``, touching only what differs."""
    import tomlkit

    if after.layer not in document:
        document[after.layer] = tomlkit.table(is_super_table=True)
    if after.name not in document[after.layer]:
        document[after.layer][after.name] = tomlkit.table()
    table = document[after.layer][after.name]
    old, new = (_values(each) if each else {} for each in (before, after))
    for key, value in new.items():
        if old.get(key) == value and key in table:
            continue
        if isinstance(value, list) and key in table:
            _edit_list(table[key], value)
        else:
            put(table, key, _list(value) if isinstance(value, list) else value)
    for key in old.keys() - new.keys():
        table.pop(key, None)
    _put_groups(table, after)


def _put_groups(table: Any, after: Tray) -> None:
    import tomlkit

    wanted = {group.title: list(group.items) for group in after.groups if group.title}
    if not wanted:
        table.pop("groups", None)
        return
    if "groups" not in table:
        table["groups"] = tomlkit.table()
    groups = table["groups"]
    _in_order(groups, wanted)
    for name in [name for name in groups if name not in wanted]:
        groups.pop(name)
    for name, items in wanted.items():
        if name not in groups:
            _put_group(groups, name, list(wanted), items)
        elif list(groups[name]) != items:
            _edit_list(groups[name], items)


def _in_order(groups: Any, wanted: Mapping[str, list[str]]) -> None:
    """Puts the groups that stay in the order of ``wanted``."""
    if [name for name in wanted if name in groups] != [name for name in groups if name in wanted]:
        # In another order: the lines go over as they are, comments within a list included.
        kept = {name: groups.pop(name) for name in list(groups)}
        for name in wanted:
            groups[name] = kept.get(name, _list([]))


def _put_group(groups: Any, name: str, names: list[str], items: list[str]) -> None:
    """Puts a new group where it stands among ``names``."""
    if all(later not in groups for later in names[names.index(name) + 1 :]):
        put(groups, name, _list(items))
        return
    # What comes after it is taken out and put in again: a table knows no place but its end.
    kept = {each: groups.pop(each) for each in list(groups)}
    for each in names:
        if each in kept or each == name:
            groups[each] = kept.get(each, _list(items))


def _values(tray: Tray) -> dict[str, Any]:
    """What stands in the tray's table, its groups left out; what is as it is by itself is not written."""
    loose = next((list(group.items) for group in tray.groups if not group.title), [])
    fields: dict[str, Any] = {
        "title": tray.title,
        "kind": tray.kind,
        "place": tray.place,
        "letter": tray.letter,
        "off": tray.off,
        "why": tray.why,
        "project": tray.project,
        "fill": tray.fill,
        "most": tray.most,
        "modes": list(tray.modes),
        "items": loose,
    }
    return {key: value for key, value in fields.items() if value or key in ("title", "kind")}


#: How long a list on one line may be.
_WIDE = 80


def _list(values: list[str]) -> Any:
    """A list of texts, a line each where they are many."""
    import tomlkit

    array = tomlkit.array()
    array.extend(values)
    if len(array.as_string()) > _WIDE:
        array.multiline(True)
    return array


def _edit_list(array: Any, wanted: list[str]) -> None:
    """Turns a list into another by as few steps as it takes, so that comments in it stay."""
    import difflib

    now = [str(each) for each in array]
    for what, a, b, c, d in reversed(
        difflib.SequenceMatcher(None, now, wanted, autojunk=False).get_opcodes()
    ):
        if what == "equal":
            continue
        for place in reversed(range(a, b)):
            del array[place]
        for place, value in enumerate(wanted[c:d]):
            array.insert(a + place, value)
    if len(array.as_string()) > _WIDE and "\n" not in array.as_string():
        array.multiline(True)
