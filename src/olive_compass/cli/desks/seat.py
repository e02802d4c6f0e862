"""``desk keyboard`` and ``desk seat``: what holds for this seat alone, in ``seat.toml``."""

import argparse
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import keep, writing_of
from olive_compass.cli.changing.saving import save
from olive_compass.cli.options import WriteOptions, write_options
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.cli.terminal.tables import print_fields
from olive_compass.core.keys.keyboards import PLATFORMS, Keyboard, Platform
from olive_compass.core.wording import yes_or_no
from olive_compass.desk import keyboards
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats.desk_file import HANDS, DeskFile, Hand
from olive_compass.desk.formats.seat_file import SEAT_FILE, read, with_value, with_values
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.writing.system_keys import keys_of_platform
from olive_compass.errors import UserError
from olive_compass.structs import replace


def keyboard_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--form", help="ansi-104, iso-105, iso-laptop …; list shows all")
    parser.add_argument("--layout", help="us, german, french …; list shows all")
    parser.add_argument("--platform", choices=PLATFORMS)
    parser.add_argument("--hand", choices=HANDS)
    parser.add_argument(
        "--add",
        action="append",
        default=[],
        metavar="FORM/LAYOUT",
        help="add another keyboard of this computer; keys must work on it, too",
    )
    parser.add_argument(
        "--remove",
        action="append",
        default=[],
        metavar="FORM/LAYOUT",
        help="remove a keyboard that this computer no longer has",
    )
    write_options(parser)


class DeskKeyboardOptions(WriteOptions, kw_only=True):
    """The options of ``desk keyboard``."""

    form: str | None
    layout: str | None
    platform: Platform | None
    hand: Hand | None
    add: list[str]
    remove: list[str]


def keyboard(args: DeskKeyboardOptions, context: Surroundings) -> int:
    """Runs ``desk keyboard``: shows the seat's keyboards, platform and free hand, or sets them."""
    desk = pick.desk(args, context)
    for kind, name in (("forms", args.form), ("layouts", args.layout)):
        # “list” is no form and no layout: it asks which there are.
        if name == "list":
            context.say("\n".join(keyboards.names(desk.root, kind)))
            return 0
    before = desk.settings
    after = _with_options(args, before)
    others = _others(args.add, args.remove, desk)
    # Loaded before anything is written: a name that nobody knows is refused with the near ones.
    board = keyboards.load(desk.root, after.platform, after.form, after.layout)
    said = _said(args)
    asked = bool(said)
    already = asked and after == before and others == list(desk.seat.keyboards[1:])
    if asked and not args.dry_run and not already:
        _save(desk, context, after, others, said)
    if args.json:
        context.json(_as_json(after, board, others))
    else:
        _say_keyboard(args.dry_run, context, board, after, others, asked, already)
    return 0


def _with_options(args: DeskKeyboardOptions, before: DeskFile) -> DeskFile:
    return replace(
        before,
        form=args.form or before.form,
        layout=args.layout or before.layout,
        platform=args.platform or before.platform,
        hand=args.hand or before.hand,
    )


def _said(args: DeskKeyboardOptions) -> list[str]:
    """What the options change, each in a few words."""
    named = {
        "form": args.form,
        "layout": args.layout,
        "platform": args.platform,
        "hand": args.hand,
    }
    said = [f"{name} {value}" for name, value in named.items() if value]
    said += [f"also {each}" for each in args.add]
    said += [f"without {each}" for each in args.remove]
    return said


def _save(
    desk: Desk, context: Surroundings, after: DeskFile, others: list[str], said: list[str]
) -> None:
    """Writes what the seat has from now on."""
    values = {
        "platform": after.platform,
        "keyboards": [f"{after.form}/{after.layout}", *others],
        "hand": after.hand,
    }
    data = desk.bytes_or_none(SEAT_FILE)
    changes = [FileChange(SEAT_FILE, data, with_values(data, values))]
    if after.platform != desk.settings.platform:
        changes += keys_of_platform(desk, after.platform)
    save(desk, context, changes, f"Set this computer's keyboard: {', '.join(said)}")


def _as_json(after: DeskFile, board: Keyboard, others: list[str]) -> dict[str, Any]:
    """The seat's keyboard as JSON (docs/json.md)."""
    return {
        "form": after.form,
        "layout": after.layout,
        "platform": after.platform,
        "hand": after.hand,
        "keys": len(board.form.seats) if board.form else 0,
        "others": others,
    }


def _others(add: list[str], drop: list[str], desk: Desk) -> list[str]:
    """The other keyboards of the seat after adding and removing some."""
    others = list(desk.seat.keyboards[1:])
    for name in add:
        form, sign, layout = name.partition("/")
        if not sign:
            raise UserError(f"“{name}” is not FORM/LAYOUT.", hint="For example: iso-laptop/german")
        keyboards.load(desk.root, desk.settings.platform, form, layout)
        if name not in others:
            others.append(name)
    for name in drop:
        if name not in others:
            has = ", ".join(others) or "no other"
            raise UserError(f"This computer has no other keyboard “{name}”.", hint=f"It has {has}.")
        others.remove(name)
    return others


def _say_keyboard(
    dry_run: bool,
    context: Surroundings,
    board: Keyboard,
    after: DeskFile,
    others: list[str],
    changes: bool,
    already: bool,
) -> None:
    """The keyboard as it is, or as it would be, and what can be done next."""
    assert board.form is not None
    assert board.layout is not None
    lead = context.say if not changes or dry_run else context.report
    lead(
        f"{'Would be ' if dry_run and changes else ''}{board.form.title} "
        f"({len(board.form.seats)} keys), {board.layout.title} layout, platform {after.platform}, "
        f"free hand {after.hand}."
    )
    if others:
        lead(f"And this computer has {', '.join(others)}: keys must work there, too.")
    if already:
        lead("That is set already; nothing was changed.")
    elif changes:
        lead(
            "Dry run: nothing was written."
            if dry_run
            else "What it changes: olive-compass check. To undo: olive-compass undo"
        )


def seat_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--name", metavar="NAME", help="your name, as the history shows it")
    parser.add_argument(
        "--licence",
        action="append",
        default=[],
        metavar="APP:NAME=yes|no",
        help="whether this computer has a licence",
    )
    write_options(parser)


class DeskSeatOptions(WriteOptions, kw_only=True):
    """The options of ``desk seat``."""

    name: str | None
    licence: list[str]


def seat(args: DeskSeatOptions, context: Surroundings) -> int:
    """Runs ``desk seat``: who sits here, and which licences this seat has."""
    desk = pick.desk(args, context)
    if args.name is None and not args.licence:
        return _show(args.json, context, desk)
    before = desk.bytes_or_none(SEAT_FILE)
    after = before
    said = []
    if args.name is not None:
        after = with_values(after, {"name": " ".join(args.name.split())})
        said.append(f"name {args.name or '(none)'}")
    for given in args.licence:
        app, name, has_it = _licence(desk, given)
        after = with_value(after, f"licences.{app}", name, has_it)
        said.append(f"{app} {name}: {yes_or_no(has_it)}")
    assert after is not None
    read(after)
    what = f"Set on this computer: {', '.join(said)}"
    return keep(writing_of(args), context, desk, [FileChange(SEAT_FILE, before, after)], what)


def _show(as_json: bool, context: Surroundings, desk: Desk) -> int:
    of, found = desk.settings, desk.seat
    boards = list(found.keyboards) or [f"{of.form}/{of.layout}"]
    licences = {app: dict(table) for app, table in found.licences.items()}
    if as_json:
        context.json(
            {
                "name": found.name or None,
                "platform": of.platform,
                "keyboards": boards,
                "hand": of.hand,
                "current": found.current or None,
                "licences": licences,
                "files": dict(found.files),
            }
        )
        return 0
    context.say(f"{BOLD}{found.name or 'This computer'}{OFF} ({SEAT_FILE})")
    has = [f"{a} {n}: {yes_or_no(v)}" for a, t in licences.items() for n, v in t.items()]
    print_fields(
        context,
        [
            ("platform", of.platform),
            ("keyboards", ", ".join(boards)),
            ("free hand", of.hand),
            ("in use", found.current),
            ("licences", ", ".join(has)),
            ("files of keys", "\n".join(f"{app}: {path}" for app, path in found.files.items())),
        ],
    )
    return 0


def _licence(desk: Desk, given: str) -> tuple[str, str, bool]:
    """The application, the licence and whether this seat has it, of ``APP:NAME=yes``. Raises ``UserError``."""
    place, _, text = given.partition("=")
    app, _, name = place.partition(":")
    if not name or text.lower() not in ("yes", "no"):
        raise UserError(f"“{given}” is not APP:NAME=yes or no.", hint="foldpress:varnish=yes")
    app = desk.app_name(app)
    known = desk.app(app).rules.licences
    if name not in known:
        has = ", ".join(known) or "none"
        raise UserError(
            f"{desk.app(app).title} knows no licence “{name}”.", hint=f"It knows {has}."
        )
    return app, name, text.lower() == "yes"
