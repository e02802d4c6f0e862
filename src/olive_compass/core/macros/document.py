"""The document of the simulator: a few things, a selection, settings, a mode. A value."""

from collections.abc import Iterable, Mapping
from types import MappingProxyType

from msgspec import Struct

from olive_compass.core.apps.modes import ROOT
from olive_compass.structs import replace

#: How many changes a document can take back.
MOST_PAST = 100


class Thing(Struct, frozen=True, kw_only=True):
    """Something that was placed: ``id`` such as ``light-2``, what it is, where, and its values."""

    id: str
    what: str
    at: tuple[float, float] | None = None
    values: Mapping[str, str] = MappingProxyType({})


class Document(Struct, frozen=True, kw_only=True):
    """What the simulator holds. ``deeds`` are what was done that leaves no thing behind.

    ``shown`` is what was shown, the last one now; ``past`` and ``future`` are what undo and redo
    go to, and are not kept in a file.
    """

    name: str = "Untitled"
    mode: str = ROOT
    things: tuple[Thing, ...] = ()
    selection: tuple[str, ...] = ()
    settings: Mapping[str, str] = MappingProxyType({})
    deeds: tuple[str, ...] = ()
    panels: tuple[str, ...] = ()
    shown: tuple[str, ...] = ("the whole document",)
    zoom: int = 0
    saved: bool = False
    past: tuple["Document", ...] = ()
    future: tuple["Document", ...] = ()

    @property
    def by_id(self) -> dict[str, Thing]:
        return {thing.id: thing for thing in self.things}

    def changed(self, **fields: object) -> "Document":
        """The document with ``fields`` changed, which can be taken back."""
        past = (*self.past[-MOST_PAST:], replace(self, past=(), future=()))
        after = replace(self, **fields)  # type: ignore[arg-type]
        return replace(after, past=past, future=(), saved=False)

    @property
    def kept(self) -> "Document":
        """The document without what undo needs: what two documents are compared by."""
        return replace(self, past=(), future=())


def free_id(things: Iterable[Thing], what: str) -> str:
    """An id for a new thing: its name and the first number that is free.

    >>> free_id([Thing(id="spot-height-1", what="Spot height")], "Spot height")
    'spot-height-2'
    """
    stem = "-".join("".join(c if c.isalnum() else " " for c in what.casefold()).split()) or "thing"
    taken = {thing.id for thing in things}
    n = 1
    while f"{stem}-{n}" in taken:
        n += 1
    return f"{stem}-{n}"


def differences(before: Document, after: Document) -> list[str]:
    """What ``after`` has, lacks or has otherwise, in short sentences."""
    old, new = before.by_id, after.by_id
    lines = [f"new: {described(new[id_])}" for id_ in new if id_ not in old]
    lines += [f"gone: {described(old[id_])}" for id_ in old if id_ not in new]
    lines += [
        f"changed: {described(old[id_])} -> {described(new[id_])}"
        for id_ in new
        if id_ in old and old[id_] != new[id_]
    ]
    for name in sorted({*before.settings, *after.settings}):
        if before.settings.get(name) != after.settings.get(name):
            was = before.settings.get(name, "unset")
            lines.append(f"{name}: {was} -> {after.settings.get(name, 'unset')}")
    lines += [f"done: {deed}" for deed in after.deeds[len(before.deeds) :]]
    if before.mode != after.mode:
        lines.append(f"mode: {before.mode} -> {after.mode}")
    return lines


def described(thing: Thing) -> str:
    """A thing in one line: ``light-1 (Light with sectors) at 120,80, character Fl.W.5s``."""
    where = ""
    if thing.at:
        where = f" at {thing.at[0]:g},{thing.at[1]:g}"
    values = "".join(f", {name} {value}" for name, value in sorted(thing.values.items()))
    return f"{thing.id} ({thing.what}){where}{values}"
