"""Reads and writes ``trays/<app>.toml``: the trays of an application, a table a layer and tray."""

from collections.abc import Mapping
from typing import Annotated, Any, Literal

from olive_compass.core.apps.trays import Fill, Group, Tray
from olive_compass.core.schemes.layers import SCHEME_LAYERS
from olive_compass.core.trays.counting import BESIDE, FIRST, LAST
from olive_compass.desk.texts.schemas import Format, Mistake, Texts, fitted, saying
from olive_compass.desk.texts.toml_editor import WIDE, TomlEditor, listed
from olive_compass.desk.texts.toml_text import load, refuse

FORMAT = "olive-compass-trays/1"

_KIND = "A tray has a kind, such as “tab”."
_TRAY = saying("“{key}” is no table of a tray.", lacks=_KIND)


class TrayTable(Format, frozen=True, kw_only=True):
    """A tray as one layer has it."""

    kind: Annotated[str, saying(_KIND, min_length=1)]
    title: str = ""
    place: str = LAST
    letter: Annotated[str, saying("“letter” is one letter.", max_length=1)] = ""
    off: bool = False
    why: str = ""
    project: str = ""
    fill: Fill | Literal[""] = ""
    most: int = 0
    modes: Texts = ()
    items: Texts = ()
    groups: Mapping[str, Texts] = {}


class TraysTable(Format, frozen=True, kw_only=True):
    """The trays of an application, by layer and name."""

    format: Literal["olive-compass-trays/1"]
    app: str = ""
    project: Mapping[str, Annotated[TrayTable, _TRAY]] = {}
    personal: Mapping[str, Annotated[TrayTable, _TRAY]] = {}
    house: Mapping[str, Annotated[TrayTable, _TRAY]] = {}


def tray_path(app: str) -> str:
    return f"trays/{app}.toml"


def table_of(tray: Tray) -> str:
    """The table of the file in which a tray stands."""
    return f"{tray.layer}.{tray.name}"


def read(data: bytes, file: str, app: str) -> list[Tray]:
    """The trays in a file, all layers; raises ``UserError`` with all its mistakes and their lines."""
    said, mistakes = fitted(load(data, file, FORMAT), TraysTable, "a file of trays")
    if said.app not in ("", app):
        says = f"These trays are for “{said.app}”, but they lie with those of {app}."
        mistakes.append(Mistake(("app",), says))
    found = []
    for layer in map(str, SCHEME_LAYERS):
        for name, table in getattr(said, layer).items():
            if not _is_place(table.place):
                says = f"“{table.place}” is no place: first, last, before MENU or after MENU."
                mistakes.append(Mistake((layer, name, "place"), says))
            found.append(_tray(app, name, layer, table))
    refuse(mistakes, data, file)
    return found


def _is_place(place: str) -> bool:
    word, _, name = place.partition(" ")
    if name:
        return word in BESIDE
    return word in (FIRST, LAST)


def _tray(app: str, name: str, layer: str, table: TrayTable) -> Tray:
    loose = []
    if table.items:
        loose = [Group("", table.items)]
    groups = [Group(title, items) for title, items in table.groups.items()]
    return Tray(
        app=app,
        name=name,
        title=table.title or name,
        layer=layer,
        kind=table.kind,
        groups=(*loose, *groups),
        place=table.place,
        off=table.off,
        why=table.why,
        project=table.project,
        fill=table.fill,
        most=table.most,
        modes=table.modes,
        letter=table.letter.upper(),
    )


def edited(data: bytes | None, app: str, before: Tray | None, after: Tray | None) -> bytes | None:
    """The file in which ``before`` (None: it is new) is ``after`` (None: it goes), both of one layer.

    What stays keeps its line and the comments beside it. None comes back where no tray is left.
    """
    editor = TomlEditor(data or f'format = "{FORMAT}"\napp = "{app}"\n')
    if after is not None:
        _put(editor, before, after)
        return editor.data
    if before is not None:
        editor.remove(before.layer, before.name)
        if not editor.value(before.layer):
            editor.remove(before.layer)
    left = any(editor.value(layer) for layer in SCHEME_LAYERS)
    if left:
        return editor.data
    return None


def _put(editor: TomlEditor, before: Tray | None, after: Tray) -> None:
    """Gives the tray's table the values of ``after``, touching only what differs."""
    path = (after.layer, after.name)
    table = editor.table(*path)
    old, new = (_values(each) if each else {} for each in (before, after))
    for key, value in new.items():
        if old.get(key) == value and key in table:
            continue
        if isinstance(value, list) and key in table:
            _edit_list(table[key], value)
        else:
            editor.put((*path, key), listed(value) if isinstance(value, list) else value)
    for key in old.keys() - new.keys():
        editor.remove(*path, key)
    _put_groups(editor, path, after)


def _put_groups(editor: TomlEditor, tray: tuple[str, str], after: Tray) -> None:
    wanted = {group.title: list(group.items) for group in after.groups if group.title}
    if not wanted:
        editor.remove(*tray, "groups")
        return
    path = (*tray, "groups")
    groups = editor.table(*path)
    _in_order(groups, wanted)
    for name in [name for name in groups if name not in wanted]:
        groups.pop(name)
    for name, items in wanted.items():
        if name not in groups:
            _put_group(editor, path, name, list(wanted), items)
        elif list(groups[name]) != items:
            _edit_list(groups[name], items)


def _in_order(groups: Any, wanted: Mapping[str, list[str]]) -> None:
    """Puts the groups that stay in the order of ``wanted``."""
    if [name for name in wanted if name in groups] != [name for name in groups if name in wanted]:
        # In another order: the lines go over as they are, comments within a list included.
        kept = {name: groups.pop(name) for name in list(groups)}
        for name in wanted:
            groups[name] = kept.get(name, listed([]))


def _put_group(
    editor: TomlEditor, path: tuple[str, ...], name: str, names: list[str], items: list[str]
) -> None:
    """Puts a new group where it stands among ``names``."""
    groups = editor.table(*path)
    if all(later not in groups for later in names[names.index(name) + 1 :]):
        editor.put((*path, name), listed(items))
        return
    # What comes after it is taken out and put in again: a table knows no place but its end.
    kept = {each: groups.pop(each) for each in list(groups)}
    for each in names:
        if each in kept or each == name:
            groups[each] = kept.get(each, listed(items))


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


def _edit_list(array: Any, wanted: list[str]) -> None:
    """Turns a list into another by as few steps as it takes, so that comments in it stay."""
    import difflib

    now = list(map(str, array))
    for what, a, b, c, d in reversed(
        difflib.SequenceMatcher(None, now, wanted, autojunk=False).get_opcodes()
    ):
        if what == "equal":
            continue
        for place in reversed(range(a, b)):
            del array[place]
        for place, value in enumerate(wanted[c:d]):
            array.insert(a + place, value)
    if len(array.as_string()) > WIDE and "\n" not in array.as_string():
        array.multiline(True)
