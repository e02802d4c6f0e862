"""The keys that operating systems take before any application sees them: ``system.toml``.

A table has the keys of one platform, by its name; the table ``keys`` has those of the platform that
``desk.toml`` states. Only those of the platform of this computer count.
"""

from collections.abc import Container, Iterable, Mapping

from msgspec import Struct

from olive_compass.core.keys.keyboards import PLATFORMS
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.keys.triggers import Run
from olive_compass.core.wording import capital
from olive_compass.desk.texts.toml_text import check_fields, editable, load, quoted, refuse_all

FORMAT = "olive-compass-system/1"


#: The table of the platform that the desk states.
STATED = "keys"


class SystemKey(Struct, frozen=True, kw_only=True):
    """A key of the operating system: how the file spells it, what it does, whether it counts, and in which
    table it stands."""

    text: str
    trigger: Run
    does: str
    on: bool
    table: str = STATED


def tables_of(platform: str, stated: str) -> tuple[str, ...]:
    """The tables that count on a computer of ``platform``, on a desk that states ``stated``."""
    return (platform, STATED) if platform == stated else (platform,)


def read(data: bytes, file: str, tables: Container[str] = (STATED,)) -> dict[Run, str]:
    """The keys of some tables that are switched on, with what they do.

    Raises ``UserError`` with all the file's mistakes and their lines.
    """
    keys = read_all(data, file)
    return {key.trigger: key.does for key in keys if key.on and key.table in tables}


def read_all(data: bytes, file: str) -> list[SystemKey]:
    """Every key of the file, those that are switched off too. Raises ``UserError`` as ``read`` does."""
    content = load(data, file, FORMAT)
    allowed = {"format": str, STATED: dict, **dict.fromkeys(PLATFORMS, dict)}
    problems = [
        ("", key, text) for key, text in check_fields(content, allowed, "the system's keys")
    ]
    found = []
    for table in (*PLATFORMS, STATED):
        keys = content.get(table, {})
        for text, value in keys.items() if isinstance(keys, dict) else ():
            key, wrong = _key(table, text, value)
            problems += wrong
            if key is not None:
                found.append(key)
    refuse_all(problems, data, file)
    return found


def _key(
    table: str, text: str, value: object
) -> tuple[SystemKey | None, list[tuple[str, str, str]]]:
    """A key of a table, and what is wrong with it."""
    on, does = True, value
    problems = []
    if isinstance(value, dict):
        # Switched off it stays in the file: whoever changes systems wants it back.
        on, does = value.get("on", True), value.get("does", "")
        allowed = {"on": bool, "does": str}
        problems = [(table, text, p) for _, p in check_fields(value, allowed, f"“{text}”")]
    try:
        return SystemKey(
            text=text, trigger=read_trigger(text), does=str(does), on=bool(on), table=table
        ), problems
    except TriggerError as error:
        return None, [*problems, (table, text, f"{capital(error)}.")]


def new_text(keys: Mapping[str, str], platform: str = STATED) -> bytes:
    """A file with these keys of a platform, all switched on."""
    head = [
        f'format = "{FORMAT}"',
        "",
        "# Keys that the operating system takes before any application sees them.",
        f"[{platform}]",
    ]
    return "\n".join([*head, *(f"{quoted(k)} = {quoted(v)}" for k, v in keys.items()), ""]).encode()


def with_key(data: bytes, text: str, does: str, on: bool, table: str = STATED) -> bytes:
    """The file in which the key that its table spells ``text`` does this, and counts or not."""
    import tomlkit

    document = editable(data)
    if table not in document:
        document[table] = tomlkit.table()
    value = does if on else tomlkit.value(f"{{ does = {quoted(does)}, on = false }}")
    document[table][text] = value
    return tomlkit.dumps(document).encode()


def without_key(data: bytes, text: str, table: str = STATED) -> bytes:
    """The file without the key that its table spells ``text``."""
    import tomlkit

    document = editable(data)
    del document[table][text]
    return tomlkit.dumps(document).encode()


def with_platform(data: bytes, platform: str, keys: Iterable[SystemKey]) -> bytes:
    """The file with the keys of one more platform, or of one in the place of those that it has."""
    import tomlkit

    document = editable(data)
    if platform in document:
        del document[platform]
    written = tomlkit.dumps(document).encode()
    for key in keys:
        written = with_key(written, key.text, key.does, key.on, platform)
    return written
