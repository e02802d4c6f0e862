"""Compares decisions, not lines: what is new, gone, moved to another key, swapped, reworded."""

from collections.abc import Iterable, Iterator, Mapping
from typing import Final, Literal, TypeVar

from msgspec import Struct

from olive_compass.core.apps.app import Catalogue, Command
from olive_compass.core.apps.marks import Marks
from olive_compass.core.apps.trays import Tray
from olive_compass.core.keys.triggers import Run
from olive_compass.core.macros.macro import Macro
from olive_compass.core.sharing.keysets import KeySet
from olive_compass.core.sharing.purposes import Purpose, Purposes
from olive_compass.structs import replace

_Name = TypeVar("_Name")
_Side = TypeVar("_Side")

#: What a difference is.
HowChanged = Literal["new", "gone", "moved", "swapped", "mode changed", "reason changed", "changed"]
NEW: Final = "new"
GONE: Final = "gone"
MOVED: Final = "moved"
SWAPPED: Final = "swapped"
MODES: Final = "mode changed"
REASON: Final = "reason changed"
CHANGED: Final = "changed"


class Difference(Struct, frozen=True, kw_only=True):
    """One decision that differs: what it is, of which table, about what, before and after.

    ``before`` and ``after`` are texts, ``""`` where there is nothing. ``subject`` is a command, a
    trigger or a purpose as the file has it.
    """

    what: HowChanged
    table: str
    subject: str
    before: str = ""
    after: str = ""
    why: str = ""


def each_pair(
    before: Mapping[_Name, _Side], after: Mapping[_Name, _Side]
) -> Iterator[tuple[_Name, _Side | None, _Side | None]]:
    """What two sides have under each name, the later one's names first."""
    for name in dict.fromkeys((*after, *before)):
        yield name, before.get(name), after.get(name)


def came_or_went(old: object, new: object) -> HowChanged:
    """Whether something is new, gone, or there on both sides and another."""
    if not old:
        return NEW
    if not new:
        return GONE
    return CHANGED


def compare_keysets(before: KeySet, after: KeySet) -> list[Difference]:
    """The purposes whose triggers differ."""
    found = []
    for id_, old, new in each_pair(before.keys, after.keys):
        texts = tuple(", ".join(map(str, e.triggers)) if e else "" for e in (old, new))
        if old is None or new is None:
            what = came_or_went(old, new)
        elif old.triggers != new.triggers:
            what = MOVED
        elif old.why != new.why:
            what, texts = REASON, (old.why, new.why)
        else:
            continue
        why = new.why if new else ""
        found.append(
            Difference(
                what=what, table="keys", subject=id_, before=texts[0], after=texts[1], why=why
            )
        )
    return with_swaps(found)


def compare_catalogues(before: Catalogue, after: Catalogue) -> list[Difference]:
    """Commands that are new, gone, renamed, or whose factory keys moved."""
    found = []
    for id_, old, new in each_pair(before.by_id, after.by_id):
        if old is None or new is None:
            what = came_or_went(old, new)
            found.append(
                Difference(
                    what=what,
                    table="commands",
                    subject=id_,
                    before=_command(old),
                    after=_command(new),
                )
            )
            continue
        if old.keys != new.keys:
            found.append(
                Difference(
                    what=MOVED,
                    table="factory keys",
                    subject=id_,
                    before=keys_of(old.keys),
                    after=keys_of(new.keys),
                )
            )
        for name in ("title", "menu", "modes", "kind", "does", "inputs", "marks"):
            was, is_now = (_text(getattr(each, name)) for each in (old, new))
            if was != is_now:
                found.append(
                    Difference(what=CHANGED, table=name, subject=id_, before=was, after=is_now)
                )
    return with_swaps(found)


def compare_macros(before: Mapping[str, Macro], after: Mapping[str, Macro]) -> list[Difference]:
    """Macros that are new, gone or have other steps."""
    found = []
    for name, old, new in each_pair(before, after):
        if old is None or new is None:
            what = came_or_went(old, new)
            found.append(
                Difference(
                    what=what, table="macros", subject=name, before=_steps(old), after=_steps(new)
                )
            )
        elif replace(old, steps=()) != replace(new, steps=()) or (
            [s.meaning for s in old.steps] != [s.meaning for s in new.steps]
        ):
            found.append(
                Difference(
                    what=CHANGED,
                    table="macros",
                    subject=name,
                    before=_steps(old),
                    after=_steps(new),
                )
            )
    return found


def compare_trays(before: Iterable[Tray], after: Iterable[Tray]) -> list[Difference]:
    """Trays that are new, gone, or other in what stands on them, where they stand or what they are."""
    olds, news = ({(t.layer, t.name): t for t in side} for side in (before, after))
    found = []
    for (_, name), old, new in each_pair(olds, news):
        if old != new:
            why = (new or old).why  # type: ignore[union-attr]
            found.append(
                Difference(
                    what=came_or_went(old, new),
                    table="trays",
                    subject=name,
                    before=_held(old),
                    after=_held(new),
                    why=why,
                )
            )
    return found


def _held(tray: Tray | None) -> str:
    """What a tray is, in a line."""
    if tray is None:
        return ""
    parts = [
        f"{g.title}: {', '.join(g.items)}" if g.title else ", ".join(g.items) for g in tray.groups
    ]
    fills = []
    if tray.fill:
        fills = [f"{tray.most} {tray.fill}"]
    off = ["off"] if tray.off else []
    return "; ".join([f"{tray.title} ({tray.kind}, {tray.place})", *off, *fills, *parts])


def compare_purposes(before: Purposes, after: Purposes) -> list[Difference]:
    """Purposes that are new, gone or served by other commands."""
    found = []
    for id_, old, new in each_pair(before.by_id, after.by_id):
        if old is None or new is None:
            what = came_or_went(old, new)
            found.append(
                Difference(
                    what=what,
                    table="purposes",
                    subject=id_,
                    before=_served(old),
                    after=_served(new),
                )
            )
        elif replace(old, line=0) != replace(new, line=0):
            what = CHANGED
            if old.links != new.links:
                what = MOVED
            found.append(
                Difference(
                    what=what,
                    table="purposes",
                    subject=id_,
                    before=_served(old),
                    after=_served(new),
                )
            )
    return found


def with_swaps(found: Iterable[Difference]) -> list[Difference]:
    """Two that moved to each other's keys are a swap."""
    found = list(found)
    by_texts = {(d.before, d.after): d for d in found if d.what == MOVED}

    def is_swap(each: Difference) -> bool:
        other = by_texts.get((each.after, each.before))
        return each.what == MOVED and other is not None and bool(each.before and each.after)

    return [replace(d, what=SWAPPED) if is_swap(d) else d for d in found]


def keys_of(runs: Iterable[Run]) -> str:
    return ", ".join(map(str, runs)) or "none"


def _command(command: Command | None) -> str:
    if command is None:
        return ""
    if command.keys:
        return f"{command.title} ({keys_of(command.keys)})"
    return command.title


def _steps(macro: Macro | None) -> str:
    if macro:
        return f"{macro.title}, {len(macro.steps)} steps"
    return ""


def _served(purpose: Purpose | None) -> str:
    links = sorted(purpose.links.items()) if purpose else ()
    return ", ".join(f"{app}: {' '.join(commands)}" for app, commands in links)


def _text(value: object) -> str:
    if isinstance(value, Marks):
        return " ".join(value.words)
    if isinstance(value, tuple):
        return " > ".join(value)
    return str(value)
