"""``desk system``: lists the operating system's keys, switches each on and off, adds and drops one."""

import argparse

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import keep, writing_of
from olive_compass.cli.options import WriteOptions, write_options
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.tables import print_table
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.system import SYSTEM_KEYS
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import system_file
from olive_compass.desk.formats.system_file import SystemKey
from olive_compass.desk.paths import SYSTEM_FILE
from olive_compass.desk.storage.records import FileChange
from olive_compass.errors import UserError


def options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "action",
        nargs="?",
        choices=("on", "off", "add", "remove", "defaults"),
        help="turn a key on or off, add or remove one, or add those of the platform (default: list them)",
    )
    parser.add_argument("key", nargs="?", metavar="KEY", help="the key")
    parser.add_argument("--does", default="", metavar="TEXT", help="with add: what the key does")
    write_options(parser)


class DeskSystemOptions(WriteOptions, kw_only=True):
    """The options of ``desk system``."""

    action: str | None
    key: str | None
    does: str


def system_keys(args: DeskSystemOptions, context: Surroundings) -> int:
    """Runs ``desk system``."""
    desk = pick.desk(args, context)
    before = desk.bytes_or_none(SYSTEM_FILE)
    keys = _counting(desk, before)
    if args.action is None:
        return _list(args.json, context, keys)
    data = before or system_file.new_text({})
    if args.action == "defaults":
        after, what = _with_defaults(desk, data, keys)
    else:
        table = _table(desk, keys)
        after, what = _with_one(args.key, args.action, args.does, data, keys, table)
    system_file.read(after, SYSTEM_FILE)
    files = [FileChange(SYSTEM_FILE, before, after)]
    return keep(
        writing_of(args), context, desk, files, what, ("What it changes: olive-compass check",)
    )


def _counting(desk: Desk, data: bytes | None) -> list[SystemKey]:
    """The keys of the file that belong to the platform of this computer."""
    found = system_file.read_all(data, SYSTEM_FILE)
    return [key for key in found if key.table in desk.system_tables]


def _table(desk: Desk, keys: list[SystemKey]) -> str:
    """The line for a new key of this platform: after its other keys."""
    if keys:
        return keys[0].table
    return desk.system_tables[0]


def _list(as_json: bool, context: Surroundings, keys: list[SystemKey]) -> int:
    if as_json:
        rows = [{"key": str(k.trigger), "does": k.does, "on": k.on} for k in keys]
        context.json({"file": SYSTEM_FILE, "keys": rows})
    elif not keys:
        context.say(
            "The desk knows of no key that the operating system takes. Those of the platform: "
            "olive-compass desk system defaults"
        )
    else:
        rows_ = [(str(k.trigger), "on" if k.on else "off", k.does) for k in keys]
        print_table(context, ("key", "", "what the operating system does with it"), rows_)
    return 0


def _with_defaults(desk: Desk, data: bytes, keys: list[SystemKey]) -> tuple[bytes, str]:
    """The file with the keys of the desk's platform that it does not have yet."""
    platform = desk.settings.platform
    known = {key.trigger for key in keys}
    missing = {
        text: does
        for text, does in SYSTEM_KEYS[platform].items()
        if read_trigger(text) not in known
    }
    for text, does in missing.items():
        data = system_file.with_key(data, text, does, True, _table(desk, keys))
    return data, f"System keys: added {len(missing)} of platform {platform}"


def _with_one(
    text: str | None, action: str, does: str, data: bytes, keys: list[SystemKey], table: str
) -> tuple[bytes, str]:
    """The file with one key switched on or off, added or dropped."""
    if text is None:
        raise UserError(
            "Name a key.", hint=f"For example: olive-compass desk system {action} Meta+L"
        )
    trigger = read_trigger(text)
    known = next((key for key in keys if key.trigger == trigger), None)
    if action == "add":
        if not does:
            raise UserError("Say what it does.", hint="For example: --does 'locks the screen'")
        text = str(trigger)
        if known:
            text, table = known.text, known.table
        return system_file.with_key(data, text, does, True, table), f"System keys: added {trigger}"
    if known is None:
        raise UserError(
            f"The desk does not list {trigger} as a key of the operating system.",
            file=SYSTEM_FILE,
            hint=f"Add it: olive-compass desk system add '{trigger}' --does TEXT",
        )
    if action == "remove":
        return system_file.without_key(
            data, known.text, known.table
        ), f"System keys: removed {trigger}"
    on = action == "on"
    changed = data
    if known.on != on:
        changed = system_file.with_key(data, known.text, known.does, on, known.table)
    return changed, f"System keys: {trigger} is {action}"
