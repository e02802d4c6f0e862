"""What two desks have otherwise, file by file; and an application from one layer down."""

from collections.abc import Iterator
from typing import Any

from msgspec import Struct

from olive_compass.core.schemes.claims import Stack, in_layer_order
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.layers import FACTORY, PLACE
from olive_compass.core.sharing.comparing import (
    GONE,
    NEW,
    Difference,
    HowChanged,
    compare_catalogues,
    compare_keysets,
    compare_macros,
    compare_purposes,
    compare_trays,
)
from olive_compass.core.sharing.comparing_schemes import compare_schemes
from olive_compass.core.sharing.keysets import KeySet
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import keyset_file
from olive_compass.structs import replace


class Section(Struct, frozen=True):
    """Differences of one file or thing: its name, and the application for titles (``""``: none)."""

    name: str
    app: str
    differences: list[Difference]


def stack_down_from(desk: Desk, app: str, name: str) -> Stack:
    """The stack of an application from a layer or scheme down, all above it left out.

    A scheme that does not count now stands in the place of those of its own layer.
    """
    stack = desk.stack(app)
    if name == FACTORY:
        return replace(stack, schemes=())
    scheme = desk.scheme(stack.app, name)
    if name in stack.scheme_names:
        return stack.down_from(name)
    # Only what lies below has a say in what it does; those of its own layer are its rivals.
    below = [each for each in stack.schemes if PLACE[each.layer] > PLACE[scheme.layer]]
    return replace(stack, schemes=in_layer_order([scheme, *below]))


def _of_app(a: Desk, b: Desk, app: str) -> Iterator[Section]:
    """The differences of an application's commands, macros and trays; or that one desk lacks it."""
    if app not in b.app_names() or app not in a.app_names():
        what: HowChanged = GONE
        if app in b.app_names():
            what = NEW
        yield Section(f"apps/{app}", app, [Difference(what=what, table="apps", subject=app)])
        return
    yield Section(f"apps/{app}", app, compare_catalogues(a.catalogue(app), b.catalogue(app)))
    yield Section(f"macros/{app}", app, compare_macros(a.macros(app), b.macros(app)))
    yield Section(f"trays/{app}", app, compare_trays(a.trays(app), b.trays(app)))


def compare_desks(a: Desk, b: Desk) -> list[Section]:
    """The differences of two desks, file by file, without identical files."""
    sections: list[Section] = []
    for app in sorted({*a.app_names(), *b.app_names()}):
        sections += _of_app(a, b, app)
    for app in sorted({*a.app_names(), *b.app_names()}):
        for name in sorted({*a.scheme_names(app), *b.scheme_names(app)}):
            sides = [_scheme(desk, app, name) for desk in (a, b)]
            sections.append(Section(f"schemes/{app}/{name}", app, compare_schemes(*sides)))
    for name in sorted({*a.keyset_names(), *b.keyset_names()}):
        sets = [_keyset(desk, name) for desk in (a, b)]
        sections.append(Section(f"keysets/{name}", "", compare_keysets(*sets)))
    sections.append(Section("purposes", "", compare_purposes(a.purposes, b.purposes)))
    return [section for section in sections if section.differences]


def _scheme(desk: Desk, app: str, name: str) -> Scheme:
    if app in desk.app_names() and name in desk.scheme_names(app):
        return desk.scheme(desk.app(app), name)
    return Scheme(app=app, name=name)


def _keyset(desk: Desk, name: str) -> KeySet:
    if name not in desk.keyset_names():
        return KeySet(name)
    path = keyset_file.keyset_path(name)
    return keyset_file.read(desk.bytes(path), path, name)


class Side(Struct, frozen=True):
    """One side: what it is called and what it is; ``stack`` is what presses do by it, where that can
    be said: a layer with all that lies below it, or an application as it counts."""

    label: str
    what: Any
    stack: Stack | None = None


def keymaps_of(desk: Desk, one: Side, other: Side) -> list[tuple[Keymap, Keymap]] | None:
    """The two sides as keymaps on this desk's keyboard, application by application.

    None where they are nothing that presses could be compared in.
    """
    if one.stack and other.stack:
        if one.stack.app.name != other.stack.app.name:
            return None
        return [(Keymap(one.stack, desk.keyboard), Keymap(other.stack, desk.keyboard))]
    a, b = one.what, other.what
    if not (isinstance(a, Desk) and isinstance(b, Desk)):
        return None
    apps = [name for name in a.app_names() if name in b.app_names()]
    return [(Keymap(a.stack(n), desk.keyboard), Keymap(b.stack(n), desk.keyboard)) for n in apps]


def subject_title(desk: Desk | None, section: Section, each: Difference) -> str:
    """What a difference is about: a command's title where it is one."""
    if desk is None or not section.app or section.app not in desk.app_names():
        return each.subject
    known = desk.app(section.app).catalogue.by_id.get(each.subject)
    if known:
        return known.title
    return each.subject
