"""Records of structured shortcuts files, with where each part of them stands: XML and property lists by expat, JSON by a
grammar.

The file is never written anew from what was read: parts are changed in place, and all about them stays.
"""

import re
from bisect import bisect_left
from collections.abc import Iterator, Mapping
from itertools import accumulate
from typing import Any
from xml.etree import ElementTree
from xml.parsers import expat

from msgspec import Struct

from olive_compass.errors import UserError

#: The fields of records that are pairs of a name and a value.
NAME, VALUE = ":name", ":value"

#: Signs that are written otherwise within the parts of records.
ESCAPES = {
    "xml": {"&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;"},
    "plist": {"&": "&amp;", "<": "&lt;", ">": "&gt;"},
    "json": {"\\": "\\\\", '"': '\\"'},
}


class Lists(Struct, frozen=True, kw_only=True):
    """How several keys stand in a structured file: each of them, what parts them, and what is about them all."""

    each: str
    join: str
    opening: str
    closing: str


LISTS = {
    "json": Lists(each='"{key}"', join=", ", opening="[", closing="]"),
    "plist": Lists(each="<string>{key}</string>", join="", opening="<array>", closing="</array>"),
}

#: A start tag, of a document that is known to be well formed.
_TAG = re.compile(r"<[^\s/>]+(?:\s+[^\s=]+\s*=\s*(?:\"[^\"]*\"|'[^']*'))*\s*/?>")

Span = tuple[int, int]


class Found(Struct, frozen=True):
    """A record as a match of a pattern gives it: the whole of it, and its parts with where they stand."""

    whole: Span
    parts: Mapping[str, tuple[str, Span]]

    def span(self, name: str = "") -> Span:
        """Where the record stands, or a part of it."""
        if name:
            return self.parts[name][1]
        return self.whole

    def start(self) -> int:
        """Where it begins."""
        return self.whole[0]

    def end(self) -> int:
        """Where it ends."""
        return self.whole[1]

    def groupdict(self) -> dict[str, str]:
        """Its parts as they stand there."""
        return {name: text for name, (text, _) in self.parts.items()}

    def __getitem__(self, name: str) -> str | None:
        if name in self.parts:
            return self.parts[name][0]
        return None


def records(
    structure: str, path: str, fields: Mapping[str, str], text: str, in_lists: bool = False
) -> tuple[list[Found], bool]:
    """The records of a file in their order, and whether keys stand in lists there, or are to: then those of each record
    are read with the signs of texts about them. Raises ``UserError`` where it is not of that structure."""
    reader = _READERS[structure](text, fields)
    found = list(reader.records(path))
    sign = LISTS[structure].each.partition("{key}")[0] if structure in LISTS else ""
    if not in_lists and sign:
        in_lists = any((e["keys"] or "").lstrip().startswith(sign) for e in found)
    if in_lists:
        reader.in_lists = True
        found = list(reader.records(path))
    return sorted(found, key=lambda each: each.whole), in_lists


class _Places:
    """The places of bytes among the characters of a text."""

    def __init__(self, text: str) -> None:
        self.data = text.encode("utf-8", "surrogatepass")
        # Only a text with other letters has more bytes than characters: there each has its place looked up.
        lengths = (len(char.encode("utf-8", "surrogatepass")) for char in text)
        self.starts = None if len(self.data) == len(text) else list(accumulate(lengths, initial=0))

    def char(self, at: int) -> int:
        """The place of a byte among the characters."""
        if self.starts is None:
            return at
        return bisect_left(self.starts, at)


class _Xml:
    """A document with the places of its elements."""

    in_lists = False

    def __init__(self, text: str, fields: Mapping[str, str]) -> None:
        self.text, self.fields = text, fields
        self.bytes = _Places(text)
        self.places: dict[int, Span] = {}
        self.above: dict[int, Any] = {}
        self.root = self._parsed()

    def _parsed(self) -> Any:
        builder = ElementTree.TreeBuilder()
        parser = expat.ParserCreate("utf-8")
        open_: list[tuple[Any, int]] = []

        def begin(tag: str, attributes: dict[str, str]) -> None:
            element = builder.start(tag, attributes)
            if open_:
                self.above[id(element)] = open_[-1][0]
            open_.append((element, parser.CurrentByteIndex))

        def end(tag: str) -> None:
            element, start = open_.pop()
            builder.end(tag)
            self.places[id(element)] = start, parser.CurrentByteIndex

        parser.StartElementHandler = begin
        parser.EndElementHandler = end
        parser.CharacterDataHandler = builder.data
        try:
            parser.Parse(self.bytes.data, True)
        except expat.ExpatError as error:
            raise UserError(
                f"This is no XML: {expat.ErrorString(error.code)}, line {error.lineno}."
            ) from error
        return builder.close()

    def records(self, path: str) -> Iterator[Found]:
        try:
            elements = self.root.findall(path or ".//*")
        except (SyntaxError, KeyError) as error:
            raise UserError(f"“{path}” is no path of elements, such as .//binding.") from error
        for element in elements:
            parts = {
                name: place
                for name, field in self.fields.items()
                if (place := self._part(element, field, upwards=name == "mode")) is not None
            }
            if "keys" in parts or "id" in parts or "title" in parts:
                yield Found(self._whole(element), parts)

    def _part(self, element: Any, field: str, upwards: bool) -> tuple[str, Span] | None:
        """A part: ``@name`` an attribute, ``name`` a child's text, ``.`` its own; a mode is looked for upwards."""
        tag, at, attribute = field.partition("@")
        if upwards:
            while element is not None and (
                element.tag != tag if tag else attribute not in element.attrib
            ):
                element = self.above.get(id(element))
        elif tag not in ("", "."):
            element = element.find(tag)
        if element is None:
            return None
        if at:
            return self._attribute(element, attribute)
        return self._inner(element)

    def _inner(self, element: Any) -> tuple[str, Span]:
        """What stands between the tags of an element."""
        start = self._tag(element)[1]
        end = self.bytes.char(self.places[id(element)][1])
        return self.text[start:end], (start, end)

    def _attribute(self, element: Any, name: str) -> tuple[str, Span] | None:
        start, end = self._tag(element)
        found = re.search(
            rf"(?<=\s){re.escape(name)}\s*=\s*(?:\"([^\"]*)\"|'([^']*)')", self.text[start:end]
        )
        if found is None:
            return None
        group = 1 if found[1] is not None else 2
        return found[group], (start + found.start(group), start + found.end(group))

    def _tag(self, element: Any) -> Span:
        start = self.bytes.char(self.places[id(element)][0])
        found = _TAG.match(self.text, start)
        return start, found.end() if found else start

    def _whole(self, element: Any) -> Span:
        start, end = self._tag(element)
        closing = self.bytes.char(self.places[id(element)][1])
        if self.text[end - 2 : end] == "/>":
            return start, end
        return start, self.text.index(">", closing) + 1


class _Plist(_Xml):
    """A property list: an XML document whose ``dict`` elements have a ``key`` before each value."""

    def __init__(self, text: str, fields: Mapping[str, str]) -> None:
        super().__init__(text, fields)
        self.pairs = {id(each): _pairs(each) for each in self.root.iter("dict")}
        self.key_of = {id(value): key for pairs in self.pairs.values() for key, value in pairs}

    def records(self, path: str) -> Iterator[Found]:
        """The dictionaries that have a key and a command, or the pairs that are them; with ``path`` those under that
        name only."""
        are_pairs = {NAME, VALUE} & set(self.fields.values())
        for element in self.root.iter("dict"):
            if path and not _is_under(path, self._names(element)):
                continue
            pairs = self.pairs[id(element)]
            if not are_pairs:
                values = {key.text or "": value for key, value in pairs}
                yield from self._found(element, element, values)
                continue
            for key, value in pairs:
                if value.tag in ("string", "array"):
                    yield from self._found(key, value, {NAME: key, VALUE: value})

    def _found(self, first: Any, last: Any, values: Mapping[str, Any]) -> Iterator[Found]:
        """The record from one element to another, if it has what makes one."""
        parts = {}
        for name, field in self.fields.items():
            if name == "mode":
                place = self._mode(last, field)
            else:
                element = values.get(field)
                if (
                    element is not None
                    and self.in_lists
                    and (name, element.tag) == ("keys", "string")
                ):
                    start, end = self._whole(element)
                    place = self.text[start:end], (start, end)
                else:
                    place = None if element is None else self._inner(element)
            if place is not None:
                parts[name] = place
        if "keys" in parts and ("id" in parts or "title" in parts):
            yield Found((self._whole(first)[0], self._whole(last)[1]), parts)

    def _names(self, element: Any) -> list[str]:
        """The names under which an element stands, the nearest first."""
        return [key.text or "" for key in self._keys(element)]

    def _keys(self, element: Any) -> Iterator[Any]:
        while element is not None:
            if id(element) in self.key_of:
                yield self.key_of[id(element)]
            element = self.above.get(id(element))

    def _mode(self, element: Any, field: str) -> tuple[str, Span] | None:
        """A mode: a field of the dictionary or of one above it, or with ``^`` the name under which it stands."""
        if field == "^":
            inner = element if element.tag == "dict" else self.above[id(element)]
            names = self._names(inner)
            if names:
                return (names[0], (0, 0))
            return None
        while element is not None:
            for key, value in self.pairs.get(id(element), ()):
                if key.text == field:
                    return self._inner(value)
            element = self.above.get(id(element))
        return None


def _is_under(path: str, names: list[str]) -> bool:
    """Whether what stands under these names, the nearest first, is what a path means: a name above it, or all of them
    from the root as JSONPath (RFC 9535) writes them.

    >>> _is_under("keys", ["draw", "keys"]), _is_under("$.keys[*]", ["keys"]), _is_under("$.keys[*]", ["keys", "x"])
    (True, True, False)
    """
    if not path.startswith("$"):
        return path in names
    return re.findall(r"\.([\w-]+)|\[['\"]([^'\"]+)['\"]\]", path) == [
        (name, "") if re.fullmatch(r"[\w-]+", name) else ("", name) for name in reversed(names)
    ]


def _pairs(element: Any) -> list[tuple[Any, Any]]:
    inner = list(element)
    return list(zip(inner[::2], inner[1::2], strict=False))


class _Json:
    """A document, with comments or without, by its grammar."""

    in_lists = False

    def __init__(self, text: str, fields: Mapping[str, str]) -> None:
        # Loaded here: few applications keep their keys in JSON.
        import tree_sitter_json
        from tree_sitter import Language, Parser

        self.text, self.fields = text, fields
        self.bytes = _Places(text)
        parser = Parser(Language(tree_sitter_json.language()))
        self.root = parser.parse(self.bytes.data).root_node
        if self.root.has_error:
            line = _first_error(self.root)
            raise UserError(f"This is no JSON: something is wrong in line {line}.")

    def records(self, path: str) -> Iterator[Found]:
        """The objects that have a key, or the name of a command; with ``path`` those under that name only."""
        stack = [self.root]
        while stack:
            node = stack.pop()
            stack += node.children
            if node.type != "object" or (path and not _is_under(path, self._names(node))):
                continue
            pairs = [pair for pair in node.children if pair.type == "pair"]
            if {NAME, VALUE} & set(self.fields.values()):
                for pair in pairs:
                    yield from self._found(pair, node, {NAME: _key(pair), VALUE: _of(pair)})
            else:
                values = {self._string(_key(pair)): _of(pair) for pair in pairs}
                yield from self._found(node, node, values)

    def _found(self, whole: Any, object_: Any, values: Mapping[str, Any]) -> Iterator[Found]:
        """The record that stands there, if it has what makes one."""
        parts = {}
        for name, field in self.fields.items():
            value = values.get(field)
            if name == "mode":
                place = self._mode(object_, field)
            elif self.in_lists and name == "keys" and value is not None and value.type == "string":
                start, end = self.bytes.char(value.start_byte), self.bytes.char(value.end_byte)
                place = self.text[start:end], (start, end)
            else:
                place = self._value(value)
            if place is not None:
                parts[name] = place
        if "keys" in parts and ("id" in parts or "title" in parts):
            span = self.bytes.char(whole.start_byte), self.bytes.char(whole.end_byte)
            yield Found(span, parts)

    def _names(self, node: Any) -> list[str]:
        """The names under which a node stands, the nearest first."""
        found = []
        while node is not None:
            if node.type == "pair":
                found.append(self._string(_key(node)))
            node = node.parent
        return found

    def _mode(self, node: Any, field: str) -> tuple[str, Span] | None:
        """A mode: a field of the object or of one above it, or with ``^`` the name under which it stands."""
        if field == "^":
            names = self._names(node)
            if names:
                return (names[0], (0, 0))
            return None
        while node is not None:
            if node.type == "object":
                for pair in node.children:
                    if pair.type == "pair" and self._string(_key(pair)) == field:
                        return self._value(_of(pair))
            node = node.parent
        return None

    def _value(self, node: Any) -> tuple[str, Span] | None:
        """What stands between the quotation marks of a text, or the brackets of a list of texts."""
        if node is None or node.type not in ("string", "array"):
            return None
        start, end = self.bytes.char(node.start_byte) + 1, self.bytes.char(node.end_byte) - 1
        return self.text[start:end], (start, end)

    def _string(self, node: Any) -> str:
        return self.bytes.data[node.start_byte + 1 : node.end_byte - 1].decode(
            "utf-8", "surrogatepass"
        )


def _key(pair: Any) -> Any:
    return pair.child_by_field_name("key")


def _of(pair: Any) -> Any:
    return pair.child_by_field_name("value")


def _first_error(node: Any) -> int:
    while True:
        inner = next(
            (child for child in node.children if child.has_error or child.is_missing), None
        )
        if inner is None:
            return int(node.start_point[0]) + 1
        node = inner


_READERS: Mapping[str, type[_Xml] | type[_Json]] = {"xml": _Xml, "json": _Json, "plist": _Plist}
