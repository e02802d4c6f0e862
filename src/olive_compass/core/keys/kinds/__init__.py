"""The kinds of triggers: one module each in this folder, found by its being here.

A module holds ``KIND``, a ``Kind`` (see ``kind.py``): how it is read and written, which press it is,
what it types, where it sits, its effort, and how the rules of an application treat it. A
module whose kind is written with a prefix has the name of the prefix: ``wheel.py`` for ``wheel:up``.
"""

from functools import cache
from importlib import import_module

from olive_compass.core.keys.kinds.kind import Broken, Kind, Sits, StrokeQuery, UnreadableError
from olive_compass.core.keys.triggers import Stroke
from olive_compass.modules import module_names

__all__ = [
    "Broken",
    "Kind",
    "Sits",
    "StrokeQuery",
    "UnreadableError",
    "kind_called",
    "kind_of",
    "kinds",
    "named",
    "prefixed",
]

#: The modules here that no prefix leads to.
_OTHERS = ("kind", "key", "place", "device")


@cache
def _prefixes() -> frozenset[str]:
    return frozenset(module_names(__path__)) - set(_OTHERS)


@cache
def kind_called(name: str) -> Kind:
    """The kind in the module ``name``."""
    found: Kind = import_module(f"{__name__}.{name}").KIND
    return found


@cache
def kinds() -> tuple[Kind, ...]:
    """Every kind; keys first, the others by name."""
    return tuple(map(kind_called, ("key", "place", *sorted(_prefixes()), "device")))


def kind_of(stroke: Stroke) -> Kind:
    """The kind that a stroke is of."""
    if stroke.by_place:
        return kind_called("place")
    return kind_called(_module(stroke.key))


def _module(key: str) -> str:
    """The module of the kind that a key in our own writing is of."""
    name, colon, rest = key.partition(":")
    if not colon or not rest or not name[:1].isalpha():
        return "key"
    if name in _prefixes():
        return name
    return "device"


def prefixed(text: str) -> Kind | None:
    """The kind of trigger that a text begins as, None: it is a key by what it types."""
    if text[:1] == "@" and len(text) > 1:
        return kind_called("place")
    module = _module(text.lower())
    if module == "key":
        return None
    return kind_called(module)


def named(words: str) -> str:
    """The key that words of a listing name (``wheel up``, ``double click``), ``""``: none of ours.

    ``words`` are in lower case, with one space between them.
    """
    return next((key for kind in kinds() if (key := kind.named(words))), "")
