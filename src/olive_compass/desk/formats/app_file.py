"""An application's modes and rules as ``app.toml``."""

from collections.abc import Iterator, Mapping
from types import MappingProxyType
from typing import Any

from msgspec import Struct

from olive_compass.core.apps.app import DUPLICATES, RULE_TYPES, TAKES, Proxy, Rules
from olive_compass.core.apps.modes import ROOT, ModeTree
from olive_compass.core.keys.names import MODIFIERS
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.roses import SIZES
from olive_compass.core.keys.spelling import is_kept_so
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.keys.triggers import Run
from olive_compass.core.wording import capital
from olive_compass.desk.texts.toml_text import check_fields, load, refuse_all

FORMAT = "olive-compass-app/1"
PLAIN_KEYS = ("all", "named", "none")

_TOP: dict[str, type | tuple[type, ...]] = {
    "format": str,
    "title": str,
    "version": str,
    "modes": dict,
    "rules": dict,
    "swipes": dict,
    "reserved": dict,
    "unlisted": dict,
    "licences": dict,
    "slots": dict,
    "slots-of": dict,
    "trays": dict,
    "via": dict,
    "spelling": dict,
    "ids": dict,
    "reading": dict,
    "guessed": dict,
}
_READING: dict[str, type | tuple[type, ...]] = {
    "columns": dict,
    "pattern": str,
    "groups": str,
    "headings": str,
    "file-format": str,
}
#: A number of seconds may be written without its point.
_RULES = {name: (int, float) if kind is float else kind for name, kind in RULE_TYPES.items()}


class Reading(Struct, frozen=True, kw_only=True):
    """How a listing of the application was read, where a person had to say it: columns by field, the
    pattern of plain text, what rows with one cell are, the format of its shortcuts file, and whether headings
    are menus or modes."""

    columns: Mapping[str, str] = MappingProxyType({})
    pattern: str = ""
    groups: str = "guess"
    file_format: str = ""
    headings: str = "guess"


class AppFile(Struct, frozen=True, kw_only=True):
    """What ``app.toml`` says."""

    title: str
    version: str
    modes: ModeTree
    rules: Rules
    spelling: Mapping[str, str] = MappingProxyType({})
    reading: Reading = Reading()
    proxies: Mapping[str, Proxy] = MappingProxyType({})
    ids: Mapping[str, str] = MappingProxyType({})


#: What is wrong in a file: the table, the key in it, and the sentence.
Problems = list[tuple[str, str, str]]


def read(data: bytes, file: str, name: str, project: str = "") -> AppFile:
    """The file's content, as it counts in ``project``; raises ``UserError`` with all its mistakes and
    their lines."""
    content = load(data, file, FORMAT)
    problems: Problems = [("", *each) for each in check_fields(content, _TOP, "an application")]
    said, told = _table(content, "rules"), _table(content, "guessed")
    problems += [("rules", *each) for each in _wrong_rules(said)]
    problems += [("guessed", *each) for each in _wrong_rules(told)] if told else []
    rules = {**told, **said}
    guessed = frozenset({"duplicates", *told} - {*said})
    tree = _modes(_table(content, "modes"), problems)
    problems += [("swipes", *each) for each in _wrong_roses(_table(content, "swipes"), tree)]
    typed = rules.get("longest-sequence", 1) if rules.get("typed-sequences") else 0
    reserved, built_in = (
        _meanings(_table(content, table), table, typed, problems)
        for table in ("reserved", "unlisted")
    )
    problems += [
        (
            "rules" if "text-modes" in said else "guessed",
            "text-modes",
            f"“{mode}” is no mode of this application.",
        )
        for mode in _list(rules, "text-modes")
        if mode not in tree
    ]
    spelling = _spelling(_table(content, "spelling"), problems)
    reading = _table(content, "reading")
    problems += [("reading", *each) for each in check_fields(reading, _READING, "[reading]")]
    trays, proxies = (_table(content, name) for name in ("trays", "via"))
    if trays or proxies:
        # Loaded here: most applications have neither.
        from olive_compass.desk.formats import tray_rules

        problems += [*tray_rules.wrong_kinds(trays), *tray_rules.wrong_proxies(proxies)]
    refuse_all(problems, data, file)
    return AppFile(
        title=content.get("title", name),
        version=content.get("version", ""),
        modes=tree,
        rules=Rules(
            duplicates=rules.get("duplicates", "replace"),
            longest_run=rules.get("longest-sequence", 1),
            typed_runs=rules.get("typed-sequences", False),
            folds_pad=rules.get("fold-pad", False),
            closing_key=rules.get("closing-key", ""),
            wait=float(rules.get("wait", 0)),
            roses=content.get("swipes", {}),
            most_keys=rules.get("most-keys", 0),
            modifiers=tuple(rules["modifiers"]) if "modifiers" in rules else None,
            plain_keys=rules.get("plain-keys", "all"),
            can_mute=rules.get("can-mute", True),
            text_modes=tuple(rules.get("text-modes", [])),
            reserved=reserved,
            built_in=built_in,
            licences={name: bool(has) for name, has in content.get("licences", {}).items()},
            slots=_slots(content, project),
            letters_open_menus=rules.get("letters-open-menus", True),
            takes=tuple(rules.get("takes", [])),
            trays=tray_rules.kinds(trays) if trays else {},
            guessed=guessed,
        ),
        spelling=spelling,
        reading=Reading(
            columns={
                str(field): str(column) for field, column in reading.get("columns", {}).items()
            },
            pattern=reading.get("pattern", ""),
            groups=reading.get("groups", "guess"),
            file_format=reading.get("file-format", ""),
            headings=reading.get("headings", "guess"),
        ),
        proxies=tray_rules.proxies(proxies) if proxies else {},
        ids={str(ours): str(theirs) for ours, theirs in _table(content, "ids").items()},
    )


def _slots(content: Mapping[str, Any], project: str) -> dict[str, str]:
    """What is in the slots: for all documents, and over it what a project has in them."""
    found = {**_table(content, "slots"), **_table(_table(content, "slots-of"), project)}
    return {command: str(name) for command, name in found.items()}


def _spelling(table: Mapping[str, Any], problems: Problems) -> dict[str, str]:
    """The application's words for keys, each with ours."""
    if all(is_kept_so(word, str(ours)) for word, ours in table.items()):
        return {word: str(ours) for word, ours in table.items()}
    # Loaded here: a person has written it by hand, or the application has words for single signs.
    from olive_compass.core.keys.new_words import checked

    found = {}
    for word, ours in table.items():
        try:
            name, key = checked(word, str(ours))
        except ValueError as error:
            problems.append(("spelling", word, f"{capital(error)}."))
        else:
            found[name] = key
    return found


def _wrong_rules(rules: Mapping[str, Any]) -> Iterator[tuple[str, str]]:
    """What is wrong in ``[rules]``: the key, and the sentence."""
    yield from check_fields(rules, _RULES, "[rules]")
    if rules.get("duplicates", "replace") not in DUPLICATES:
        yield "duplicates", f"“duplicates” is one of {', '.join(DUPLICATES)}."
    if isinstance(rules.get("longest-sequence"), int) and rules["longest-sequence"] < 1:
        yield "longest-sequence", "“longest-sequence” is 1 or more strokes."
    if rules.get("plain-keys", "all") not in PLAIN_KEYS:
        yield "plain-keys", f"“plain-keys” is one of {', '.join(PLAIN_KEYS)}."
    for name in _list(rules, "modifiers"):
        if name not in MODIFIERS:
            yield "modifiers", f"“{name}” is none of {', '.join(MODIFIERS)}."
    for name in _list(rules, "takes"):
        if name not in TAKES:
            yield "takes", f"“{name}” is none of {', '.join(TAKES)}."


def _table(content: Mapping[str, Any], name: str) -> Mapping[str, Any]:
    """A table of the file; an empty one in place of what is none, which was said already."""
    found = content.get(name, {})
    return found if isinstance(found, dict) else {}


def _list(content: Mapping[str, Any], name: str) -> list[Any]:
    found = content.get(name, [])
    return found if isinstance(found, list) else []


def _modes(modes: Mapping[str, Any], problems: Problems) -> ModeTree:
    """The modes, each inside another; none where something is wrong with them."""
    problems += [
        ("modes", key, f"“{key}” is given as text, the mode that it lies inside.")
        for key, value in modes.items()
        if not isinstance(value, str)
    ]
    try:
        # What is wrong above would make further faults here that are none.
        return ModeTree({} if problems else dict(modes))
    except ValueError as error:
        problems.append(("modes", "", f"{capital(error)}."))
        return ModeTree({})


def _wrong_roses(roses: Mapping[str, Any], tree: ModeTree) -> Iterator[tuple[str, str]]:
    for mode, size in roses.items():
        if size not in SIZES:
            yield mode, f"A mode has swipes in 2 to 16 directions, not {size}."
        if mode != ROOT and mode not in tree:
            yield mode, f"“{mode}” is no mode of this application."


def _meanings(
    table: Mapping[str, Any], name: str, typed: int, problems: Problems
) -> dict[Run, str]:
    """Keys and what they do: a table of ``[reserved]`` or ``[unlisted]`` keys."""
    found = {}
    for text, does in table.items():
        try:
            found[read_trigger(text, typed)] = str(does)
        except TriggerError as error:
            problems.append((name, text, f"{capital(error)}."))
    return found
