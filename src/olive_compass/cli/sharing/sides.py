"""The two sides of a comparison: schemes, key sets, applications, desks and bundles by name."""

import os

from olive_compass.cli import pick
from olive_compass.cli.intake.reading import read_for
from olive_compass.cli.sharing.keysets import keyset_named
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import App
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.layers import FACTORY
from olive_compass.core.sharing.comparing import compare_catalogues, compare_keysets
from olive_compass.core.sharing.comparing_schemes import compare_schemes, factory_scheme
from olive_compass.core.sharing.keysets import KeySet
from olive_compass.core.sharing.upgrading import upgrade
from olive_compass.desk.comparing import Section, Side, compare_desks, stack_down_from
from olive_compass.desk.desk import Desk
from olive_compass.desk.importing.readings import ReadingOptions
from olive_compass.desk.paths import DESK_FILE
from olive_compass.errors import UserError


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
