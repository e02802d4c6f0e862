"""What holds for this seat alone: ``seat.toml``, which git ignores and bundles leave out."""

from collections.abc import Mapping
from types import MappingProxyType
from typing import Any, NamedTuple

from olive_compass.desk.toml_text import check_fields, load, refuse_all

FORMAT = "olive-compass-seat/1"
SEAT_FILE = "seat.toml"

_TOP: dict[str, type | tuple[type, ...]] = {"format": str, "current": str, "files": dict}


class SeatFile(NamedTuple):
    """What the file says: the application in use (``""``: none), and where the applications keep their
    keys here, by application."""

    current: str = ""
    files: Mapping[str, str] = MappingProxyType({})


def read(data: bytes, file: str = SEAT_FILE) -> SeatFile:
    """The file's content; raises ``Refused`` with all its mistakes and their lines."""
    content = load(data, file, FORMAT)
    problems = [("", key, text) for key, text in check_fields(content, _TOP, "a seat")]
    files = content.get("files", {})
    files = files if isinstance(files, dict) else {}
    problems += [
        ("files", app, f"“{app}” is given as text, the path of its file of keys.")
        for app, path in files.items()
        if not isinstance(path, str)
    ]
    refuse_all(problems, data, file)
    return SeatFile(content.get("current", ""), dict(files))


def with_value(data: bytes | None, table: str, key: str, value: str) -> bytes:
    """The file (None: there is none yet) in which ``key`` of ``table`` is ``value``."""
    import tomlkit

    document: Any = tomlkit.parse((data or f'format = "{FORMAT}"\n'.encode()).decode("utf-8-sig"))
    if table not in document:
        document[table] = tomlkit.table()
    document[table][key] = value
    return tomlkit.dumps(document).encode()


def with_top_value(data: bytes | None, key: str, value: str) -> bytes:
    """The file (None: there is none yet) in which ``key`` above all tables is ``value``; ``""``: it
    goes."""
    import tomlkit

    document: Any = tomlkit.parse((data or f'format = "{FORMAT}"\n'.encode()).decode("utf-8-sig"))
    if value:
        document[key] = value
    else:
        document.pop(key, None)
    return tomlkit.dumps(document).encode()
