"""``find``: commands by words, by key, by mode, by menu, with a key or without."""

import argparse
from collections.abc import Sequence
from typing import Any

from olive_compass.cli import pick, words
from olive_compass.cli.completion import app_names, complete_with
from olive_compass.cli.options import (
    Common,
    factory_option,
    json_option,
    keys_as_option,
)
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.cli.terminal.tables import AT_A_TERMINAL, print_csv, print_table
from olive_compass.core.answers.search import Hit, SearchAnswer, SearchQuery, search_desk
from olive_compass.core.apps.app import KINDS, Command, CommandKind
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.desk.desk import Desk

GROUP = "first steps"
ORDER = 50
SUMMARY = "Search commands by words, key, menu or mode"
EXAMPLES = """olive-compass find smooth
olive-compass find --app quillmap --mode draw --unassigned
olive-compass find --key Ctrl+M
olive-compass find quillmap --key 'S *'
olive-compass find quillmap --mark often --by menu
olive-compass find quillmap contour --as csv > contours.csv"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "words", nargs="*", metavar="WORDS", help="words of the title, menu, id or description"
    )
    argument = parser.add_argument("--app", help="only this application")
    complete_with(argument, app_names)
    parser.add_argument(
        "--key",
        metavar="KEYS",
        help="commands with this key in any scheme layer; also 'Ctrl+*', '*+C', 'S *'",
    )
    parser.add_argument("--mode", help="commands that can be used in this mode")
    parser.add_argument("--menu", help="commands whose menu path has these words")
    keyed = parser.add_mutually_exclusive_group()
    keyed.add_argument("--assigned", action="store_true", help="only commands with a key")
    keyed.add_argument(
        "--unassigned",
        action="store_true",
        help="only commands without a key that nobody left so on purpose",
    )
    keyed.add_argument(
        "--keyless", action="store_true", help="only commands without a key on purpose"
    )
    parser.add_argument("--kind", choices=KINDS, help="commands of this kind")
    parser.add_argument("--mark", metavar="MARK", help="commands with this mark, such as often")
    parser.add_argument("--by", choices=("menu", "mode", "kind"), help="group them under headings")
    factory_option(parser)
    parser.add_argument(
        "--as",
        dest="form",
        choices=("text", "csv", "json"),
        default="text",
        help="the output form (default: text)",
    )
    parser.add_argument(
        "--limit", type=int, metavar="N", help="show at most N commands of each application"
    )
    keys_as_option(parser)
    json_option(parser)


class FindOptions(Common, kw_only=True):
    """The options of ``find``."""

    words: list[str]
    app: str | None
    key: str | None
    mode: str | None
    menu: str | None
    assigned: bool
    unassigned: bool
    keyless: bool
    kind: CommandKind | None
    mark: str | None
    by: str | None
    only: str | None
    form: str
    limit: int | None
    keys_as: str | None
    json: bool


def run(args: FindOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    query = _asked(args, desk)
    pick.show_keys(args.keys_as, context, desk, [query.app] if query.app else [])
    as_json = args.json or args.form == "json"
    context.as_json = as_json
    keymaps = [
        Keymap(pick.only(stack, args.only), desk.keyboard) for stack in pick.stacks(desk, query.app)
    ]
    if query.app and query.mode:
        pick.mode(keymaps[0].app, query.mode)
    limit = args.limit or (AT_A_TERMINAL if context.width and not as_json else 10**9)
    named = desk.purposes.named(query.words) if query.words else []
    answer = search_desk(keymaps, named, query, limit)
    if as_json:
        hits = [_as_json(desk, hit) for hit in answer.hits]
        context.json({"near": answer.near, "total": answer.total, "hits": hits})
    elif args.form == "csv":
        # The names of the JSON: a title is no command there.
        names = ("app", "title", "menu", "keys", "modes", "purpose", "command")
        print_csv(context, names, [_row(context, hit) for hit in answer.hits])
    else:
        _print(query, args.by, context, answer)
    return 0 if answer.total else 1


def _asked(args: FindOptions, desk: Desk) -> SearchQuery:
    app, words = args.app, args.words
    if not app and words and (name := pick.app_called(desk, words[0])):
        # An application's name as the first word means it, as everywhere.
        app, words = name, words[1:]
    return SearchQuery(
        words=" ".join(words),
        app=app,
        key=args.key,
        mode=args.mode,
        menu=args.menu,
        kind=args.kind,
        mark=args.mark,
        assigned=args.assigned,
        unassigned=args.unassigned,
        keyless=args.keyless,
    )


def _as_json(desk: Desk, hit: Hit) -> dict[str, Any]:
    """A command that was found, as JSON (docs/json.md)."""
    return {
        **words.command_json(desk, hit.keymap, hit.command),
        "purpose": _other_name(hit) or None,
    }


def _other_name(hit: Hit) -> str:
    """The other name by which a command was found that has not the words itself."""
    if hit.purpose:
        return f"{hit.purpose}: “{hit.name}”"
    if hit.thing:
        return f"shows “{hit.thing}”"
    return ""


def _row(context: Surroundings, hit: Hit) -> tuple[str, ...]:
    keymap, command = hit.keymap, hit.command
    return (
        keymap.app.title,
        keymap.app.shown(command.id),
        " > ".join(command.menu),
        words.keys_with_sources(keymap, command, context.key) or _no_key(keymap, command),
        " ".join(command.modes),
        _other_name(hit),
        command.id,
    )


def _print(query: SearchQuery, by: str | None, context: Surroundings, answer: SearchAnswer) -> None:
    if not answer.total:
        says = f"No command matches “{query.words}”" if query.words else "Nothing fits"
        context.say(f"{says}{' with these filters' if query.filters else ''}.")
        return
    if answer.near:
        context.say(f"No command matches “{query.words}”. Spelt nearly like it:")
    head = ("app", "title", "menu", "keys", "modes", "purpose", "command")
    rows = [_row(context, hit) for hit in answer.hits]
    if query.app:
        # The application is the same for all.
        rows = [("", *row[1:]) for row in rows]
    if by:
        _print_groups(by, context, head, rows, [hit.command for hit in answer.hits])
    else:
        print_table(context, head, rows)
    shown = len(answer.hits)
    if answer.total > shown:
        context.say(f"{shown} of {answer.total} shown; --limit {answer.total} shows all.")


def _no_key(keymap: Keymap, command: Command) -> str:
    for scheme in keymap.stack.schemes:
        if command.id in scheme.keyless:
            return f"keyless ({scheme.name})"
    return "-"


def _print_groups(
    by: str,
    context: Surroundings,
    head: tuple[str, ...],
    rows: Sequence[tuple[str, ...]],
    commands: list[Command],
) -> None:
    """The rows under a heading each for the first menu, the mode or the kind."""
    groups: dict[str, list[tuple[str, ...]]] = {}
    for row, command in zip(rows, commands, strict=True):
        if by == "menu":
            names: tuple[str, ...] = (command.menu[0] if command.menu else "no menu",)
        else:
            names = (command.kind,) if by == "kind" else (command.modes or (ROOT,))
        for name in names:
            groups.setdefault(name, []).append(row)
    for name, found in groups.items():
        context.say(f"{BOLD}{name}{OFF} ({len(found)})")
        print_table(context, head, found)
