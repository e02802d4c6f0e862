"""``find``: commands by words, by key, by mode, by menu, with a key or without."""

import argparse
from collections.abc import Sequence
from typing import Any

from olive_compass.cli import pick, words
from olive_compass.cli.completion import app_names
from olive_compass.cli.looking.search_filters import SearchQuery, filtered
from olive_compass.cli.parsing import factory_option, json_option, keys_as_option
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.cli.terminal.tables import AT_A_TERMINAL, print_csv, print_table
from olive_compass.core.apps.app import KINDS, Command
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.apps.search import fold, search
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.sharing.purposes import Purpose
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


#: Commands of each application.
Found = list[tuple[Keymap, tuple[Command, ...]]]


def add_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "words", nargs="*", metavar="WORDS", help="words of the title, menu, id or description"
    )
    argument = parser.add_argument("--app", help="only this application")
    argument.completer = app_names  # type: ignore[attr-defined]
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


def run(args: Any, context: Surroundings) -> int:
    at = pick.desk(args, context)
    query = _asked(args, at)
    pick.show_keys(args, context, at, query.app)
    as_json = args.json or args.form == "json"
    context.as_json = as_json
    keymaps = [
        Keymap(pick.only(stack, args.only), at.keyboard) for stack in pick.stacks(at, query.app)
    ]
    named = at.purposes.named(query.words) if query.words else []
    candidates = [(keymap, tuple(filtered(keymap, query))) for keymap in keymaps]
    found = _found(candidates, query.words, named)
    near = False
    if query.words and not any(hits for _, hits in found):
        # Near misses only where no application has the words themselves.
        from olive_compass.core.apps.naming import near_commands

        found = [
            (keymap, tuple(near_commands(each, query.words, 8))) for keymap, each in candidates
        ]
        near = any(hits for _, hits in found)
    limit = args.limit or (AT_A_TERMINAL if context.width and not as_json else 10**9)
    shown = [(keymap, command) for keymap, hits in found for command in hits[:limit]]
    total = sum(len(hits) for _, hits in found)
    if as_json:
        hits = [_hit(at, *hit, named, query.words) for hit in shown]
        context.json({"near": near, "total": total, "hits": hits})
    elif args.form == "csv":
        # The names of the JSON: a title is no command there.
        names = ("app", "title", "menu", "keys", "modes", "purpose", "command")
        print_csv(context, names, _rows(context, shown, named, query.words))
    else:
        _print(query, args.by, context, shown, total, near, named)
    return 0 if total else 1


def _asked(args: Any, at: Desk) -> SearchQuery:
    app, words = args.app, args.words
    if not app and words and (name := pick.app_called(at, words[0])):
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


def _found(candidates: Found, query: str, named: list[tuple[Purpose, str]]) -> Found:
    """What has the words, and then what serves a purpose that is called so."""
    found = [
        (keymap, search(commands, query, keymap.app.rules.slots)) for keymap, commands in candidates
    ]
    by_purpose = _by_purpose(query, named, candidates, found)
    return [
        (keymap, (*hits, *by_purpose.get(keymap.app.name, {}).values())) for keymap, hits in found
    ]


def _hit(
    at: Desk, keymap: Keymap, command: Command, named: list[tuple[Purpose, str]], query: str
) -> dict[str, Any]:
    """A command that was found, as JSON (docs/json.md)."""
    purpose = _reason(named, keymap, command, query) or None
    return {**words.command_json(at, keymap, command), "purpose": purpose}


def _things(keymap: Keymap, query: str) -> list[str]:
    """The things without a key, shown through a command, whose names have the words."""
    parts = fold(query).split()
    names = keymap.app.proxies if parts else ()
    return [thing for thing in names if all(part in fold(thing) for part in parts)]


def _by_purpose(
    query: str,
    named: list[tuple[Purpose, str]],
    candidates: Found,
    found: Found,
) -> dict[str, dict[str, Command]]:
    """Commands that have not the words themselves, but serve a purpose, or show a thing, that has."""
    result: dict[str, dict[str, Command]] = {}
    for (keymap, commands), (_, hits) in zip(candidates, found, strict=True):
        if not named and not keymap.app.proxies:
            continue
        have = {command.id for command in hits}
        served = {c for purpose, _ in named for c in purpose.commands(keymap.app.name)}
        served |= {keymap.app.proxies[thing].through for thing in _things(keymap, query)}
        result[keymap.app.name] = {
            each.id: each for each in commands if each.id in served and each.id not in have
        }
    return result


def _reason(named: list[tuple[Purpose, str]], keymap: Keymap, command: Command, query: str) -> str:
    """The other name by which a command was found that has not the words itself."""
    for purpose, name in named:
        if command.id in purpose.commands(keymap.app.name) and not search([command], query):
            return f"{purpose.id}: “{name}”"
    things = [t for t in _things(keymap, query) if keymap.app.proxies[t].through == command.id]
    return f"shows “{things[0]}”" if things else ""


def _rows(
    context: Surroundings,
    shown: list[tuple[Keymap, Command]],
    named: list[tuple[Purpose, str]],
    query: str,
    app: bool = True,
) -> list[tuple[str, ...]]:
    """A row for each hit, with the application unless it is the same for all."""
    return [
        (
            keymap.app.title if app else "",
            keymap.app.shown(command.id),
            " > ".join(command.menu),
            words.keys_with_sources(keymap, command, context.key) or _no_key(keymap, command),
            " ".join(command.modes),
            _reason(named, keymap, command, query),
            command.id,
        )
        for keymap, command in shown
    ]


def _print(
    query: SearchQuery,
    by: str | None,
    context: Surroundings,
    shown: list[tuple[Keymap, Command]],
    total: int,
    near: bool,
    named: list[tuple[Purpose, str]],
) -> None:
    if not total:
        says = f"No command matches “{query.words}”" if query.words else "Nothing fits"
        context.say(f"{says}{' with these filters' if query.filters else ''}.")
        return
    if near:
        context.say(f"No command matches “{query.words}”. Spelt nearly like it:")
    head = ("app", "title", "menu", "keys", "modes", "purpose", "command")
    rows = _rows(context, shown, named, query.words, app=not query.app)
    if by:
        _print_groups(by, context, head, rows, [command for _, command in shown])
    else:
        print_table(context, head, rows)
    if total > len(shown):
        context.say(f"{len(shown)} of {total} shown; --limit {total} shows all.")


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
