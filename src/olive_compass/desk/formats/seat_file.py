"""What holds for this seat alone: ``seat.toml``, which git ignores and bundles leave out."""

from collections.abc import Mapping
from types import MappingProxyType
from typing import Any

from msgspec import Struct

from olive_compass.core.keys.keyboards import PLATFORMS
from olive_compass.desk.formats.desk_file import HANDS
from olive_compass.desk.texts.toml_text import check_fields, editable, load, refuse_all

FORMAT = "olive-compass-seat/1"
SEAT_FILE = "seat.toml"

_TOP: dict[str, type | tuple[type, ...]] = {
    "format": str,
    "name": str,
    "platform": str,
    "keyboards": list,
    "hand": str,
    "current": str,
    "licences": dict,
    "files": dict,
    "practice": dict,
}


class SeatFile(Struct, frozen=True, kw_only=True):
    """What the file says; where it says nothing, ``desk.toml`` and ``app.toml`` do.

    ``name`` is who sits here, as the history names them; ``keyboards`` are ``form/layout``, the first
    the one that is meant where one is meant; ``hand`` is the free one; ``current`` the application in
    use; ``licences`` those that this seat has or has not, by application; ``files`` where the
    applications keep their keys here; ``practice`` the box and the day of each command that is practised,
    by application.
    """

    name: str = ""
    platform: str = ""
    keyboards: tuple[str, ...] = ()
    hand: str = ""
    current: str = ""
    licences: Mapping[str, Mapping[str, bool]] = MappingProxyType({})
    files: Mapping[str, str] = MappingProxyType({})
    practice: Mapping[str, Mapping[str, str]] = MappingProxyType({})


def read(data: bytes, file: str = SEAT_FILE) -> SeatFile:
    """The file's content; raises ``UserError`` with all its mistakes and their lines."""
    content = load(data, file, FORMAT)
    problems = [("", key, text) for key, text in check_fields(content, _TOP, "a seat")]
    for name, allowed in (("platform", PLATFORMS), ("hand", HANDS)):
        if name in content and content[name] not in allowed:
            problems.append(("", name, f"“{name}” is one of {', '.join(allowed)}."))
    keyboards = content.get("keyboards", [])
    # That it is no list was said already, with its line.
    keyboards = keyboards if isinstance(keyboards, list) else []
    for each in keyboards:
        if not isinstance(each, str) or each.count("/") != 1:
            problems.append(
                ("", "keyboards", "A keyboard is FORM/LAYOUT, such as iso-laptop/german.")
            )
    files = _table(content, "files")
    problems += [
        ("files", app, f"“{app}” is given as text, the path of its file of keys.")
        for app, path in files.items()
        if not isinstance(path, str)
    ]
    licences = _table(content, "licences")
    problems += [
        ("licences", app, f"“{app}” is given as a table: a licence, and true or false.")
        for app, table in licences.items()
        if not isinstance(table, dict)
    ]
    refuse_all(problems, data, file)
    return SeatFile(
        name=content.get("name", ""),
        platform=content.get("platform", ""),
        keyboards=tuple(keyboards),
        hand=content.get("hand", ""),
        current=content.get("current", ""),
        licences={
            app: {str(k): bool(v) for k, v in table.items()} for app, table in licences.items()
        },
        files=dict(files),
        practice={
            app: {str(k): str(v) for k, v in table.items()}
            for app, table in _table(content, "practice").items()
            if isinstance(table, dict)
        },
    )


def _table(content: Mapping[str, Any], name: str) -> Mapping[str, Any]:
    found = content.get(name, {})
    return found if isinstance(found, dict) else {}


def with_values(data: bytes | None, values: Mapping[str, Any]) -> bytes:
    """The file (None: there is none yet) in which the keys above all tables have these values; an
    empty one goes."""
    import tomlkit

    document: Any = _parsed(data)
    for key, value in values.items():
        if value:
            document[key] = value
        else:
            document.pop(key, None)
    return tomlkit.dumps(document).encode()


def with_value(data: bytes | None, table: str, key: str, value: Any) -> bytes:
    """The file (None: there is none yet) in which ``key`` of ``table`` is ``value``; ``table`` may be
    one within another: ``licences.quillmap``."""
    import tomlkit

    document: Any = _parsed(data)
    place = document
    for name in table.split("."):
        if name not in place:
            place[name] = tomlkit.table()
        place = place[name]
    place[key] = value
    return tomlkit.dumps(document).encode()


def _parsed(data: bytes | None) -> Any:

    return editable(data or f'format = "{FORMAT}"\n')
