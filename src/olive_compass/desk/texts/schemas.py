"""Reads what a file says as the record that its format is: every mistake at once, each with its place.

A format is a ``Format``: its fields and their types are what the file may say, and the JSON Schema in ``docs/formats``
is made from them. A file that fits is read by ``msgspec`` alone. One that does not is held against that schema, and
each mistake is said in a sentence: in the words that the type brings with it (``saying``), or in general ones.
"""

from collections.abc import Iterator, Mapping, Sequence
from typing import TYPE_CHECKING, Annotated, Any, NamedTuple, TypeVar

from msgspec import Meta, Struct, ValidationError

from olive_compass.errors import UserError
from olive_compass.structs import convert

if TYPE_CHECKING:
    from jsonschema.exceptions import ValidationError as SchemaError

Kind = TypeVar("Kind")

#: Where something is in a file: the names of the tables and of the key in them; a number counts the items of a list.
Path = tuple[str | int, ...]

#: How much of a value is shown, in characters.
MOST_SHOWN = 80

#: The key of a schema under which a type keeps its own sentence, and the one for a field that is missing.
_SAYS, _LACKS = "x-says", "x-lacks"


class Format(Struct, frozen=True, kw_only=True, forbid_unknown_fields=True, rename="kebab"):
    """A table of a file of ours: its keys are the fields, with ``-`` in place of ``_``."""


class Mistake(NamedTuple):
    """What is wrong in a file: where, and the sentence."""

    path: Path
    says: str


def saying(says: str, lacks: str = "", **limits: Any) -> Meta:
    """The limits of a type, and what is said of a value that does not fit it.

    ``{key}`` is its key and ``{value}`` itself; ``lacks`` is said of a table in which a field is missing.
    """
    if lacks:
        own = {_SAYS: says, _LACKS: lacks}
    else:
        own = {_SAYS: says}
    return Meta(extra_json_schema=own, **limits)


_NO_TEXTS = saying("“{key}” is a list of texts.")

#: A list of texts: of modes or ids, say.
Texts = Annotated[tuple[Annotated[str, _NO_TEXTS], ...], _NO_TEXTS]


def fitted(content: Any, kind: type[Kind], called: str) -> tuple[Kind, list[Mistake]]:
    """What a file says as a record of ``kind``, what does not fit left out, and the mistakes in it.

    ``called`` is the format in words, such as ``a scheme``.
    """
    try:
        return convert(content, kind), []
    except ValidationError as error:
        found = wrong = list(_mistakes(content, kind, called))
        while wrong and all(each.path for each in wrong):
            content = _without(content, {each.path for each in wrong})
            # What is left may lack what it needs, and goes as well.
            wrong = list(_mistakes(content, kind, called))
        if wrong or not found:
            says = " ".join(each.says for each in wrong) or f"This is not {called}: {error}."
            raise UserError(says) from error
        return convert(content, kind), found


def refuse_together(mistakes: Sequence[Mistake], file: str) -> None:
    """Raises ``UserError`` with all mistakes of a file whose lines say nothing to a person, if there are any."""
    if mistakes:
        raise UserError(" ".join(each.says for each in mistakes), file=file)


def published(title: str, *kinds: type) -> dict[str, Any]:
    """The JSON Schema of a format, as it stands in the docs; of several kinds of lines, of each of them."""
    from msgspec.json import schema_components

    tops, inner = schema_components(kinds)
    head = {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": title}
    if len(kinds) == 1:
        top = tops[0]
    else:
        top = {"oneOf": list(tops)}
    return {**head, **top, "$defs": _stripped(inner)}


def _schema(kind: type) -> dict[str, Any]:
    from msgspec.json import schema

    return schema(kind)


def _stripped(node: Any) -> Any:
    """A schema without our sentences, for a program that reads it knows nothing of them; each description in a line."""
    if isinstance(node, list):
        return [_stripped(each) for each in node]
    if not isinstance(node, dict):
        return node
    found = {name: _stripped(each) for name, each in node.items() if name not in (_SAYS, _LACKS)}
    if isinstance(found.get("description"), str):
        found["description"] = " ".join(found["description"].split())
    return found


def _mistakes(content: Any, kind: type, called: str) -> Iterator[Mistake]:
    # Loaded here: nothing of it is needed while files are in order.
    from jsonschema import Draft202012Validator
    from jsonschema.validators import extend

    # To JSON Schema 2.0 is a whole number, to TOML it is none.
    types = Draft202012Validator.TYPE_CHECKER.redefine(
        "integer", lambda _, value: type(value) is int
    )
    schema = _schema(kind)
    validator = extend(Draft202012Validator, type_checker=types)(schema)
    for error in validator.iter_errors(content):
        for inner in _innermost(error):
            path = tuple(inner.absolute_path)
            if inner.validator == "additionalProperties":
                yield from _unknown(inner, path, called)
            else:
                yield Mistake(path, _sentence(inner, path, schema, called))


def _innermost(error: "SchemaError") -> Iterator["SchemaError"]:
    """The mistakes within one: where one of several kinds of value may stand, those of the kind that was meant."""
    kinds: dict[Any, list[SchemaError]] = {}
    for each in error.context or ():
        kinds.setdefault(each.schema_path[0], []).append(each)
    # A value is meant as the kind of which it has the type: a table as the table, a list as the list.
    meant = [each for each in kinds.values() if not any(_other_type(inner) for inner in each)]
    if len(meant) != 1:
        yield error
        return
    for each in meant[0]:
        yield from _innermost(each)


def _other_type(error: "SchemaError") -> bool:
    return error.validator == "type" and not error.relative_path


def _unknown(error: "SchemaError", path: Path, called: str) -> Iterator[Mistake]:
    """A sentence for each key that a table does not know, with the nearest one that it knows."""
    from olive_compass.near import nearest

    known = list(error.schema["properties"])
    for key in error.instance:
        if key not in known:
            near = nearest(key, known)
            if near:
                hint = f"did you mean “{near}”?"
            else:
                hint = f"it has {', '.join(known)}."
            yield Mistake((*path, key), f"“{key}” is no key of {_table(path, called)}; {hint}")


def _allowed(schema: dict[str, Any]) -> list[Any]:
    """The values that a schema names."""
    kinds = (schema, *schema.get("anyOf", ()))
    return [each for kind in kinds for each in kind.get("enum", ())]


def _sentence(error: "SchemaError", path: Path, schema: dict[str, Any], called: str) -> str:
    key = next((each for each in reversed(path) if isinstance(each, str)), "")
    lacks = error.validator == "required"
    own = _own_sentence(schema, list(error.absolute_schema_path), _LACKS if lacks else _SAYS)
    if own:
        return own.format(key=key, value=str(error.instance)[:MOST_SHOWN])
    if lacks:
        missing = [each for each in error.validator_value if each not in error.instance]
        return f"“{missing[0]}” is missing in {_table(path, called)}."
    if allowed := _allowed(error.schema):
        return f"“{key}” is one of {', '.join(str(each) for each in allowed if each != '')}."
    return f"“{key}” has a value of the wrong kind in {_table(path[:-1], called)}."


def _own_sentence(schema: dict[str, Any], path: list[Any], name: str) -> str:
    """The sentence of the type that a value does not fit, ``""``: it brings none."""
    node: Any = schema["$defs"][schema["$ref"].rpartition("/")[2]]
    own = ""
    for step in path[:-1]:
        node = node[step]
        if isinstance(node, dict) and "$ref" in node:
            # The table stands elsewhere in the schema; its sentence is where it is used, or at the choice around it.
            own = node.get(name, own)
            node = schema["$defs"][node["$ref"].rpartition("/")[2]]
        elif isinstance(node, dict):
            # One of several kinds of value has the sentence of the choice, unless it has its own.
            own = node.get(name, own if isinstance(step, int) else "")
    return str(own)


def _table(path: Path, called: str) -> str:
    """The table at a place of the file, in words."""
    names = [each for each in path if isinstance(each, str)]
    if not names:
        return called
    if len(names) == 1:
        return f"[{names[0]}]"
    return f"“{names[-1]}”"


def _without(content: Any, paths: set[Path], at: Path = ()) -> Any:
    """The content without what is at these places."""
    if isinstance(content, Mapping):
        return {
            key: _without(each, paths, (*at, key))
            for key, each in content.items()
            if (*at, key) not in paths
        }
    if isinstance(content, list):
        kept = [(n, each) for n, each in enumerate(content) if (*at, n) not in paths]
        return [_without(each, paths, (*at, n)) for n, each in kept]
    return content
