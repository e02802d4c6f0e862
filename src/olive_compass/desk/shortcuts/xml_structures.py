"""Records of XML and of property lists, read by expat."""

import re
from collections.abc import Iterator, Mapping
from xml.etree import ElementTree
from xml.etree.ElementTree import Element
from xml.parsers import expat

from olive_compass.desk.shortcuts.structure_parts import NAME, VALUE, Found, Places, Span, is_under
from olive_compass.errors import UserError

#: A start tag, of a document that is known to be well formed.
_TAG = re.compile(r"<[^\s/>]+(?:\s+[^\s=]+\s*=\s*(?:\"[^\"]*\"|'[^']*'))*\s*/?>")


class XmlRecords:
    """A document with the places of its elements."""

    in_lists = False

    def __init__(self, text: str, fields: Mapping[str, str]) -> None:
        self.text, self.fields = text, fields
        self.bytes = Places(text)
        self.places: dict[int, Span] = {}
        self.above: dict[int, Element] = {}
        self.root = self._parsed()

    def _parsed(self) -> Element:
        builder = ElementTree.TreeBuilder()
        parser = expat.ParserCreate("utf-8")
        open_: list[tuple[Element, int]] = []

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

    def _part(self, element: Element | None, field: str, upwards: bool) -> tuple[str, Span] | None:
        """A part: ``@name`` an attribute, ``name`` a child's text, ``.`` its own; a mode is looked for upwards."""
        tag, at, attribute = field.partition("@")
        if upwards:
            while element is not None and (
                element.tag != tag if tag else attribute not in element.attrib
            ):
                element = self.above.get(id(element))
        elif element is not None and tag not in ("", "."):
            element = element.find(tag)
        if element is None:
            return None
        if at:
            return self._attribute(element, attribute)
        return self._inner(element)

    def _inner(self, element: Element) -> tuple[str, Span]:
        """What stands between the tags of an element."""
        start = self._tag(element)[1]
        end = self.bytes.char(self.places[id(element)][1])
        return self.text[start:end], (start, end)

    def _attribute(self, element: Element, name: str) -> tuple[str, Span] | None:
        start, end = self._tag(element)
        found = re.search(
            rf"(?<=\s){re.escape(name)}\s*=\s*(?:\"([^\"]*)\"|'([^']*)')", self.text[start:end]
        )
        if found is None:
            return None
        group = 2
        if found[1] is not None:
            group = 1
        return found[group], (start + found.start(group), start + found.end(group))

    def _tag(self, element: Element) -> Span:
        start = self.bytes.char(self.places[id(element)][0])
        found = _TAG.match(self.text, start)
        return start, found.end() if found else start

    def _whole(self, element: Element) -> Span:
        start, end = self._tag(element)
        closing = self.bytes.char(self.places[id(element)][1])
        if self.text[end - 2 : end] == "/>":
            return start, end
        return start, self.text.index(">", closing) + 1


class PlistRecords(XmlRecords):
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
            if path and not is_under(path, self._names(element)):
                continue
            pairs = self.pairs[id(element)]
            if not are_pairs:
                values = {key.text or "": value for key, value in pairs}
                yield from self._found(element, element, values)
                continue
            for key, value in pairs:
                if value.tag in ("string", "array"):
                    yield from self._found(key, value, {NAME: key, VALUE: value})

    def _place(self, name: str, element: Element | None) -> tuple[str, tuple[int, int]] | None:
        """What a field says and where it says it; None: it is not there."""
        if element is None:
            return None
        if self.in_lists and (name, element.tag) == ("keys", "string"):
            start, end = self._whole(element)
            return self.text[start:end], (start, end)
        return self._inner(element)

    def _found(
        self, first: Element, last: Element, values: Mapping[str, Element]
    ) -> Iterator[Found]:
        """The record from one element to another, if it has what makes one."""
        parts = {}
        for name, field in self.fields.items():
            if name == "mode":
                place = self._mode(last, field)
            else:
                place = self._place(name, values.get(field))
            if place is not None:
                parts[name] = place
        if "keys" in parts and ("id" in parts or "title" in parts):
            yield Found((self._whole(first)[0], self._whole(last)[1]), parts)

    def _names(self, element: Element) -> list[str]:
        """The names under which an element stands, the nearest first."""
        return [key.text or "" for key in self._keys(element)]

    def _keys(self, element: Element) -> Iterator[Element]:
        for each in self._upwards(element):
            if id(each) in self.key_of:
                yield self.key_of[id(each)]

    def _upwards(self, element: Element) -> Iterator[Element]:
        """An element, the one that it stands in, and so on."""
        each: Element | None = element
        while each is not None:
            yield each
            each = self.above.get(id(each))

    def _mode(self, element: Element, field: str) -> tuple[str, Span] | None:
        """A mode: a field of the dictionary or of one above it, or with ``^`` the name under which it stands."""
        if field == "^":
            if element.tag == "dict":
                inner = element
            else:
                inner = self.above[id(element)]
            names = self._names(inner)
            if names:
                return (names[0], (0, 0))
            return None
        for each in self._upwards(element):
            for key, value in self.pairs.get(id(each), ()):
                if key.text == field:
                    return self._inner(value)
        return None


def _pairs(element: Element) -> list[tuple[Element, Element]]:
    inner = list(element)
    return list(zip(inner[::2], inner[1::2], strict=False))
