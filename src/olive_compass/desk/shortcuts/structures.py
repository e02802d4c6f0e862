"""Records of structured shortcuts files, with where each part of them stands: XML and property lists by expat, JSON by a
grammar.

The file is never written anew from what was read: parts are changed in place, and all about them stays.
"""

from collections.abc import Mapping

from msgspec import Struct

from olive_compass.desk.shortcuts.json_structures import JsonRecords
from olive_compass.desk.shortcuts.structure_parts import Found
from olive_compass.desk.shortcuts.xml_structures import PlistRecords, XmlRecords

#: Signs that are written otherwise within the parts of records.
ESCAPES = {
    "xml": {"&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;"},
    "plist": {"&": "&amp;", "<": "&lt;", ">": "&gt;"},
    "json": {"\\": "\\\\", '"': '\\"'},
}


class Lists(Struct, frozen=True, kw_only=True):
    """How a structured file writes several keys: each key, the separator, and the brackets."""

    each: str
    join: str
    opening: str
    closing: str


LISTS = {
    "json": Lists(each='"{key}"', join=", ", opening="[", closing="]"),
    "plist": Lists(each="<string>{key}</string>", join="", opening="<array>", closing="</array>"),
}


def records(
    structure: str, path: str, fields: Mapping[str, str], text: str, in_lists: bool = False
) -> tuple[list[Found], bool]:
    """The records of a file in their order, and whether keys stand in lists there, or are to: then those of each record
    are read with the signs of texts about them. Raises ``UserError`` where it is not of that structure."""
    reader = _READERS[structure](text, fields)
    found = list(reader.records(path))
    sign = ""
    if structure in LISTS:
        sign = LISTS[structure].each.partition("{key}")[0]
    if not in_lists and sign:
        in_lists = any((e["keys"] or "").lstrip().startswith(sign) for e in found)
    if in_lists:
        reader.in_lists = True
        found = list(reader.records(path))
    return sorted(found, key=lambda each: each.whole), in_lists


_READERS: Mapping[str, type[XmlRecords] | type[JsonRecords]] = {
    "xml": XmlRecords,
    "json": JsonRecords,
    "plist": PlistRecords,
}
