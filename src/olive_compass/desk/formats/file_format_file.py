"""A file format as ``fileformats/<name>.toml``."""

from collections.abc import Mapping
from typing import Any

from msgspec.structs import asdict

from olive_compass.core.keys.names import MODIFIER_RANK
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.desk.formats.spelling_table import words_of
from olive_compass.desk.shortcuts.file_format import GROUPS, FileFormat, FileFormatTable
from olive_compass.desk.texts.schemas import Mistake, fitted
from olive_compass.desk.texts.toml_editor import TomlEditor, as_written
from olive_compass.desk.texts.toml_text import load, quoted, refuse
from olive_compass.structs import replace

FORMAT = "olive-compass-fileformat/1"

#: The fields that are plain texts, by their name in the file.
TEXTS = (
    "title",
    "pattern",
    "section",
    "entry",
    "between",
    "new-section",
    "section-end",
    "outside",
    "each",
    "named-key",
    "join",
    "none",
    "several",
    "holds",
    "off",
    "off-pattern",
    "notation",
    "capitals",
    "structure",
    "records",
)


#: The fields of a format that are tables of names and values.
TABLES = ("fields", "spelling", "escapes", "modes")


def file_format_path(name: str) -> str:
    return f"fileformats/{name}.toml"


def shipped_names() -> list[str]:
    """The names of the formats that ship with the program, sorted."""
    # Loaded here: few commands ask for what ships.
    from importlib.resources import files

    folder = files("olive_compass.data") / "fileformats"
    return sorted(each.name[:-5] for each in folder.iterdir() if each.name.endswith(".toml"))


def shipped(name: str) -> bytes:
    """The file of a format that ships."""
    from importlib.resources import files

    return (files("olive_compass.data") / "fileformats" / f"{name}.toml").read_bytes()


def read(data: bytes, file: str, name: str) -> FileFormat:
    """The format in a file; raises ``UserError`` with all its mistakes and their lines."""
    said, mistakes = fitted(load(data, file, FORMAT), FileFormatTable, "a file format")
    form = FileFormat(name=name, **asdict(said))
    # In the notation of terminals a word may be any sign: it is cut out as it stands there.
    spelling = words_of(
        said.spelling, mistakes, lambda _, ours: bool(said.notation) and _is_ours(ours)
    )
    form = replace(form, title=form.title or name, spelling=spelling)
    mistakes += [Mistake(("escapes", sign), says) for sign, says in _wrong_escapes(form.escapes)]
    mistakes += [Mistake((key,), says) for key, says in _wrong(form)]
    refuse(mistakes, data, file)
    return form


def _is_ours(text: str) -> bool:
    """Whether that is a key or a modifier as we write it."""
    try:
        return str(read_trigger(text)) == text
    except TriggerError:
        return text[:-1] in MODIFIER_RANK and text.endswith("+")


#: What the templates must have in them, and what that is the place of.
_PLACES = {
    "each": ("{key}", "the place of a key"),
    "named_key": ("{key}", "where the key stands"),
    "entry": ("{keys}", "the place of the keys"),
    "off": ("{keys}", "the place of the key"),
    "new_section": ("{entry}", "the place of its records"),
}


def _wrong(form: FileFormat) -> list[tuple[str, str]]:
    """What is wrong in a format: the key, and the sentence."""
    found = []
    for field, (place, says) in _PLACES.items():
        text = getattr(form, field)
        # A format that makes no records has no template for them; a cell of keys is written by every one.
        if place not in text and (text or field == "each"):
            key = field.replace("_", "-")
            found.append((key, f"“{key}” has {place} in it, {says}."))
    return found + (_wrong_fields(form) if form.structure else _wrong_patterns(form))


def _wrong_fields(form: FileFormat) -> list[tuple[str, str]]:
    """What is wrong in where the parts of structured records are."""
    strange = sorted(form.fields.keys() - set(GROUPS))
    if strange:
        return [
            ("fields", f"“{strange[0]}” is no part of a record; there are {', '.join(GROUPS)}.")
        ]
    if "keys" not in form.fields or not {"id", "title"} & form.fields.keys():
        return [("fields", "[fields] says where keys are, and id or title.")]
    return []


def _wrong_patterns(form: FileFormat) -> list[tuple[str, str]]:
    """What is wrong in the patterns of a format: they cannot be read, or do not name what they must."""
    # Only the engine that runs a pattern knows its groups.
    import regex

    named: dict[str, set[str]] = {}
    for field in ("pattern", "section", "off_pattern"):
        try:
            named[field] = set(regex.compile(getattr(form, field), regex.MULTILINE).groupindex)
        except regex.error as error:
            key = field.replace("_", "-")
            return [(key, f"“{key}” cannot be read: {error}.")]
    found = []
    if "keys" not in named["pattern"] or not {"id", "title"} & named["pattern"]:
        says = (
            "“pattern” names the keys and the command: (?P<keys>…) and (?P<id>…) or (?P<title>…)."
        )
        found.append(("pattern", says))
    if strange := sorted((named["pattern"] - set(GROUPS)) | (named["section"] - {"mode"})):
        says = f"“{strange[0]}” is no group of a format; there are {', '.join(GROUPS)}."
        found.append(("pattern", says))
    if form.section and "mode" not in named["section"]:
        found.append(("section", "“section” names the mode: (?P<mode>…)."))
    if form.off_pattern and "keys" not in named["off_pattern"]:
        found.append(("off-pattern", "“off-pattern” names the key: (?P<keys>…)."))
    return found


def _wrong_escapes(escapes: Mapping[str, str]) -> list[tuple[str, str]]:
    """Escapes that could not be read back: each is of one sign, and what it becomes is its own."""
    found = []
    for sign, becomes in escapes.items():
        if len(sign) != 1:
            found.append((sign, f"“{sign}” is not one sign."))
        elif not becomes or list(escapes.values()).count(becomes) > 1:
            found.append((sign, f"What “{sign}” becomes is used for another sign too."))
        elif becomes[0] not in escapes and becomes != sign:
            found.append(
                (sign, f"“{becomes}” begins with “{becomes[0]}”, which must be escaped as well.")
            )
    return found


def new_text(form: FileFormat) -> bytes:
    """The file of a format that has none yet: what differs from the usual."""
    usual = FileFormat(name=form.name)
    lines = [f'format = "{FORMAT}"']
    for key in TEXTS:
        value: Any = getattr(form, key.replace("-", "_"))
        if value is not None and (value != getattr(usual, key.replace("-", "_")) or key == "title"):
            lines.append(f"{key} = {_text(value)}")
    for table in TABLES:
        pairs = getattr(form, table)
        if pairs:
            lines += ["", f"[{table}]", *(f"{quoted(k)} = {quoted(v)}" for k, v in pairs.items())]
    return ("\n".join(lines) + "\n").encode()


def with_field(data: bytes, field: str, value: str) -> bytes:
    """The file in which one field is another, all else as it stands there."""
    editor = TomlEditor(data)
    editor.put((field,), as_written(_text(value)))
    return editor.data


def with_pair(data: bytes, table: str, name: str, value: str) -> bytes:
    """The file in which a table gives a name another value, all else as it stands there."""
    editor = TomlEditor(data)
    editor.put((table, name), value)
    return editor.data


def _text(value: str) -> str:
    """A text as TOML, a pattern without its backslashes doubled."""
    if "\\" in value and "'" not in value and value.isprintable():
        return f"'{value}'"
    return quoted(value)
