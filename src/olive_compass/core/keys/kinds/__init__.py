"""The kinds of triggers: one module each in this folder, found by its being here.

A module holds ``KIND``, a ``Kind`` (see ``kind.py``): how it is read and written, which press it is,
what it types, and what the rules of an application say of it.
"""

from functools import cache
from importlib import import_module

from olive_compass.core.keys.kinds.kind import Asked, Broken, Kind, Unreadable
from olive_compass.core.keys.triggers import Stroke
from olive_compass.siblings import module_names

__all__ = ["Asked", "Broken", "Kind", "Unreadable", "kind_of", "prefixed"]


@cache
def _kinds() -> dict[str, Kind]:
    """Every kind by its prefix."""
    names = [name for name in module_names(__path__) if name != "kind"]
    found: list[Kind] = [import_module(f"{__name__}.{name}").KIND for name in names]
    return {kind.prefix: kind for kind in found}


def kind_of(stroke: Stroke) -> Kind:
    """The kind that a stroke is of."""
    known = _kinds()
    if stroke.by_place:
        return known["@"]
    name, colon, _ = stroke.key.partition(":")
    return (known.get(name + colon) if colon else None) or known[""]


def prefixed(text: str) -> Kind | None:
    """The kind of trigger that a text begins as, None: it is a key by what it types."""
    plain = text.lower()
    return next(
        (k for p, k in _kinds().items() if p and len(plain) > 1 and plain.startswith(p)), None
    )
