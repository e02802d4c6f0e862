"""The files that an imported listing becomes."""

import csv
import io
import os
from collections.abc import Mapping, Sequence
from typing import Any

from msgspec import Struct

from olive_compass.cli.intake.listing_changes import say_changes
from olive_compass.cli.intake.questions import (
    ask_rules,
)
from olive_compass.cli.intake.reading import (
    ReadingOptions,
    wished,
)
from olive_compass.cli.intake.report import say_guesses, say_what_stays
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import Catalogue
from olive_compass.core.apps.changes import take_in
from olive_compass.core.apps.guesses import Guess, as_values, guesses
from olive_compass.core.apps.listing_result import Listing, SetAside
from olive_compass.core.apps.rules import DUPLICATES, Duplicates, Rules
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import app_writing, catalogue_file
from olive_compass.desk.formats.app_file import Reading
from olive_compass.desk.paths import app_path, catalogue_path
from olive_compass.desk.storage.records import FileChange, changing
from olive_compass.desk.texts.cells import shielded


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
    no_questions: bool
    data: bytes = b""


def import_files(
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
        catalogue = None
        if taken.changes:
            catalogue = taken.catalogue
    files = []
    if catalogue is not None:
        files.append(
            file_change(
                desk, catalogue_path(name), catalogue_file.write(catalogue, desk.settings.platform)
            )
        )
    if exists:
        before = desk.bytes(app_path(name))
        after = _renewed(desk, name, before, listing, request, words)
        after = _with_new_guesses(desk, name, after, catalogue or desk.catalogue(name))
        files.append(FileChange(app_path(name), before, after))
    else:
        rules, told = _new_rules(request, context, desk, title, name, listing)
        text = app_writing.new_text(title, request.version or "", listing.modes, rules, told)
        text = app_writing.with_reading(text, wished(request.said, Reading()))
        files.append(file_change(desk, app_path(name), app_writing.with_spelling(text, words)))
    # Renewed at each reading: what was set aside before may be read now.
    aside = f"apps/{name}/set-aside.csv"
    if listing.set_aside:
        files.append(file_change(desk, aside, _set_aside_text(listing.set_aside)))
    elif desk.has(aside):
        files.append(desk.change_of(aside, None))
    return changing(files)


def _renewed(
    desk: Desk,
    name: str,
    before: bytes,
    listing: Listing,
    request: ImportRequest,
    words: Mapping[str, str],
) -> bytes:
    """What a new listing says of an application that is there."""
    after = before
    if request.version is not None:
        after = app_writing.with_version(after, request.version)
    after = app_writing.with_modes(after, listing.modes)
    after = app_writing.with_spelling(after, words)
    takes = desk.app(name).rules.takes
    more = [kind for kind in listing.catalogue.takes if kind not in takes]
    if more:
        after = app_writing.with_rule(after, "rules", "takes", [*takes, *more])
    return app_writing.with_reading(after, wished(request.said, desk.reading(name)))


def _with_new_guesses(desk: Desk, name: str, about: bytes, catalogue: Catalogue) -> bytes:
    """The application's file with what its new keys tell, where rules were told by keys before."""
    rules = desk.app(name).rules
    if not rules.guessed - {"duplicates"}:
        return about
    found = guesses(catalogue.commands, desk.app(name).modes.names, desk.settings.platform)
    return app_writing.with_guesses(about, as_values(g for g in found if g.rule in rules.guessed))


def _guessed(request: ImportRequest, desk: Desk, listing: Listing) -> list[Guess]:
    """What the keys of the listing tell of the rules that no option gives."""
    given = set()
    if request.duplicates:
        given.add("duplicates")
    if request.runs:
        given.add("longest-sequence")
    found = guesses(listing.catalogue.commands, listing.modes, desk.settings.platform)
    return [each for each in found if each.rule not in given]


def _new_rules(
    request: ImportRequest,
    context: Surroundings,
    desk: Desk,
    title: str,
    name: str,
    listing: Listing,
) -> tuple[Rules, Mapping[str, Any]]:
    """The rules of a new application: those given as options, the others guessed from the keys of the listing."""
    told = _guessed(request, desk, listing)
    said: dict[str, Any] = {}
    if context.interactive:
        said = ask_rules(context, title, told, request.duplicates or "")
        told = []
    elif not context.quiet:
        say_guesses(context, name, told, bool(request.duplicates))
    duplicates = request.duplicates or said.get("duplicates", "")
    modifiers = said.get("modifiers")
    rules = Rules(
        duplicates=duplicates or DUPLICATES[0],
        longest_sequence=request.runs
        or said.get("longest-sequence")
        or max(listing.longest_sequence, 1),
        typed_sequences=bool(listing.typed),
        most_keys=said.get("most-keys", 0),
        modifiers=None if modifiers is None else tuple(modifiers),
        text_modes=tuple(said.get("text-modes", ())),
        takes=listing.catalogue.takes,
        guessed=frozenset() if duplicates else frozenset(["duplicates"]),
    )
    return rules, as_values(told)


def file_change(desk: Desk, path: str, after: bytes) -> FileChange:
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
