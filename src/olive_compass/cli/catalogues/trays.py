"""``app trays``: the kinds of trays that an application has, and what each takes."""

import argparse
from typing import Any

from olive_compass.cli import exit_status, pick
from olive_compass.cli.changing.keeping import keep, writing_of
from olive_compass.cli.options import WriteOptions, app_argument, write_options
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.tables import print_table
from olive_compass.core.apps.app import App
from olive_compass.core.apps.trays import OPENS, SCAN, TrayKind
from olive_compass.desk.formats import app_file
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.texts.toml_editor import TomlEditor
from olive_compass.desk.writing.app_files import about_file
from olive_compass.errors import UserError


def options(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument(
        "kind", nargs="?", metavar="KIND", help="tab, bar, menu (default: list them)"
    )
    parser.add_argument(
        "--most", type=int, metavar="N", help="the most trays of this kind (0: any number)"
    )
    parser.add_argument(
        "--items", type=int, metavar="N", help="the most items on one (0: any number)"
    )
    parser.add_argument(
        "--scan", type=int, metavar="N", help="the items that one sees at a glance (default: 9)"
    )
    parser.add_argument(
        "--opens",
        choices=OPENS,
        help="how one opens it: always in view, by a click, or only by a key",
    )
    parser.add_argument("--grouped", choices=("yes", "no"), help="whether its items are in groups")
    parser.add_argument("--icons", choices=("yes", "no"), help="whether an item needs an icon")
    parser.add_argument(
        "--refuse",
        dest="refused",
        action="append",
        default=[],
        metavar="COMMAND=WHY",
        help="a command that it does not accept, and why; without a reason: it accepts it again",
    )
    parser.add_argument("--off", action="store_true", help="the application has no such trays")
    write_options(parser)


class AppTraysOptions(WriteOptions, kw_only=True):
    """The options of ``app trays``."""

    app: str
    kind: str | None
    most: int | None
    items: int | None
    scan: int | None
    opens: str | None
    grouped: str | None
    icons: str | None
    refused: list[str]
    off: bool


def tray_kinds(args: AppTraysOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    app = desk.app(desk.app_name(args.app))
    if not args.kind:
        return _list(args.json, context, app)
    path, data = about_file(desk, app.name)
    kind = args.kind.casefold()
    known = app.rules.trays.get(kind)
    used = [each.title for each in app.trays if each.kind == kind]
    if args.off:
        if known is None:
            raise UserError(f"{app.title} has no trays of the kind “{kind}”.")
        if used:
            raise UserError(
                f"{used[0]} is a {kind} of {app.title}; nothing was changed.",
                hint=f"Remove it first: olive-compass tray reset {app.name}/{used[0]}",
            )
        after = _without(data, kind)
        what = f"{app.title}: removed trays of the kind {kind}"
    else:
        table = {
            "most": args.most,
            "items": args.items,
            "scan": args.scan,
            "groups": args.grouped and args.grouped == "yes",
            "icons": args.icons and args.icons == "yes",
            "opens": args.opens,
        }
        refuses = _refuses(app, context, known, args.refused)
        after = _with(data, kind, _values(known, table, refuses))
        what = f"{app.title}: what a {kind} takes"
    app_file.read(after, path, app.name)
    return keep(
        writing_of(args),
        context,
        desk,
        [FileChange(path, data, after)],
        what,
        app=app.name,
        kind=kind,
    )


def _refuses(
    app: App, context: Surroundings, known: TrayKind | None, said: list[str]
) -> dict[str, str]:
    """The commands that a kind does not take, and why, with what is said of some: ``COMMAND=WHY``."""
    refuses = {}
    if known:
        refuses = dict(known.refuses)
    for each in said:
        word, _, why = each.partition("=")
        command = pick.command(app, word, context).id
        if why.strip():
            refuses[command] = why.strip()
        else:
            refuses.pop(command, None)
    return refuses


def _values(
    known: TrayKind | None, said: dict[str, Any], refuses: dict[str, str]
) -> dict[str, Any]:
    """The table of a kind as it is to be; what is as it is by itself is left out.

    ``said`` is what the table is to say, None: what it says now.
    """
    old = known or TrayKind(name="")
    given = {name: getattr(old, name) if value is None else value for name, value in said.items()}
    if wrong := [name for name in ("most", "items", "scan") if given[name] < 0]:
        raise UserError(f"--{wrong[0]} is no number below 0.")
    own = {"most": 0, "items": 0, "scan": SCAN, "groups": True, "icons": False}
    values = {name: value for name, value in given.items() if value != own.get(name)}
    return {**values, **({"refuses": refuses} if refuses else {})}


def _with(data: bytes, kind: str, values: dict[str, Any]) -> bytes:
    editor = TomlEditor(data)
    editor.fill(("trays", kind), values)
    return editor.data


def _without(data: bytes, kind: str) -> bytes:
    editor = TomlEditor(data)
    editor.remove("trays", kind)
    if not editor.value("trays"):
        editor.remove("trays")
    return editor.data


def _list(as_json: bool, context: Surroundings, app: App) -> int:
    kinds = app.rules.trays.values()
    if as_json:
        found = [
            {
                "kind": each.name,
                "most": each.most,
                "most-items": each.items,
                "grouped": each.groups,
                "icons": each.icons,
                "opens": each.opens,
                "refuses": dict(each.refuses),
                "scan": each.scan,
            }
            for each in kinds
        ]
        context.json({"app": app.name, "kinds": found})
        return exit_status.found(kinds)
    if not kinds:
        context.say(
            f"{app.title} has no trays that are known. Say which: "
            f"olive-compass app trays {app.name} tab --items 24"
        )
        return 1
    print_table(
        context,
        ("kind", "at most", "items", "groups", "icons", "opened by", "refuses"),
        [
            (
                each.name,
                str(each.most or "any"),
                str(each.items or "any"),
                "yes" if each.groups else "no",
                "needed" if each.icons else "",
                {"view": "always in view", "click": "a click", "key": "a key only"}[each.opens],
                "; ".join(f"{app.shown(c)}: {why}" for c, why in each.refuses.items()),
            )
            for each in kinds
        ],
    )
    return 0
