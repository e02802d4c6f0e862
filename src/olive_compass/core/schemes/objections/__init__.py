"""What can stand against a key: one module each in this folder, found by its being here.

A module holds ``KIND``: how grave it is, how it is found, and the sentence that says it.
"""

from functools import cache
from importlib import import_module
from typing import Any

from olive_compass.core.schemes.objections.kind import Kind
from olive_compass.modules import module_names

__all__ = ["Kind", "kinds"]


@cache
def kinds() -> dict[str, Kind[Any]]:
    """All kinds of objections by id, the gravest first."""
    names = [name for name in module_names(__path__) if name != "kind"]
    found: list[Kind[Any]] = [import_module(f"{__name__}.{name}").KIND for name in names]
    return {kind.id: kind for kind in sorted(found, key=lambda kind: kind.order)}
