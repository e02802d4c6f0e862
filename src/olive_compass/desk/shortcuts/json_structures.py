"""Records of JSON, read by a grammar that tells where each part stands."""

from collections.abc import Iterator, Mapping
from itertools import chain
from typing import TYPE_CHECKING

from olive_compass.desk.shortcuts.structure_parts import NAME, VALUE, Found, Places, Span, is_under
from olive_compass.errors import UserError

if TYPE_CHECKING:
    from tree_sitter import Node


class JsonRecords:
    """A document, with comments or without, by its grammar."""

    in_lists = False

    def __init__(self, text: str, fields: Mapping[str, str]) -> None:
        # Loaded here: few applications keep their keys in JSON.
        import tree_sitter_json
        from tree_sitter import Language, Parser

        self.text, self.fields = text, fields
        self.bytes = Places(text)
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
            if node.type != "object" or (path and not is_under(path, self._names(node))):
                continue
            pairs = [pair for pair in node.children if pair.type == "pair"]
            if {NAME, VALUE} & set(self.fields.values()):
                for pair in pairs:
                    yield from self._found(pair, node, {NAME: _key(pair), VALUE: _of(pair)})
            else:
                values = {self._string(_key(pair)): _of(pair) for pair in pairs}
                yield from self._found(node, node, values)

    def _found(
        self, whole: "Node", object_: "Node", values: "Mapping[str, Node]"
    ) -> Iterator[Found]:
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

    def _names(self, node: "Node") -> list[str]:
        """The names under which a node stands, the nearest first."""
        return [self._string(_key(each)) for each in _upwards(node) if each.type == "pair"]

    def _mode(self, node: "Node", field: str) -> tuple[str, Span] | None:
        """A mode: a field of the object or of one above it, or with ``^`` the name under which it stands."""
        if field == "^":
            names = self._names(node)
            if names:
                return (names[0], (0, 0))
            return None
        objects = (each for each in _upwards(node) if each.type == "object")
        for pair in chain.from_iterable(each.children for each in objects):
            if pair.type == "pair" and self._string(_key(pair)) == field:
                return self._value(_of(pair))
        return None

    def _value(self, node: "Node | None") -> tuple[str, Span] | None:
        """What stands between the quotation marks of a text, or the brackets of a list of texts."""
        if node is None or node.type not in ("string", "array"):
            return None
        start, end = self.bytes.char(node.start_byte) + 1, self.bytes.char(node.end_byte) - 1
        return self.text[start:end], (start, end)

    def _string(self, node: "Node") -> str:
        return self.bytes.data[node.start_byte + 1 : node.end_byte - 1].decode(
            "utf-8", "surrogatepass"
        )


def _upwards(node: "Node") -> "Iterator[Node]":
    """A node, the one that it stands in, and so on."""
    each: Node | None = node
    while each is not None:
        yield each
        each = each.parent


def _key(pair: "Node") -> "Node":
    return _part_of(pair, "key")


def _of(pair: "Node") -> "Node":
    return _part_of(pair, "value")


def _part_of(pair: "Node", name: str) -> "Node":
    part = pair.child_by_field_name(name)
    # The whole was parsed without an error: a pair has both.
    assert part is not None
    return part


def _first_error(node: "Node") -> int:
    while True:
        inner = next(
            (child for child in node.children if child.has_error or child.is_missing), None
        )
        if inner is None:
            return int(node.start_point[0]) + 1
        node = inner
