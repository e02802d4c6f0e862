"""``app rules``: shows what an application allows, and sets it."""

import argparse

from olive_compass.cli import pick
from olive_compass.cli.catalogues.rule_values import KEY_TABLES, name_and_value, value_of
from olive_compass.cli.catalogues.rules_shown import show_rules
from olive_compass.cli.changing.keeping import Writing, keep, writing_of
from olive_compass.cli.options import WriteOptions, app_argument, write_options
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import App
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import app_file, app_writing, seat_file
from olive_compass.desk.formats.app_file import Reading
from olive_compass.desk.paths import app_path
from olive_compass.desk.storage.records import FileChange
from olive_compass.errors import UserError
from olive_compass.structs import replace

#: The options that set something, and the table of ``app.toml`` that each is of.
_TABLES = {
    "set": "rules",
    "swipes": "swipes",
    "licence": "licences",
    "reserved": "reserved",
    "unlisted": "unlisted",
}


#: What was typed for a table: its name, and each ``NAME=VALUE`` in turn.
Pairs = list[tuple[str, str]]


def options(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument(
        "--set",
        action="append",
        default=[],
        metavar="RULE=VALUE",
        help="set a rule, such as duplicates=refuse, most-keys=1 or modifiers=Ctrl,Shift",
    )
    parser.add_argument(
        "--swipes",
        action="append",
        default=[],
        metavar="MODE=N",
        help="the number of swipe directions in a mode",
    )
    parser.add_argument(
        "--forget-reading",
        action="store_true",
        help="forget how its lists were read: columns, pattern, form",
    )
    parser.add_argument(
        "--licence",
        action="append",
        default=[],
        metavar="NAME=yes|no",
        help="whether this computer has the licence",
    )
    parser.add_argument(
        "--reserved",
        action="append",
        default=[],
        metavar="KEY=TEXT",
        help="a key that cannot be changed, and what it does (KEY= removes it)",
    )
    parser.add_argument(
        "--unlisted",
        action="append",
        default=[],
        metavar="KEY=TEXT",
        help="a key that works and that no list shows, and what it does (KEY= removes it)",
    )
    write_options(parser)


class AppRulesOptions(WriteOptions, kw_only=True):
    """The options of ``app rules``."""

    app: str
    set: list[str]
    swipes: list[str]
    forget_reading: bool
    licence: list[str]
    reserved: list[str]
    unlisted: list[str]


def rules(args: AppRulesOptions, context: Surroundings) -> int:
    """Runs ``app rules``."""
    pairs = [(table, each) for option, table in _TABLES.items() for each in getattr(args, option)]

    desk = pick.desk(args, context)
    app = desk.app(desk.app_name(args.app))
    if args.forget_reading:
        return _forget_reading(writing_of(args), context, desk, app)
    if not pairs:
        return show_rules(args.json, context, app, app_path(app.name), desk.reading(app.name))
    files, said = _ruled(desk, app, pairs)
    what = f"{app.title}: set {', '.join(said)}"
    typed = (name_and_value(pair)[0] for table, pair in pairs if table in KEY_TABLES)
    keys = [pick.trigger(app, key) for key in typed]
    lines = _not_got(desk, app, files[0], keys)
    return keep(writing_of(args), context, desk, files, what, lines, app=app.name)


def _forget_reading(how: Writing, context: Surroundings, desk: Desk, app: App) -> int:
    """Takes out what is kept of how the application's listings are read: the next is read by its own shape."""
    path = app_path(app.name)
    before = desk.bytes(path)
    after = app_writing.with_reading(before, Reading())
    what = f"{app.title}: forgot how its listings are read"
    return keep(how, context, desk, [FileChange(path, before, after)], what, app=app.name)


def _ruled(desk: Desk, app: App, pairs: Pairs) -> tuple[list[FileChange], list[str]]:
    """The files in which the rules are as they were typed, and what is said of each."""
    path = app_path(app.name)
    before = after = desk.bytes(path)
    own = seat = desk.bytes_or_none(seat_file.SEAT_FILE)
    said = []
    for table, pair in pairs:
        name, text = name_and_value(pair)
        value = value_of(table, name, text)
        if table in KEY_TABLES:
            name = _as_written(desk, app, path, table, name, value is None)
        if table == "licences" and value is not None:
            # That there is such a licence is known of the application; who has it, of a seat.
            seat = seat_file.with_value(seat, f"licences.{app.name}", name, value)
            if name in app.rules.licences:
                said.append(f"{name} = {text}")
                continue
            value = False
        after = app_writing.with_rule(after, table, name, value)
        if table == "rules" and name in app.rules.guessed:
            after = app_writing.without_guess(after, name)
        what = name
        if table == "swipes":
            what = f"swipes in {name}"
        said.append(f"{what} = {text or '(none)'}")
    # Read back before it is written: what is wrong is refused with its line.
    app_file.read(after, path, app.name)
    return [FileChange(path, before, after), FileChange(seat_file.SEAT_FILE, own, seat)], said


def _as_written(desk: Desk, app: App, path: str, table: str, key: str, is_off: bool) -> str:
    """How the file spells a key that it has already, or is to have; raises ``UserError`` where one that goes is not
    there."""
    trigger = pick.trigger(app, key)
    known = [name for in_table, name in desk.keys_of(path) if in_table == table and name]
    there = next((name for name in known if pick.trigger(app, name) == trigger), "")
    if is_off and not there:
        raise UserError(
            f"{app.title} has no {table} key {trigger}.",
            file=path,
            hint=f"It has {', '.join(known) or 'none'}.",
        )
    return there or str(trigger)


def _not_got(desk: Desk, app: App, file: FileChange, keys: list[Run]) -> tuple[str, ...]:
    """What the keys do once the rules are these, where a decision is concerned."""
    after = replace(app, rules=app_file.read(file.after or b"", file.path, app.name).rules)
    stack = desk.stack(app.name)
    before, now = (Keymap(each, desk.keyboard) for each in (stack, replace(stack, app=after)))
    lost = {
        f"{after.shown(claim.command)} does not get {key} any more.": None
        for key in keys
        for mode in after.modes.names
        for claim in before.winners(desk.keyboard.press_of(key), mode)
        if claim.command and claim not in now.winners(desk.keyboard.press_of(key), mode)
    }
    return tuple(lost)
