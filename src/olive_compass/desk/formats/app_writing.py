"""Edits of an application's ``app.toml`` that keep what a person wrote in it, and a new one."""

from collections.abc import Mapping
from types import MappingProxyType
from typing import Any

from olive_compass.core.apps.modes import ROOT
from olive_compass.core.apps.rules import DUPLICATES, Rules
from olive_compass.desk.formats.app_file import FORMAT, Reading
from olive_compass.desk.texts.toml_editor import TomlEditor
from olive_compass.desk.texts.toml_text import key_lines, quoted
from olive_compass.structs import to_builtins


def with_rule(data: bytes, table: str, name: str, value: Any) -> bytes:
    """The file in which ``name`` of ``table`` (``a.b``: a table within one) is ``value``; None takes it out."""
    editor = TomlEditor(data)
    path = (*table.split("."), name)
    if value is None:
        editor.remove(*path)
    else:
        editor.put(path, value)
    return editor.data


def with_via(data: bytes, thing: str, through: str, held: str) -> bytes:
    """The file in which ``thing`` is shown through a command; ``held`` is what that has in it now."""
    if held:
        value = {"through": through, "held": held}
    else:
        value = {"through": through}
    return with_rule(data, "via", thing, value)


def with_mode_tree(data: bytes, parents: Mapping[str, str]) -> bytes:
    """The file that knows these modes, each inside its parent, and no others."""
    return with_table(data, "modes", parents)


def with_table(data: bytes, name: str, wanted: Mapping[str, Any]) -> bytes:
    """The file in which a table has these values and no others; what stays keeps its line."""
    editor = TomlEditor(data)
    editor.fill((name,), wanted)
    return editor.data


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
    editor = TomlEditor(data)
    known = editor.value("modes") or {}
    for mode in modes:
        if mode not in known and mode != ROOT:
            editor.put(("modes", mode), ROOT)
    return editor.data


def with_reading(data: bytes, reading: Reading) -> bytes:
    """The file that says how the application's listings are read; nothing where all was guessed."""
    usual = to_builtins(Reading())
    wanted = {name: value for name, value in to_builtins(reading).items() if value != usual[name]}
    editor = TomlEditor(data)
    # Written anew as one table: it is ours, and nobody comments single columns.
    editor.write_anew("reading", wanted)
    return editor.data


def with_spelling(data: bytes, words: Mapping[str, str]) -> bytes:
    """The file with these words for keys, and no others."""
    from olive_compass.core.keys.new_words import in_order

    editor = TomlEditor(data)
    if words:
        editor.fill(("spelling",), in_order(words))
    else:
        editor.remove("spelling")
    return editor.data


def with_ids(data: bytes, ids: Mapping[str, str]) -> bytes:
    """The file with these commands that the application calls otherwise, and no others."""
    editor = TomlEditor(data)
    editor.write_anew("ids", ids)
    return editor.data


def with_version(data: bytes, version: str) -> bytes:
    """The file in which the application has another version."""
    editor = TomlEditor(data)
    if (editor.value("version") or "") != version:
        editor.put(("version",), version)
    return editor.data


def without_guess(data: bytes, rule: str) -> bytes:
    """The file in which a rule is no guess any more: somebody said what it is."""
    told = TomlEditor(data).value("guessed") or {}
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
    if "duplicates" in rules.guessed:
        guessed = {"duplicates", *told}
    else:
        guessed = {*told}
    lines = [
        f'format = "{FORMAT}"',
        f"title = {quoted(title)}",
        f"version = {quoted(version)}",
        "",
        "# A mode, and the mode that it lies inside.",
        "[modes]",
        *(f"{quoted(mode)} = {quoted(ROOT)}" for mode in modes),
        "",
        "# What happens when a key is assigned twice: " + ", ".join(DUPLICATES) + ".",
        "[rules]",
    ]
    if "duplicates" not in guessed:
        lines.append(f"duplicates = {quoted(rules.duplicates)}")
    if "longest-sequence" not in guessed:
        lines.append(f"longest-sequence = {rules.longest_sequence}")
    lines.append(f"typed-sequences = {'true' if rules.typed_sequences else 'false'}")
    for name, values in (("text-modes", rules.text_modes), ("takes", rules.takes)):
        if values:
            lines.append(f"{name} = [{', '.join(map(quoted, values))}]")
    return with_guesses("\n".join([*lines, ""]).encode(), told)


def with_guesses(data: bytes, told: Mapping[str, Any]) -> bytes:
    """The file with these rules as what the keys of its listing tell, and no others of that kind."""
    editor = TomlEditor(data)
    comment = "guessed from the keys of the listing; [rules] comes first"
    editor.write_anew("guessed", told, comment)
    return editor.data
