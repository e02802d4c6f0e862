"""YAML, TOML, INI, XML and property lists: names as titles, what they lie in as menus."""

import ast
import configparser
import os
import plistlib
import re
import xml.etree.ElementTree as Tree
from collections.abc import Callable
from typing import Any

import tomli

from olive_compass.core.keys.written_cells import JOIN
from olive_compass.core.plain import lines_of
from olive_compass.desk.importing.handbook import is_handbook
from olive_compass.desk.importing.json_rows import rows_of
from olive_compass.desk.importing.source import Read, Source
from olive_compass.errors import UserError

_INI = (".ini", ".cfg", ".conf")
SUFFIXES = (".yaml", ".yml", ".toml", *_INI, ".xml", ".plist")

#: The line that begins a section of settings.
_SECTION = re.compile(r"\[[^\[\]]+\]")

#: A value with a name, and the section of those that come before the first one.
_VALUE = re.compile(r"[^=:]*[^=:\s]\s*[=:]")
_NO_SECTION = " "

#: What the name of a thing stands in, in XML.
_NAMES = ("title", "name", "label", "caption", "text", "id")


def suits(source: Source) -> bool:
    """By its ending: a text with colons may be anything. XML says what it is, and sections of values show it."""
    if is_handbook(source.text):
        return False
    ending = os.path.splitext(source.path)[1].lower()
    if ending in SUFFIXES:
        # What has the ending of settings is often a list of commands of another form.
        return ending not in _INI or _has_values(source.text)
    return _is_xml(source.text) or _has_sections(source.text)


def read(source: Source) -> Read:
    """The entries, counted from 1."""
    ending = os.path.splitext(source.path)[1].lower()
    name, load = _LOADERS.get(ending, ("INI", _ini))
    if _is_xml(source.text) and ending != ".plist":
        name, load = "XML", _xml
    try:
        content = load(source.text.lstrip("\ufeff"))
    except UserError:
        raise
    except RecursionError as error:
        raise UserError(f"This {name} is nested too deeply.", file=source.path) from error
    except Exception as error:
        line = getattr(getattr(error, "problem_mark", None), "line", None)
        raise UserError(
            f"This is not {name}: {str(error).splitlines()[0] if str(error) else type(error).__name__}.",
            file=source.path,
            line=0 if line is None else line + 1,
        ) from error
    return rows_of(content, source.path, name)


def _is_xml(text: str) -> bool:
    return text.lstrip("\ufeff \t\r\n").startswith("<?xml")


def _has_sections(text: str) -> bool:
    """Whether a text is one of settings: a section in brackets comes first, and all other lines are values or further
    sections."""
    said = _said_in(text)
    if not said or not _SECTION.fullmatch(said[0]):
        return False
    return all("=" in line or _SECTION.fullmatch(line) for line in said)


def _has_values(text: str) -> bool:
    """Whether most lines of a text are values with a name, or sections."""
    said = _said_in(text)
    values = [line for line in said if _VALUE.match(line) or _SECTION.fullmatch(line)]
    return len(values) * 2 > len(said)


def _said_in(text: str) -> list[str]:
    """The lines of settings that are no remarks."""
    lines = [line.strip() for line in lines_of(text.lstrip("\ufeff"))]
    return [line for line in lines if line and line[0] not in "#;"]


def _yaml(text: str) -> Any:
    import yaml

    # Only plain values: a document from elsewhere makes no objects. Keys stay the text that they are.
    return yaml.load(text, Loader=yaml.BaseLoader)


def _ini(text: str) -> Any:
    parser = configparser.RawConfigParser(strict=False, allow_no_value=True, delimiters=("=", ":"))
    parser.optionxform = str  # type: ignore[method-assign,assignment]
    try:
        parser.read_string(text)
    except configparser.MissingSectionHeaderError:
        # What comes before the first section is in none.
        parser.read_string(f"[{_NO_SECTION}]\n{text}")
    return {
        section.strip(): {name: _listed(value) for name, value in parser.items(section)}
        for section in parser.sections()
    }


def _listed(value: str | None) -> Any:
    """A value; a list of quoted texts, or a quoted text, as a desktop's settings have them (``['<Alt>Tab']``), without
    its quotation marks."""
    text = (value or "").removeprefix("@as ").strip()
    if text[:1] not in ("[", "'", '"'):
        return value
    try:
        found = ast.literal_eval(text)
    except (ValueError, SyntaxError):
        return value
    if isinstance(found, list):
        return JOIN.join(map(str, found))
    return found


def _plist(text: str) -> Any:
    return plistlib.loads(text.encode())


def _xml(text: str) -> Any:
    return _element(Tree.fromstring(text))


def _element(element: Tree.Element) -> Any:
    """An element as entries by name: its attributes and texts are fields, what lies in it is nested."""
    fields = _fields(element)
    nested: dict[str, Any] = {}
    for n, outer in enumerate(element):
        if not _is_text(outer):
            child = _held_in(outer)
            name = _name_of(child)
            nested[name if name not in nested else f"{name} #{n}"] = _element(child)
    text = (element.text or "").strip()
    if text and fields and not nested:
        is_named = any(each in fields for each in _NAMES)
        fields.setdefault("keys" if is_named else "title", text)
    # What only names the things in it is their menu by now.
    rest = {name: value for name, value in fields.items() if name not in _NAMES}
    if nested:
        return {**rest, **nested}
    return fields


def _is_text(element: Tree.Element) -> bool:
    """Whether an element is a field: there is nothing in it but text, or it is a property under its name."""
    return (len(element) == 0 and not element.attrib) or _property(element) != ""


def _held_in(element: Tree.Element) -> Tree.Element:
    """What an element holds that says nothing itself: ``<child>`` around one thing."""
    while len(element) == 1 and not element.attrib and not _is_text(element[0]):
        element = element[0]
    return element


def _property(element: Tree.Element) -> str:
    """The name of a property, as files of user interfaces have them (``<property name="label">Save</property>``);
    ``""``: it is none."""
    if _local(element.tag) != "property":
        return ""
    name = element.get("name", "")
    # What stands on a menu item; its name is for the program.
    if name in ("text", "label"):
        return "title"
    return name


def _fields(element: Tree.Element) -> dict[str, Any]:
    """The attributes of an element, and the texts of the elements in it; of two of one name either counts."""
    fields: dict[str, Any] = {_local(name): value for name, value in element.attrib.items()}
    for child in filter(_is_text, element):
        text = "".join(child.itertext()).strip()
        name = _property(child) or _local(child.tag)
        if name in fields:
            fields[name] = f"{fields[name]} or {text}"
        else:
            fields[name] = text
    return fields


def _name_of(element: Tree.Element) -> str:
    """What an element is called: by an attribute, by an element in it, or by its own tag."""
    said = {_local(name): value for name, value in element.attrib.items()}
    said |= {_local(child.tag): (child.text or "").strip() for child in element if len(child) == 0}
    said |= {name: text for name, text in _fields(element).items() if name in _NAMES}
    return next((said[each] for each in _NAMES if said.get(each)), _local(element.tag))


def _local(tag: str) -> str:
    return str(tag).rpartition("}")[2]


_LOADERS: dict[str, tuple[str, Callable[[str], Any]]] = {
    ".yaml": ("YAML", _yaml),
    ".yml": ("YAML", _yaml),
    ".toml": ("TOML", tomli.loads),
    **{ending: ("INI", _ini) for ending in _INI},
    ".xml": ("XML", _xml),
    ".plist": ("a property list", _plist),
}
