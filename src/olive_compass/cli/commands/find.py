"""``find``: commands by words, by key, by mode, by menu, with a key or without."""

import argparse
from collections.abc import Sequence
from typing import TYPE_CHECKING

from olive_compass.cli import exit_status, pick, words
from olive_compass.cli.current_app import app_called
from olive_compass.cli.options import (
    PaperOptions,
    factory_option,
    json_form_option,
    keys_as_option,
    limit_option,
    mode_option,
)
from olive_compass.cli.output.forms import Matter, give_json, give_table
from olive_compass.cli.output.papers import Wanted, paper_options, table_options, wanted
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.cli.terminal.tables import EVERY, most_rows, print_table
from olive_compass.core.answers.search import Hit, SearchAnswer, SearchQuery, search_desk
from olive_compass.core.apps.app import KINDS, Command, CommandKind
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.wording import counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.views import restricted
from olive_compass.errors import UserError

if TYPE_CHECKING:
    from olive_compass.drawing.documents import Table

GROUP = "first steps"
ORDER = 50
SUMMARY = "Search commands by words, key, menu or mode"
EXAMPLES = """olive-compass find smooth
olive-compass find --app quillmap --mode draw --unassigned
olive-compass find --key Ctrl+M
olive-compass find quillmap --key 'S *'
olive-compass find quillmap --mark often --by menu
olive-compass find quillmap contour --as csv > contours.csv
olive-compass find quillmap --unassigned --out undecided.xlsx"""


#: What is told of a command, by the names of the JSON: a title is no command there.
HEADINGS = ("app", "title", "menu", "keys", "modes", "purpose", "command")


def add_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "words", nargs="*", metavar="WORDS", help="words of the title, menu, id or description"
    )
    parser.add_argument("--app", help="only this application")
    parser.add_argument(
        "--key",
        metavar="KEYS",
        help="commands with this key in any scheme layer; also 'Ctrl+*', '*+C', 'S *'",
    )
    mode_option(parser, "commands that can be used in this mode")
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
    table_options(parser, "json")
    limit_option(parser, "show at most N commands of each application")
    keys_as_option(parser)
    json_form_option(parser)
    paper_options(parser, "a4")


class FindOptions(PaperOptions, kw_only=True):
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
    limit: int | None
    keys_as: str | None


def run(args: FindOptions, context: Surroundings) -> int:
    asked = wanted(args, context)
    # JSON and CSV are for programs, which group by themselves.
    if args.by and asked.form not in ("text", "json", "csv"):
        raise UserError("--by is for text.", hint="Leave out --by, or --as and --out.")
    desk = pick.desk(args, context)
    query = _asked(args, desk)
    pick.show_keys(args.keys_as, context, desk, [query.app] if query.app else [])
    context.as_json = asked.form == "json" and not asked.into.out
    answer = _answer(args, context, desk, query, as_text=asked.form == "text")
    if asked.into.out and not answer.total:
        context.say(f"{_nothing(query)} Nothing was written.")
    elif asked.form == "text":
        _print(query, args.by, context, answer)
    else:
        _give(asked, context, desk, query, answer)
    return exit_status.found(answer.total)


def _answer(
    args: FindOptions, context: Surroundings, desk: Desk, query: SearchQuery, as_text: bool
) -> SearchAnswer:
    """What is found, as much of it as is to be shown."""
    stacks = [restricted(stack, args.only) for stack in pick.stacks(desk, query.app)]
    keymaps = [Keymap(stack, desk.keyboard) for stack in stacks]
    if query.app and query.mode:
        pick.mode(keymaps[0].app, query.mode)
    limit = args.limit or EVERY
    if as_text:
        limit = most_rows(context, args.limit)
    named = []
    if query.words:
        named = desk.purposes.named(query.words)
    return search_desk(keymaps, named, query, limit)


def _asked(args: FindOptions, desk: Desk) -> SearchQuery:
    app, words = args.app, args.words
    if not app and words and (name := app_called(desk, words[0])):
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


def _give(
    asked: Wanted, context: Surroundings, desk: Desk, query: SearchQuery, answer: SearchAnswer
) -> None:
    """What was found as JSON, or as a table in the form that was asked for."""
    if asked.form == "json":
        from olive_compass.desk.reported.claims import command_report

        hits = [
            command_report(desk, hit.keymap, hit.command, _other_name(hit) or None)
            for hit in answer.hits
        ]
        document = {"near": answer.near, "total": answer.total, "hits": hits}
        give_json(asked.into, context, document)
        return
    parts = [desk.settings.name]
    if query.app and answer.hits:
        parts.append(answer.hits[0].keymap.app.heading)
    subtitle = " · ".join([*parts, counted(answer.total, "command")])
    matter = Matter(_title(query, near=answer.near), subtitle, _left_out(answer))
    rows = [_row(context, hit) for hit in answer.hits]
    give_table(asked, context, matter, _table(query, rows, whole=asked.form == "csv"), "a4")


def _table(query: SearchQuery, rows: list[tuple[str, ...]], whole: bool) -> "Table":
    """What was found as a table; ``whole``: with every column, for a program finds one by its place."""
    from olive_compass.drawing.documents import Cell, Table

    kept = list(range(len(HEADINGS)))
    if not whole:
        # A person wants no column that is empty, or the same throughout.
        rows = _without_app(query, rows)
        kept = [n for n in kept if any(row[n] for row in rows)]
    cells = tuple(tuple(Cell(row[n]) for n in kept) for row in rows)
    return Table(tuple(HEADINGS[n] for n in kept), cells)


def _title(query: SearchQuery, *, near: bool) -> str:
    """What a table of commands is called."""
    keyed = {
        " with a key": query.assigned,
        " without a key": query.unassigned,
        " without a key on purpose": query.keyless,
    }
    title = "Commands" + "".join(text for text, is_so in keyed.items() if is_so)
    if query.words:
        if near:
            title += f" spelt nearly like “{query.words}”"
        else:
            title += f" that match “{query.words}”"
    return title


def _without_app(query: SearchQuery, rows: list[tuple[str, ...]]) -> list[tuple[str, ...]]:
    """The rows without the application, where it is the same for all."""
    if query.app:
        return [("", *row[1:]) for row in rows]
    return rows


def _left_out(answer: SearchAnswer) -> tuple[str, ...]:
    """The sentence on what ``--limit`` leaves out, where it does."""
    shown = len(answer.hits)
    if answer.total > shown:
        return (f"{shown} of {answer.total} shown; --limit {answer.total} shows all.",)
    return ()


def _nothing(query: SearchQuery) -> str:
    """The sentence where nothing was found."""
    says = "Nothing fits"
    if query.words:
        says = f"No command matches “{query.words}”"
    return f"{says}{' with these filters' if query.filters else ''}."


def _print(query: SearchQuery, by: str | None, context: Surroundings, answer: SearchAnswer) -> None:
    if not answer.total:
        context.say(_nothing(query))
        return
    if answer.near:
        context.say(f"No command matches “{query.words}”. Spelt nearly like it:")
    rows = _without_app(query, [_row(context, hit) for hit in answer.hits])
    if by:
        _print_groups(by, context, rows, [hit.command for hit in answer.hits])
    else:
        print_table(context, HEADINGS, rows)
    for line in _left_out(answer):
        context.say(line)


def _no_key(keymap: Keymap, command: Command) -> str:
    for scheme in keymap.stack.schemes:
        if command.id in scheme.keyless:
            return f"keyless ({scheme.name})"
    return "-"


def _print_groups(
    by: str,
    context: Surroundings,
    rows: Sequence[tuple[str, ...]],
    commands: list[Command],
) -> None:
    """The rows under a heading each for the first menu, the mode or the kind."""
    groups: dict[str, list[tuple[str, ...]]] = {}
    for row, command in zip(rows, commands, strict=True):
        if by == "menu":
            names: tuple[str, ...] = (command.menu[0] if command.menu else "no menu",)
        else:
            if by == "kind":
                names = (command.kind,)
            else:
                names = command.usable_in
        for name in names:
            groups.setdefault(name, []).append(row)
    for name, found in groups.items():
        context.say(f"{BOLD}{name}{OFF} ({len(found)})")
        print_table(context, HEADINGS, found)
