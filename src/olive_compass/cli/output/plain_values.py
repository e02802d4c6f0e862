"""Records as values of JSON, where the words of a record are those of its JSON (docs/json.md)."""

from collections.abc import Mapping
from functools import singledispatch
from typing import Any

from msgspec import Struct
from msgspec.structs import asdict

from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Claim


@singledispatch
def plain(value: object) -> Any:
    """A record as a map of its fields, a trigger as its text, a set in order; what is plain stays."""
    return str(value)


@plain.register(str)
@plain.register(int)
@plain.register(float)
@plain.register(type(None))
def _(value: object) -> Any:
    return value


@plain.register
def _(value: Struct) -> Any:
    return {name.replace("_", "-"): plain(each) for name, each in asdict(value).items()}


@plain.register
def _(value: Run) -> Any:
    return str(value)


@plain.register
def _(value: Claim) -> Any:
    return {
        "key": str(value.trigger),
        "command": value.command or None,
        "does": value.wired or None,
        "mode": value.mode,
        "layer": value.layer,
        "scheme": value.origin or None,
    }


@plain.register
def _(value: Mapping) -> Any:  # type: ignore[type-arg]
    return {str(name): plain(each) for name, each in value.items()}


@plain.register(tuple)
@plain.register(list)
def _(value: tuple[object, ...] | list[object]) -> Any:
    return [plain(each) for each in value]


@plain.register(frozenset)
def _(value: frozenset[Any]) -> Any:
    return sorted(plain(each) for each in value)
