"""Records as values of JSON, where the words of a record are those of its JSON (docs/json.md)."""

from collections.abc import Mapping
from typing import Any

from msgspec import Struct
from msgspec.structs import asdict

from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Claim


def plain(value: object) -> Any:
    """A record as a map of its fields, a trigger as its text, a set in order; what is plain stays."""
    if value is None or isinstance(value, (str, int, float, bool)):
        return value
    if isinstance(value, Run):
        return str(value)
    if isinstance(value, Claim):
        return {
            "key": str(value.trigger),
            "command": value.command or None,
            "does": value.wired or None,
            "mode": value.mode,
            "layer": value.layer,
            "scheme": value.origin or None,
        }
    if isinstance(value, Struct):
        return {name.replace("_", "-"): plain(each) for name, each in asdict(value).items()}
    if isinstance(value, Mapping):
        return {str(name): plain(each) for name, each in value.items()}
    if isinstance(value, frozenset):
        return sorted(plain(each) for each in value)
    if isinstance(value, (tuple, list)):
        return [plain(each) for each in value]
    return str(value)
