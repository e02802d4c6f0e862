"""``app rules``: shows what an application allows, and sets it."""

import argparse
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import Writing, keep, writing_of
from olive_compass.cli.options import WriteOptions, app_argument, write_options
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.cli.terminal.tables import print_fields
from olive_compass.core.apps.app import RULE_TYPES, App, Rules
from olive_compass.core.apps.guesses import guessed
from olive_compass.core.keys.names import MODIFIERS
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.desk.desk import Desk, app_path
from olive_compass.desk.formats import app_file, app_writing, seat_file
from olive_compass.desk.formats.app_file import Reading
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

#: The tables of keys that no scheme decides.
_KEYS = ("reserved", "unlisted")

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
        return _show(args.json, context, app, app_path(app.name), desk.reading(app.name))
    files, said = _ruled(desk, app, pairs)
    what = f"{app.title}: set {', '.join(said)}"
    typed = (_parted(pair)[0] for table, pair in pairs if table in _KEYS)
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


def _read_by(reading: Reading) -> str:
    """How listings are read, as far as it is kept."""
    parts = [f"the format {reading.file_format}"] if reading.file_format else []
    if reading.pattern:
        parts.append(f"the pattern {reading.pattern}")
    parts += [f"{field} in {heading}" for field, heading in reading.columns.items()]
    if reading.groups != "guess":
        parts.append(f"rows with one cell: {reading.groups}")
    if reading.headings != "guess":
        parts.append(f"headings: {reading.headings}")
    return "; ".join(parts)


def _ruled(desk: Desk, app: App, pairs: Pairs) -> tuple[list[FileChange], list[str]]:
    """The files in which the rules are as they were typed, and what is said of each."""
    path = app_path(app.name)
    before = after = desk.bytes(path)
    own = seat = desk.bytes(seat_file.SEAT_FILE) if desk.has(seat_file.SEAT_FILE) else None
    said = []
    for table, pair in pairs:
        name, text = _parted(pair)
        value = _value(table, name, text)
        if table in _KEYS:
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
        what = f"swipes in {name}" if table == "swipes" else name
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


def _parted(pair: str) -> tuple[str, str]:
    """``NAME=VALUE`` in two; the name may be the key ``=``."""
    name, sign, text = pair.partition("=") if "==" not in pair else ("=", "=", pair[2:])
    if not sign:
        raise UserError(
            f"“{pair}” has no “=”.", hint="Write NAME=VALUE; an empty value takes it out."
        )
    return name.strip(), text.strip()


def _value(table: str, name: str, text: str) -> Any:
    """What a rule is set to, as its kind of value; None: nothing, so that it goes."""
    if not text:
        return None
    if table in _KEYS:
        return text
    kind = _KINDS[table] if table in _KINDS else _kind_of_rule(name)
    if kind is bool:
        return _yes_or_no(name, text)
    if kind is list:
        return _names(name, text)
    try:
        return kind(text)
    except ValueError as error:
        raise UserError(f"{name} is a number, not “{text}”.") from error


#: The kinds of the values of tables in which all have the same.
_KINDS: dict[str, type] = {"swipes": int, "licences": bool}


def _kind_of_rule(name: str) -> type:
    if name in RULE_TYPES:
        return RULE_TYPES[name]
    from olive_compass.near import did_you_mean

    known = f"There are {', '.join(RULE_TYPES)}."
    raise UserError(f"There is no rule “{name}”.", hint=did_you_mean(name, RULE_TYPES) or known)


def _yes_or_no(name: str, text: str) -> bool:
    if text.lower() not in ("yes", "no", "true", "false"):
        raise UserError(f"{name} is yes or no, not “{text}”.")
    return text.lower() in ("yes", "true")


def _names(name: str, text: str) -> list[str]:
    if text.lower() == "none":
        return []
    if name == "modifiers" and text.lower() == "all":
        return list(MODIFIERS[1:])
    return [part.strip() for part in text.split(",")]


def _show(as_json: bool, context: Surroundings, app: App, path: str, reading: Reading) -> int:
    if as_json:
        context.json({"app": app.name, "file": path, **_as_json(app.rules)})
        return 0
    context.say(f"{BOLD}{app.heading}{OFF} ({path})")
    kept = [("listings are read by", _read_by(reading))]
    print_fields(context, [*_of_keys(app), *_of_the_rest(app), *kept])
    return 0


def _as_json(r: Rules) -> dict[str, Any]:
    """The rules by the names that they have in the file (docs/json.md)."""
    return {
        "duplicates": r.duplicates,
        "longest-sequence": r.longest_run,
        "typed-sequences": r.typed_runs,
        "fold-pad": r.folds_pad,
        "closing-key": r.closing_key,
        "wait": r.wait,
        "most-keys": r.most_keys,
        "modifiers": None if r.modifiers is None else list(r.modifiers),
        "plain-keys": r.plain_keys,
        "can-mute": r.can_mute,
        "letters-open-menus": r.letters_open_menus,
        "takes": list(r.takes),
        "text-modes": list(r.text_modes),
        "swipes": dict(r.roses),
        "licences": dict(r.licences),
        "slots": dict(r.slots),
        "reserved": {str(run): does for run, does in r.reserved.items()},
        "unlisted": {str(run): does for run, does in r.built_in.items()},
        "guessed": sorted(r.guessed),
    }


#: What the rule for plain keys says in words.
_PLAIN = {"all": "all", "named": "only those with a name, such as F6", "none": "none"}


def _of_keys(app: App) -> list[tuple[str, str]]:
    """What a trigger may be."""
    r = app.rules
    held = "all" if r.modifiers is None else ", ".join(r.modifiers) or "none"
    runs = ["none" if r.longest_run == 1 else f"up to {r.longest_run} strokes"]
    if r.typed_runs:
        runs[0] += ", letters typed"
    if r.closing_key:
        runs.append(f"{r.closing_key} ends one")
    if r.wait:
        runs.append(f"it ends after {r.wait:g} s")
    roses = ", ".join(f"{mode}: {size} directions" for mode, size in r.roses.items())
    return [
        ("duplicate keys", r.duplicates + guessed(app, "duplicates")),
        ("keys for a command", str(r.most_keys or "any number") + guessed(app, "most-keys")),
        ("sequences", "; ".join(runs) + guessed(app, "longest-sequence")),
        ("modifiers", held + guessed(app, "modifiers")),
        ("plain keys", _PLAIN[r.plain_keys]),
        ("turning a key off", "possible" if r.can_mute else "not possible"),
        ("numeric pad", "its digits are those of the row" if r.folds_pad else "keys of its own"),
        (
            "menus",
            "Alt and their letter open them" if r.letters_open_menus else "no letter opens one",
        ),
        ("swipes", roses or "none"),
        ("takes besides", ", ".join(r.takes) or "nothing but keys and swipes"),
    ]


def _of_the_rest(app: App) -> list[tuple[str, str]]:
    """Where text is typed, what this seat has, and what no scheme decides."""
    r = app.rules
    licences = (f"{name}: {'yes' if has else 'no'}" for name, has in r.licences.items())
    return [
        ("text is typed", (", ".join(r.text_modes) or "in no mode") + guessed(app, "text-modes")),
        ("licences", ", ".join(licences)),
        ("slots", "\n".join(f"{command}: {name}" for command, name in r.slots.items())),
        ("reserved", "\n".join(f"{run}: {does}" for run, does in r.reserved.items())),
        ("unlisted", "\n".join(f"{run}: {does}" for run, does in r.built_in.items())),
    ]
