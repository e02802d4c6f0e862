"""Takes a listing in: reads it, shows what was understood, asks where an application exists."""

import argparse
from collections.abc import Mapping

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import Writing, keep, writing_of
from olive_compass.cli.changing.saving import retry_on_conflict
from olive_compass.cli.files import STANDARD_INPUT, read_file
from olive_compass.cli.intake.import_files import import_files
from olive_compass.cli.intake.questions import (
    ask_columns,
    ask_for_listing,
    ask_groups,
    ask_headings,
    ask_words,
)
from olive_compass.cli.intake.reading import NAME_COLUMN, ListingOptions, said_of
from olive_compass.cli.intake.report import say_what_was_read
from olive_compass.cli.options import forget_option, reading_options, write_options, yes_option
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.command_lines import line
from olive_compass.cli.terminal.progress import waiting
from olive_compass.core.apps.app import Catalogue
from olive_compass.core.apps.command_ids import slug
from olive_compass.core.apps.key_columns import own_keys_column
from olive_compass.core.apps.listing_result import Listing
from olive_compass.core.apps.rules import DUPLICATES, Duplicates, Rules
from olive_compass.core.keys.spelling import CAPITAL
from olive_compass.core.wording import counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import app_writing, catalogue_file
from olive_compass.desk.formats.app_file import Reading
from olive_compass.desk.importing.readings import listing_by, reading_wished, request_of, rows_of
from olive_compass.desk.importing.source import Read
from olive_compass.desk.paths import app_path, catalogue_path
from olive_compass.desk.storage.file_names import checked_name
from olive_compass.desk.writing.listing_files import ImportRequest
from olive_compass.errors import UserError
from olive_compass.structs import replace


def options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("name", metavar="NAME", help="the application's name")
    parser.add_argument(
        "--from",
        dest="listing",
        metavar="FILE",
        default="",
        help="its listing: a table (CSV, XLSX, ODS), a page, a PDF, a document (DOCX, ODT), JSON, YAML, TOML, INI, XML "
        "or text; - reads a pipe (default: you are asked, at a terminal)",
    )
    parser.add_argument(
        "--empty",
        action="store_true",
        help="start without commands; add them with app command add",
    )
    parser.add_argument("--version", default=None, help="the application's version")
    reading_options(parser, keeps=True)
    parser.add_argument(
        "--duplicates",
        choices=DUPLICATES,
        help="what the application does with a key that is in use",
    )
    parser.add_argument(
        "--longest-sequence",
        dest="runs",
        type=int,
        metavar="N",
        help="the longest sequence that the application accepts, in keys (1: no sequences)",
    )
    forget_option(parser)
    yes_option(parser)
    write_options(parser)


class AppImportOptions(ListingOptions, kw_only=True):
    """The options of ``app import``."""

    name: str
    listing: str
    empty: bool
    version: str | None
    duplicates: Duplicates | None
    runs: int | None
    forget: list[str]
    yes: bool
    dry_run: bool
    json: bool


def add(args: AppImportOptions, context: Surroundings) -> int:
    """Runs ``app import``."""
    request = ImportRequest(
        name=args.name,
        listing=args.listing,
        said=said_of(args),
        runs=args.runs,
        forget=tuple(args.forget),
        version=args.version,
        duplicates=args.duplicates,
        no_questions=args.dry_run or args.yes,
    )
    writing = writing_of(args)
    if args.empty and not args.listing:
        return retry_on_conflict(
            lambda: _empty(request, writing, context, pick.desk(args, context)), context
        )
    if not args.empty and not args.listing and context.interactive:
        name, data = ask_for_listing(context, args.name)
        request = replace(request, listing=name, data=data)
    elif args.empty or not args.listing:
        raise UserError(
            "Give either --from or --empty; nothing was changed.",
            hint="--from FILE imports a listing; --empty starts without commands.",
        )
    else:
        # Read once: a pipe gives its text a single time.
        request = replace(request, data=read_file(context, args.listing, "The listing"))
    return retry_on_conflict(
        lambda: _add(request, writing, context, pick.desk(args, context)), context
    )


def _add(request: ImportRequest, writing: Writing, context: Surroundings, desk: Desk) -> int:
    title = " ".join(request.name.split())
    name = slug(title)
    if not name:
        raise UserError(
            f"“{request.name}” gives no name for a folder.", hint="Use letters or digits."
        )
    exists = name in desk.app_names()
    checked_name(name, "an application", desk.app_names())
    listing, words, request = _understood(request, context, desk, name if exists else "")
    files = import_files(desk, name, title, listing, request, exists, words, context)
    if files and exists and not request.no_questions:
        _ask(context, title)
    commands = counted(len(listing.catalogue.commands), "command")
    what = f"{title}: imported {'a new list of ' if exists else ''}{commands}"
    lines: tuple[str, ...] = ()
    if not exists and not desk.scheme_names(name):
        lines = (_next(name, listing, request),)
    aside = [
        {"line": each.line, "what": each.what, "text": each.text, "why": each.why}
        for each in listing.set_aside
    ]
    fields = {"app": name, "commands": len(listing.catalogue.commands), "set-aside": aside}
    return keep(writing, context, desk, files, what, lines, **fields)


def _next(name: str, listing: Listing, request: ImportRequest) -> str:
    """What comes after a new application: a scheme for the person's own keys, which the list may have in a column."""
    scheme = f"{name}/mine"
    own = own_keys_column(listing.unused)
    # What was piped or pasted is not there a second time.
    if own and request.listing != STANDARD_INPUT:
        column = ("--column", f"keys={own}")
        return f"Next, your own keys: {line('scheme', 'import', scheme, '--from', request.listing, *column)}"
    return f"Next, your own keys on top of these: {line('scheme', 'new', scheme)}"


def _empty(request: ImportRequest, writing: Writing, context: Surroundings, desk: Desk) -> int:
    """Makes an application of which no listing is at hand: its commands are added one by one."""
    title = " ".join(request.name.split())
    name = slug(title)
    if not name:
        raise UserError(
            f"“{request.name}” gives no name for a folder.", hint="Use letters or digits."
        )
    checked_name(name, "an application", desk.app_names())
    if name in desk.app_names():
        raise UserError(f"{title} is on this desk already; nothing was changed.")
    said = request.duplicates
    rules = Rules(
        duplicates=said or DUPLICATES[0],
        longest_sequence=request.runs or 1,
        guessed=frozenset() if said else frozenset(["duplicates"]),
    )
    files = [
        desk.change_of(
            catalogue_path(name), catalogue_file.write(Catalogue(()), desk.settings.platform)
        ),
        desk.change_of(
            app_path(name), app_writing.new_text(title, request.version or "", (), rules)
        ),
    ]
    lines = (f"Add its commands: olive-compass app command add {name} TITLE --menu MENU --key KEY",)
    return keep(writing, context, desk, files, f"{title}: added without commands", lines, app=name)


def _understood(
    request: ImportRequest, context: Surroundings, desk: Desk, existing: str
) -> tuple[Listing, dict[str, str], ImportRequest]:
    """The listing as it was read, said to the person; the words by which its keys were read; and what is said of it
    with what was answered."""
    words = {}
    if existing:
        words = dict(desk.app(existing).spelling)
    words |= request.said.spell
    format_name, read, listing = _read(request, context, desk, existing, words)
    if context.interactive:
        told = _asked(request, context, desk, existing, words, listing)
        if told != (words, request):
            words, request = told
            format_name, read, listing = _read(request, context, desk, existing, words)
    if listing.capitals:
        words = words | dict([CAPITAL])
    say_what_was_read(
        request.listing, context, format_name, read.note, listing, desk.settings.platform
    )
    if not listing.catalogue.commands:
        raise UserError("The list has no command; nothing was changed.", file=request.listing)
    if context.interactive and not existing and not request.no_questions:
        said = ask_columns(context, read.rows, listing, request.said)
        if said != request.said:
            request = replace(request, said=said)
            _, _, listing = _read(request, context, desk, existing, words)
    return listing, words, request


def _asked(
    request: ImportRequest,
    context: Surroundings,
    desk: Desk,
    existing: str,
    words: dict[str, str],
    listing: Listing,
) -> tuple[dict[str, str], ImportRequest]:
    """What a person answers of all that is in doubt in a listing, each asked once."""
    kept = reading_wished(request.said, desk.reading(existing) if existing else Reading())
    if learnt := ask_words(context, listing.unknown):
        words = words | learnt
        _, _, listing = _read(request, context, desk, existing, words)
    if kept.groups == "guess" and listing.guessed_groups:
        groups = ask_groups(context, listing)
        if groups != "guess":
            request = replace(request, said=replace(request.said, groups=groups))
            _, _, listing = _read(request, context, desk, existing, words)
    if kept.headings == "guess" and listing.situations.headings:
        headings = ask_headings(context, listing)
        request = replace(request, said=replace(request.said, headings=headings))
    return words, request


def _read(
    request: ImportRequest,
    context: Surroundings,
    desk: Desk,
    existing: str,
    words: Mapping[str, str],
) -> tuple[str, Read, Listing]:
    data = request.data
    reading = reading_wished(request.said, desk.reading(existing) if existing else Reading())
    with waiting(context, "Reading the listing", len(data) > 500_000):
        typed = None
        if request.runs is not None:
            typed = 0
            if request.runs > 1:
                typed = request.runs
        elif existing:
            typed = desk.app(existing).rules.typed
        longest = request.runs or (desk.app(existing).rules.longest_sequence if existing else 0)
        format_name, read = rows_of(desk, request.listing, data, reading, request.said, typed or 0)
        try:
            wishes = request_of(reading, read, desk, typed, words, longest)
            listing = listing_by(read.rows, wishes, request.said)
        except LookupError as error:
            raise UserError(
                f"It is not clear which column is which: {error.args[0]}.",
                file=request.listing,
                hint=NAME_COLUMN,
            ) from error
    aside = tuple(sorted((*read.set_aside, *listing.set_aside)))
    return format_name, read, replace(listing, set_aside=aside)


def _ask(context: Surroundings, title: str) -> None:
    if not context.interactive:
        raise UserError(
            f"{title} is on this desk already; nothing was changed.",
            hint="Use --yes to import the new list.",
        )
    if context.ask("Import the new list? [y/N]").lower() not in ("y", "yes"):
        raise UserError("The catalogue stays as it is; nothing was changed.")
