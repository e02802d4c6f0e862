"""The keys that the operating system takes before any application sees them: ``system.toml``."""

from collections.abc import Mapping
from typing import Any

from msgspec import Struct

from olive_compass.core.keys.reading import TriggerError, read_trigger
from olive_compass.core.keys.triggers import Run
from olive_compass.core.wording import capital
from olive_compass.desk.toml_text import check_fields, load, quoted, refuse_all

FORMAT = "olive-compass-system/1"


class SystemKey(Struct, frozen=True):
    """A key of the operating system: how the file spells it, what it does, and whether it counts."""

    text: str
    trigger: Run
    does: str
    on: bool


def read(data: bytes, file: str) -> dict[Run, str]:
    """The keys that are switched on, with what they do.

    Raises ``Refused`` with all the file's mistakes and their lines.
    """
    return {key.trigger: key.does for key in read_all(data, file) if key.on}


def read_all(data: bytes, file: str) -> list[SystemKey]:
    """Every key of the file, those that are switched off too. Raises ``Refused`` as ``read`` does."""
    content = load(data, file, FORMAT)
    problems = [
        ("", key, text)
        for key, text in check_fields(content, {"format": str, "keys": dict}, "the system's keys")
    ]
    found = []
    for text, value in content.get("keys", {}).items():
        on, does = True, value
        if isinstance(value, dict):
            # Switched off it stays in the file: whoever changes systems wants it back.
            on, does = value.get("on", True), value.get("does", "")
            allowed = {"on": bool, "does": str}
            problems += [("keys", text, p) for _, p in check_fields(value, allowed, f"“{text}”")]
        try:
            run = read_trigger(text)
        except TriggerError as error:
            problems.append(("keys", text, f"{capital(error)}."))
            continue
        found.append(SystemKey(text, run, str(does), bool(on)))
    refuse_all(problems, data, file)
    return found


def new_text(keys: Mapping[str, str]) -> bytes:
    """A file with these keys, all switched on."""
    head = [
        f'format = "{FORMAT}"',
        "",
        "# Keys that the operating system takes before any application sees them.",
        "[keys]",
    ]
    return "\n".join([*head, *(f"{quoted(k)} = {quoted(v)}" for k, v in keys.items()), ""]).encode()


def with_key(data: bytes, text: str, does: str, on: bool) -> bytes:
    """The file in which the key that it spells ``text`` does this, and counts or not."""
    import tomlkit

    document: Any = tomlkit.parse(data.decode("utf-8-sig"))
    if "keys" not in document:
        document["keys"] = tomlkit.table()
    value = does if on else tomlkit.value(f"{{ does = {quoted(does)}, on = false }}")
    document["keys"][text] = value
    return tomlkit.dumps(document).encode()


def without_key(data: bytes, text: str) -> bytes:
    """The file without the key that it spells ``text``."""
    import tomlkit

    document: Any = tomlkit.parse(data.decode("utf-8-sig"))
    del document["keys"][text]
    return tomlkit.dumps(document).encode()
