"""The keys that the operating system takes before any application sees them: ``system.toml``."""

from olive_compass.core.keys.reading import TriggerError, read_trigger
from olive_compass.core.keys.triggers import Run
from olive_compass.core.wording import capital
from olive_compass.desk.toml_text import check_fields, load, refuse_all

FORMAT = "olive-compass-system/1"


def read(data: bytes, file: str) -> dict[Run, str]:
    """The keys that are switched on, with what they do.

    Raises ``Refused`` with all the file's mistakes and their lines.
    """
    content = load(data, file, FORMAT)
    problems = [
        ("", key, text)
        for key, text in check_fields(content, {"format": str, "keys": dict}, "the system's keys")
    ]
    found = {}
    for text, value in content.get("keys", {}).items():
        on, does = True, value
        if isinstance(value, dict):
            on, does = value.get("on", True), value.get("does", "")
            allowed = {"on": bool, "does": str}
            problems += [("keys", text, p) for _, p in check_fields(value, allowed, f"“{text}”")]
        try:
            run = read_trigger(text)
        except TriggerError as error:
            problems.append(("keys", text, f"{capital(error)}."))
            continue
        if on:
            found[run] = str(does)
    refuse_all(problems, data, file)
    return found
