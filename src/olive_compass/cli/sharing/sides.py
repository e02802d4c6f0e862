"""The two sides of a comparison: schemes, key sets, applications, desks and bundles by name."""

import os
from collections.abc import Iterator
from typing import Any

from msgspec import Struct

from olive_compass.cli import pick
from olive_compass.cli.intake.reading import ReadingOptions, read_for
from olive_compass.cli.sharing.keysets import keyset_named
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import App
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
from olive_compass.core.sharing.comparing_schemes import compare_schemes, factory_scheme
from olive_compass.core.sharing.keysets import KeySet
from olive_compass.core.sharing.upgrading import upgrade
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import keyset_file
from olive_compass.desk.paths import DESK_FILE
from olive_compass.errors import UserError
from olive_compass.structs import replace


class Section(Struct, frozen=True):
    """Differences of one file or thing: its name, and the application for titles (``""``: none)."""

    name: str
    app: str
    differences: list[Difference]


class Side(Struct, frozen=True):
    """One side: what it is called and what it is; ``stack`` is what presses do by it, where that can
    be said: a layer with all that lies below it, or an application as it counts."""

    label: str
    what: Any
    stack: Stack | None = None


def _scheme_side(desk: Desk, context: Surroundings, given: str) -> Side:
    """A scheme, or the factory's, with the layers below it."""
    app, name = pick.app_and_scheme(desk, given, context)
    stack = stack_down_from(desk, app.name, name)
    if name == FACTORY:
        return Side(given, factory_scheme(app), stack)
    return Side(given, desk.scheme(app, name), stack)


def side(desk: Desk, context: Surroundings, given: str) -> Side:
    """What a word names; raises ``UserError``. Other desks are read as on the platform of this one."""
    path = os.path.join(context.folder, given)
    if given.endswith(".zip"):
        from olive_compass.desk.bundles import opened

        return Side(given, opened(path, given, desk.settings.platform))
    if os.path.isdir(path) and os.path.isfile(os.path.join(path, DESK_FILE)):
        return Side(given, Desk(path, platform=desk.settings.platform))
    if given.startswith("keyset:"):
        return Side(given, keyset_named(desk, given[7:]))
    # A file before a scheme: `lists/quillmap` may be both, and what lies there can be seen.
    if os.path.isfile(path):
        return Side(given, path)
    if given.startswith((".", "/", "~")):
        raise UserError(f"There is no desk, bundle or list “{given}”.")
    if "/" in given:
        return _scheme_side(desk, context, given)
    # Applications are named far oftener; a set of the same name is reached by `keyset:`.
    if given in desk.keyset_names() and given not in desk.app_names():
        return Side(given, keyset_named(desk, given))
    stack = desk.stack(desk.app_name(given))
    return Side(given, stack.app, stack)


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


def with_listing(
    said: ReadingOptions, desk: Desk, context: Surroundings, one: Side, other: Side
) -> Side:
    """``one`` where it is a listing's file: another version of the application of ``other``."""
    if not isinstance(one.what, str):
        return one
    if not isinstance(other.what, App):
        raise UserError(f"“{one.label}” is a file: compare it with the application that it lists.")
    listing = read_for(said, one.label, context, desk, other.what)
    # By the same matching as `upgrade`: a command with a new id must not look gone and new.
    found = upgrade(Stack(other.what), listing.catalogue, "", desk.keyboard)
    return Side(one.label, found.app)


def compared(one: Side, other: Side) -> list[Section]:
    """The differences of two sides; raises ``UserError`` where they are of different kinds."""
    a, b = one.what, other.what
    if isinstance(a, Scheme) and isinstance(b, Scheme):
        return [Section("", b.app, compare_schemes(a, b))]
    if isinstance(a, KeySet) and isinstance(b, KeySet):
        return [Section("", "", compare_keysets(a, b))]
    if isinstance(a, Desk) and isinstance(b, Desk):
        return compare_desks(a, b)
    if type(a) is type(b):
        return [Section("", b.name, compare_catalogues(a.catalogue, b.catalogue))]
    raise UserError(
        f"“{one.label}” and “{other.label}” are not of one kind.",
        hint="Compare two schemes (APP/NAME), key sets (keyset:NAME), applications, desks or bundles.",
    )


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
