"""Takes a listing in: reads it, shows what was understood, asks where an application exists."""

import csv
import io
import os
from collections.abc import Mapping, Sequence
from typing import Any

from msgspec import Struct

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import Writing, keep, writing_of
from olive_compass.cli.changing.saving import retry_on_conflict
from olive_compass.cli.files import read_file
from olive_compass.cli.intake.questions import (
    ask_columns,
    ask_for_listing,
    ask_groups,
    ask_headings,
    ask_rules,
    ask_words,
)
from olive_compass.cli.intake.reading import (
    NAME_COLUMN,
    ReadingOptions,
    listing_by,
    rows_of,
    said_of,
    wished,
    wishes_of,
)
from olive_compass.cli.intake.report import (
    say_changes,
    say_guesses,
    say_what_stays,
    say_what_was_read,
)
from olive_compass.cli.options import Common
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.progress import waiting
from olive_compass.core.apps.app import DUPLICATES, Catalogue, Duplicates, Rules
from olive_compass.core.apps.changes import take_in
from olive_compass.core.apps.guesses import as_values, guesses
from olive_compass.core.apps.listing import (
    Listing,
    SetAside,
    slug,
)
from olive_compass.core.apps.listing_row import Groups, Headings
from olive_compass.core.keys.spelling import CAPITAL
from olive_compass.core.wording import counted
from olive_compass.desk.desk import Desk, app_path, catalogue_path
from olive_compass.desk.formats import app_writing, catalogue_file
from olive_compass.desk.formats.app_file import Reading
from olive_compass.desk.importing.source import Read
from olive_compass.desk.storage.file_names import checked_name
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.texts.cells import shielded
from olive_compass.errors import UserError
from olive_compass.structs import replace


class ImportRequest(Struct, frozen=True, kw_only=True):
    """What was typed: the application, the listing and what is said of it, with how many letters of a cell
    are a run, the fields that may go, the version, what the application does with a key given twice,
    whether nothing is to be asked; and what the listing says."""

    name: str
    listing: str
    said: ReadingOptions
    runs: int | None
    forget: tuple[str, ...]
    version: str | None
    duplicates: Duplicates | None
    unasked: bool
    data: bytes = b""


class AppImportOptions(Common, kw_only=True):
    """What ``app import`` is told."""

    name: str
    listing: str
    empty: bool
    version: str | None
    columns: list[str]
    pattern: str
    file_format: str
    groups: Groups | None
    headings: Headings | None
    spell: list[str]
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
        unasked=args.dry_run or args.yes,
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
    files = _files(desk, name, title, listing, request, exists, words, context)
    if files and exists and not request.unasked:
        _ask(context, title)
    commands = counted(len(listing.catalogue.commands), "command")
    what = f"{title}: imported {'a new list of ' if exists else ''}{commands}"
    lines: tuple[str, ...] = ()
    if not exists and not desk.scheme_names(name):
        lines = (f"Next, your own keys on top of these: olive-compass scheme new {name}/mine",)
    aside = [
        {"line": each.line, "what": each.what, "text": each.text, "why": each.why}
        for each in listing.set_aside
    ]
    fields = {"app": name, "commands": len(listing.catalogue.commands), "set-aside": aside}
    return keep(writing, context, desk, files, what, lines, **fields)


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
        longest_run=request.runs or 1,
        guessed=frozenset() if said else frozenset(["duplicates"]),
    )
    files = [
        _change(
            desk, catalogue_path(name), catalogue_file.write(Catalogue(()), desk.settings.platform)
        ),
        _change(
            desk, app_path(name), app_writing.new_text(title, request.version or "", (), rules)
        ),
    ]
    lines = (f"Add its commands: olive-compass app command add {name} TITLE --menu MENU --key KEY",)
    return keep(writing, context, desk, files, f"{title}: added without commands", lines, app=name)


def _understood(
    request: ImportRequest, context: Surroundings, desk: Desk, existing: str
) -> tuple[Listing, dict[str, str], ImportRequest]:
    """The listing as it was read, said to the person; the words by which its keys were read; and what is said of it
    with what was answered."""
    words = dict(desk.app(existing).spelling) if existing else {}
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
    if context.interactive and not existing and not request.unasked:
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
    kept = wished(request.said, desk.reading(existing) if existing else Reading())
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
    reading = wished(request.said, desk.reading(existing) if existing else Reading())
    with waiting(context, "Reading the listing", len(data) > 500_000):
        typed = None
        if request.runs is not None:
            typed = request.runs if request.runs > 1 else 0
        elif existing:
            typed = desk.app(existing).rules.typed
        longest = request.runs or (desk.app(existing).rules.longest_run if existing else 0)
        format_name, read = rows_of(desk, request.listing, data, reading, request.said, typed or 0)
        try:
            wishes = wishes_of(reading, read, desk, typed, words, longest)
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


def _files(
    desk: Desk,
    name: str,
    title: str,
    listing: Listing,
    request: ImportRequest,
    exists: bool,
    words: Mapping[str, str],
    context: Surroundings,
) -> list[FileChange]:
    """The files that are written; what changes in a catalogue that is there is said."""
    catalogue: Catalogue | None = listing.catalogue
    if exists:
        taken = take_in(desk.catalogue(name), listing.catalogue, request.forget)
        say_what_stays(context, taken.stayed)
        say_changes(context, taken.changes, desk, name)
        # Nothing is written only because a person's file is laid out otherwise.
        catalogue = taken.catalogue if taken.changes else None
    files = []
    if catalogue is not None:
        files.append(
            _change(
                desk, catalogue_path(name), catalogue_file.write(catalogue, desk.settings.platform)
            )
        )
    if exists:
        about = desk.bytes(app_path(name))
        if request.version is None:
            after = about
        else:
            after = app_writing.with_version(about, request.version)
        after = app_writing.with_modes(after, listing.modes)
        after = app_writing.with_spelling(after, words)
        takes = desk.app(name).rules.takes
        more = [kind for kind in listing.catalogue.takes if kind not in takes]
        if more:
            after = app_writing.with_rule(after, "rules", "takes", [*takes, *more])
        after = app_writing.with_reading(after, wished(request.said, desk.reading(name)))
        after = _with_new_guesses(desk, name, after, catalogue or desk.catalogue(name))
        files.append(FileChange(app_path(name), about, after))
    else:
        rules, told = _new_rules(request, context, desk, title, name, listing)
        text = app_writing.new_text(title, request.version or "", listing.modes, rules, told)
        text = app_writing.with_reading(text, wished(request.said, Reading()))
        files.append(_change(desk, app_path(name), app_writing.with_spelling(text, words)))
    # Renewed at each reading: what was set aside before may be read now.
    aside = f"apps/{name}/set-aside.csv"
    if listing.set_aside:
        files.append(_change(desk, aside, _set_aside_text(listing.set_aside)))
    elif desk.has(aside):
        files.append(FileChange(aside, desk.bytes(aside), None))
    return [each for each in files if each.before != each.after]


def _with_new_guesses(desk: Desk, name: str, about: bytes, catalogue: Catalogue) -> bytes:
    """The application's file with what its new keys tell, where rules were told by keys before."""
    rules = desk.app(name).rules
    if not rules.guessed - {"duplicates"}:
        return about
    found = guesses(catalogue.commands, desk.app(name).modes.names, desk.settings.platform)
    return app_writing.with_guesses(about, as_values(g for g in found if g.rule in rules.guessed))


def _new_rules(
    request: ImportRequest,
    context: Surroundings,
    desk: Desk,
    title: str,
    name: str,
    listing: Listing,
) -> tuple[Rules, Mapping[str, Any]]:
    """The rules of a new application: what was said, and what is told by the keys of the listing."""
    commands, platform = listing.catalogue.commands, desk.settings.platform
    told = {each.rule: each for each in guesses(commands, listing.modes, platform)}
    if request.duplicates:
        told.pop("duplicates", None)
    if request.runs:
        told.pop("longest-sequence", None)
    said: dict[str, Any] = {}
    if context.interactive:
        said = ask_rules(context, title, list(told.values()), request.duplicates or "")
        told = {}
    elif not context.quiet:
        say_guesses(context, name, list(told.values()), bool(request.duplicates))
    duplicates = request.duplicates or said.get("duplicates", "")
    modifiers = said.get("modifiers")
    rules = Rules(
        duplicates=duplicates or DUPLICATES[0],
        longest_run=request.runs or said.get("longest-sequence") or max(listing.longest_run, 1),
        typed_runs=bool(listing.typed),
        most_keys=said.get("most-keys", 0),
        modifiers=None if modifiers is None else tuple(modifiers),
        text_modes=tuple(said.get("text-modes", ())),
        takes=listing.catalogue.takes,
        guessed=frozenset() if duplicates else frozenset(["duplicates"]),
    )
    return rules, as_values(told.values())


def _change(desk: Desk, path: str, after: bytes) -> FileChange:
    exists = os.path.exists(os.path.join(desk.root, path))
    return FileChange(path, desk.bytes(path) if exists else None, after)


def _set_aside_text(aside: Sequence[SetAside]) -> bytes:
    text = io.StringIO()
    text.write("# olive-compass-set-aside/1\n")
    writer = csv.writer(text, lineterminator="\n")
    writer.writerow(("line", "what", "why", "text"))
    for each in aside:
        writer.writerow([each.line, *map(shielded, (each.what, each.why, each.text))])
    return text.getvalue().encode()
