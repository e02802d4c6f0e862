"""Edits of an application's ``app.toml`` that keep what a person wrote in it, and a new one."""

from collections.abc import Mapping
from types import MappingProxyType
from typing import Any

from olive_compass.core.apps.app import DUPLICATES, Rules
from olive_compass.core.apps.modes import ROOT
from olive_compass.desk.formats.app_file import FORMAT, Reading
from olive_compass.desk.texts.toml_text import editable, key_lines, put, quoted


def with_rule(data: bytes, table: str, name: str, value: Any) -> bytes:
    """The file in which ``name`` of ``table`` is ``value``; None takes it out."""
    import tomlkit

    document = editable(data)
    if table not in document:
        document[table] = tomlkit.table()
    if value is None:
        document[table].pop(name, None)
    else:
        put(document[table], name, value)
    return tomlkit.dumps(document).encode()


def with_proxy(data: bytes, thing: str, through: str, held: str) -> bytes:
    """The file in which ``thing`` is shown through a command; ``held`` is what that has in it now."""
    import tomlkit

    value = tomlkit.inline_table()
    value["through"] = through
    if held:
        value["held"] = held
    return with_rule(data, "via", thing, value)


def with_nested(data: bytes, table: str, name: str, value: Any) -> bytes:
    """The file in which ``name`` of ``table`` (``a.b``: a table within one) is ``value``."""
    import tomlkit

    outer, dot, inner = table.partition(".")
    if not dot:
        return with_rule(data, table, name, value)
    document = editable(data)
    if outer not in document:
        document[outer] = tomlkit.table(is_super_table=True)
    if inner not in document[outer]:
        document[outer][inner] = tomlkit.table()
    if value is None:
        document[outer][inner].pop(name, None)
    else:
        put(document[outer][inner], name, value)
    return tomlkit.dumps(document).encode()


def with_mode_tree(data: bytes, parents: Mapping[str, str]) -> bytes:
    """The file that knows these modes, each inside its parent, and no others."""
    return with_table(data, "modes", parents)


def with_table(data: bytes, name: str, wanted: Mapping[str, Any]) -> bytes:
    """The file in which a table has these values and no others; what stays keeps its line."""
    import tomlkit

    document = editable(data)
    now = dict(document[name].unwrap()) if name in document else {}
    if now == dict(wanted):
        return data
    if name not in document:
        document[name] = tomlkit.table()
    table = document[name]
    for key in [key for key in now if key not in wanted]:
        table.pop(key)
    for key, value in wanted.items():
        if now.get(key) != value:
            put(table, key, value)
    return tomlkit.dumps(document).encode()


def renamed_key(data: bytes, table: str, old: str, new: str) -> bytes:
    """The file in which a key of a table, and what names it as a value there, is called otherwise.

    The line stays where it is, with what a person wrote beside it.
    """
    import re

    # Line by line and not through the parser: that would put a renamed key at the end of its table.
    text = data.decode("utf-8-sig")
    mark = data[: len(data) - len(text.encode())]
    lines = text.splitlines(keepends=True)
    places = key_lines(text)
    for (where, _), number in places.items():
        if where != table or not number:
            continue
        line = lines[number - 1]
        key, sign, value = line.partition("=")
        plain = key.strip().strip("\"'")
        if plain == old:
            key = key.replace(
                key.strip(), new if re.fullmatch(r"[\w-]+", new, re.ASCII) else quoted(new)
            )
        value = re.sub(rf"""^(\s*)(["']){re.escape(old)}\2""", rf"\g<1>\g<2>{new}\g<2>", value)
        lines[number - 1] = key + sign + value
    return mark + "".join(lines).encode()


def with_modes(data: bytes, modes: tuple[str, ...]) -> bytes:
    """The file that knows these modes too; a new one lies inside ``everywhere``."""
    import tomlkit

    document = editable(data)
    known = document.get("modes", {})
    new = [mode for mode in modes if mode not in known and mode != ROOT]
    if not new:
        return data
    if "modes" not in document:
        document["modes"] = tomlkit.table()
    for mode in new:
        put(document["modes"], mode, ROOT)
    return tomlkit.dumps(document).encode()


def with_reading(data: bytes, reading: Reading) -> bytes:
    """The file that says how the application's listings are read; nothing where all was guessed."""
    import tomlkit

    document = editable(data)
    wanted: dict[str, Any] = {}
    if reading.columns:
        wanted["columns"] = dict(reading.columns)
    if reading.pattern:
        wanted["pattern"] = reading.pattern
    if reading.groups != "guess":
        wanted["groups"] = reading.groups
    if reading.headings != "guess":
        wanted["headings"] = reading.headings
    if reading.file_format:
        wanted["file-format"] = reading.file_format
    now = document.get("reading")
    if (now.unwrap() if now is not None else {}) == wanted:
        return data
    # Written anew as one table: it is ours, and nobody comments single columns.
    document.pop("reading", None)
    if wanted:
        table = tomlkit.table()
        for name, value in wanted.items():
            # On one line, as a person would write a handful of pairs.
            if name == "columns":
                columns = tomlkit.inline_table()
                columns.update(value)
                value = columns
            table[name] = value
        document["reading"] = table
    return tomlkit.dumps(document).encode()


def with_spelling(data: bytes, words: Mapping[str, str]) -> bytes:
    """The file with these words for keys, and no others."""
    import tomlkit

    from olive_compass.core.keys.new_words import in_order

    document = editable(data)
    now = {str(word): str(ours) for word, ours in document.get("spelling", {}).items()}
    if now == dict(words):
        return data
    if not words:
        document.pop("spelling", None)
        return tomlkit.dumps(document).encode()
    if "spelling" not in document:
        document["spelling"] = tomlkit.table()
    table = document["spelling"]
    for word in [word for word in now if word not in words]:
        table.pop(word)
    for word, ours in in_order(words).items():
        if now.get(word) != ours:
            put(table, word, ours)
    return tomlkit.dumps(document).encode()


def with_ids(data: bytes, ids: Mapping[str, str]) -> bytes:
    """The file with these commands that the application calls otherwise, and no others."""
    import tomlkit

    document = editable(data)
    if dict(document.get("ids", {})) == dict(ids):
        return data
    document.pop("ids", None)
    if ids:
        table = tomlkit.table()
        table.update(ids)
        document["ids"] = table
    return tomlkit.dumps(document).encode()


def with_version(data: bytes, version: str) -> bytes:
    """The file in which the application has another version."""
    import tomlkit

    document = editable(data)
    if document.get("version", "") != version:
        document["version"] = version
    return tomlkit.dumps(document).encode()


def without_guess(data: bytes, rule: str) -> bytes:
    """The file in which a rule is no guess any more: somebody said what it is."""
    now = editable(data).get("guessed")
    told = now.unwrap() if now is not None else {}
    return with_guesses(data, {name: value for name, value in told.items() if name != rule})


def new_text(
    title: str,
    version: str,
    modes: tuple[str, ...],
    rules: Rules,
    told: Mapping[str, Any] = MappingProxyType({}),
) -> bytes:
    """The file of an application that has none yet: every mode lies inside ``everywhere``. ``told`` are the rules
    that its keys tell."""
    guessed = {"duplicates", *told} if "duplicates" in rules.guessed else {*told}
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
        *([f"duplicates = {quoted(rules.duplicates)}"] if "duplicates" not in guessed else []),
        *([f"longest-sequence = {rules.longest_run}"] if "longest-sequence" not in guessed else []),
        f"typed-sequences = {'true' if rules.typed_runs else 'false'}",
    ]
    for name, values in (("text-modes", rules.text_modes), ("takes", rules.takes)):
        if values:
            lines.append(f"{name} = [{', '.join(map(quoted, values))}]")
    return with_guesses("\n".join([*lines, ""]).encode(), told)


def with_guesses(data: bytes, told: Mapping[str, Any]) -> bytes:
    """The file with these rules as what the keys of its listing tell, and no others of that kind."""
    import tomlkit

    document = editable(data)
    now = document.get("guessed")
    if (now.unwrap() if now is not None else {}) == dict(told):
        return data
    document.pop("guessed", None)
    if told:
        table = tomlkit.table()
        table.comment("told by the keys of the listing; what stands in [rules] comes first")
        for name, value in told.items():
            table[name] = value
        document["guessed"] = table
    return tomlkit.dumps(document).encode()
