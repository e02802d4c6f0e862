"""An application's modes and rules as ``app.toml``."""

from collections.abc import Mapping
from typing import Any, NamedTuple

from olive_compass.core.apps.app import DUPLICATES, Rules
from olive_compass.core.apps.modes import ROOT, ModeTree
from olive_compass.core.keys.names import MODIFIERS
from olive_compass.core.keys.reading import TriggerError, read_trigger
from olive_compass.core.keys.roses import SIZES
from olive_compass.core.keys.triggers import Run
from olive_compass.core.wording import capital
from olive_compass.desk.toml_text import check_fields, load, quoted, refuse_all

FORMAT = "olive-compass-app/1"
PLAIN_KEYS = ("all", "named", "none")

_TOP: dict[str, type | tuple[type, ...]] = {
    "format": str,
    "title": str,
    "version": str,
    "modes": dict,
    "rules": dict,
    "roses": dict,
    "reserved": dict,
    "built-in": dict,
    "licences": dict,
    "slots": dict,
}
_RULES: dict[str, type | tuple[type, ...]] = {
    "duplicates": str,
    "longest-run": int,
    "typed-runs": bool,
    "fold-pad": bool,
    "closing-key": str,
    "wait": (int, float),
    "most-keys": int,
    "modifiers": list,
    "plain-keys": str,
    "can-mute": bool,
    "text-modes": list,
    "letters-open-menus": bool,
}


class AppFile(NamedTuple):
    """What ``app.toml`` says."""

    title: str
    version: str
    modes: ModeTree
    rules: Rules


def read(data: bytes, file: str, name: str) -> AppFile:
    """The file's content; raises ``Refused`` with all its mistakes and their lines."""
    content = load(data, file, FORMAT)
    problems = [("", key, text) for key, text in check_fields(content, _TOP, "an application")]
    modes = content.get("modes", {})
    rules = content.get("rules", {})
    tree = ModeTree({})
    if isinstance(rules, dict):
        problems += [("rules", key, text) for key, text in check_fields(rules, _RULES, "[rules]")]
        if rules.get("duplicates", "replace") not in DUPLICATES:
            says = f"“duplicates” is one of {', '.join(DUPLICATES)}."
            problems.append(("rules", "duplicates", says))
        if isinstance(rules.get("longest-run"), int) and rules["longest-run"] < 1:
            problems.append(("rules", "longest-run", "“longest-run” is 1 or more strokes."))
    if isinstance(modes, dict):
        problems += [
            ("modes", key, f"“{key}” is given as text, the mode that it lies inside.")
            for key, value in modes.items()
            if not isinstance(value, str)
        ]
        if not problems:
            try:
                tree = ModeTree(modes)
            except ValueError as error:
                problems.append(("modes", "", f"{capital(error)}."))
    roses = content.get("roses", {})
    if isinstance(roses, dict):
        sizes = ", ".join(map(str, SIZES))
        for mode, size in roses.items():
            if size not in SIZES:
                problems.append(("roses", mode, f"A rose has {sizes} bearings, not {size}."))
            if mode != ROOT and mode not in tree:
                problems.append(("roses", mode, f"“{mode}” is no mode of this application."))
    typed = rules.get("longest-run", 1) if rules.get("typed-runs") else 0
    reserved, built_in = (
        _meanings(content.get(table, {}), table, typed, problems)
        for table in ("reserved", "built-in")
    )
    if rules.get("plain-keys", "all") not in PLAIN_KEYS:
        problems.append(("rules", "plain-keys", f"“plain-keys” is one of {', '.join(PLAIN_KEYS)}."))
    for name in rules.get("modifiers", []):
        if name not in MODIFIERS:
            problems.append(("rules", "modifiers", f"“{name}” is none of {', '.join(MODIFIERS)}."))
    for name in rules.get("text-modes", []):
        if name not in tree:
            problems.append(("rules", "text-modes", f"“{name}” is no mode of this application."))
    refuse_all(problems, data, file)
    return AppFile(
        content.get("title", name),
        content.get("version", ""),
        tree,
        Rules(
            rules.get("duplicates", "replace"),
            rules.get("longest-run", 1),
            rules.get("typed-runs", False),
            rules.get("fold-pad", False),
            rules.get("closing-key", ""),
            float(rules.get("wait", 0)),
            content.get("roses", {}),
            rules.get("most-keys", 0),
            tuple(rules.get("modifiers", [])),
            rules.get("plain-keys", "all"),
            rules.get("can-mute", True),
            tuple(rules.get("text-modes", [])),
            reserved,
            built_in,
            {name: bool(has) for name, has in content.get("licences", {}).items()},
            {command: str(name) for command, name in content.get("slots", {}).items()},
            rules.get("letters-open-menus", True),
        ),
    )


def _meanings(
    table: Mapping[str, Any], name: str, typed: int, problems: list[tuple[str, str, str]]
) -> dict[Run, str]:
    """Keys and what they do: a table of ``[reserved]`` or ``[built-in]`` keys."""
    found = {}
    for text, does in table.items():
        try:
            found[read_trigger(text, typed)] = str(does)
        except TriggerError as error:
            problems.append((name, text, f"{capital(error)}."))
    return found


def with_rule(data: bytes, table: str, name: str, value: Any) -> bytes:
    """The file in which ``name`` of ``table`` is ``value``; None takes it out."""
    import tomlkit

    document: Any = tomlkit.parse(data.decode("utf-8-sig"))
    if table not in document:
        document[table] = tomlkit.table()
    if value is None:
        document[table].pop(name, None)
    else:
        document[table][name] = value
    return tomlkit.dumps(document).encode()


def with_version(data: bytes, version: str) -> bytes:
    """The file in which the application has another version."""
    import tomlkit

    document: Any = tomlkit.parse(data.decode("utf-8-sig"))
    if document.get("version", "") != version:
        document["version"] = version
    return tomlkit.dumps(document).encode()


def new_text(title: str, version: str, modes: tuple[str, ...], rules: Rules) -> bytes:
    """The file of an application that has none yet: every mode lies inside ``everywhere``."""
    lines = [
        f'format = "{FORMAT}"',
        f"title = {quoted(title)}",
        f"version = {quoted(version)}",
        "",
        "# A mode, and the mode that it lies inside.",
        "[modes]",
        *(f"{quoted(mode)} = {quoted(ROOT)}" for mode in modes),
        "",
        "# What happens when a key is given twice: " + ", ".join(DUPLICATES) + ".",
        "[rules]",
        f"duplicates = {quoted(rules.duplicates)}",
        f"longest-run = {rules.longest_run}",
        f"typed-runs = {'true' if rules.typed_runs else 'false'}",
        "",
    ]
    return "\n".join(lines).encode()
