"""What an imported listing becomes, said as it is made: the files, and the rules that are asked for or guessed."""

from collections.abc import Mapping
from typing import Any

from olive_compass.cli.intake.listing_changes import say_changes
from olive_compass.cli.intake.questions import ask_rules
from olive_compass.cli.intake.report import say_guesses, say_what_stays
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import Catalogue
from olive_compass.core.apps.changes import take_in
from olive_compass.core.apps.guesses import as_values
from olive_compass.core.apps.listing_result import Listing
from olive_compass.core.apps.rules import DUPLICATES, Rules
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import app_writing, catalogue_file
from olive_compass.desk.formats.app_file import Reading
from olive_compass.desk.importing.readings import reading_wished
from olive_compass.desk.paths import app_path, catalogue_path
from olive_compass.desk.storage.records import FileChange, changing
from olive_compass.desk.writing.listing_files import (
    ImportRequest,
    guessed_rules,
    renewed_app,
    set_aside_text,
    with_new_guesses,
)


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
            desk.change_of(
                catalogue_path(name), catalogue_file.write(catalogue, desk.settings.platform)
            )
        )
    if exists:
        before = desk.bytes(app_path(name))
        after = renewed_app(desk, name, before, listing, request, words)
        after = with_new_guesses(desk, name, after, catalogue or desk.catalogue(name))
        files.append(FileChange(app_path(name), before, after))
    else:
        rules, told = _new_rules(request, context, desk, title, name, listing)
        text = app_writing.new_text(title, request.version or "", listing.modes, rules, told)
        text = app_writing.with_reading(text, reading_wished(request.said, Reading()))
        files.append(desk.change_of(app_path(name), app_writing.with_spelling(text, words)))
    # Renewed at each reading: what was set aside before may be read now.
    aside = f"apps/{name}/set-aside.csv"
    if listing.set_aside:
        files.append(desk.change_of(aside, set_aside_text(listing.set_aside)))
    elif desk.has(aside):
        files.append(desk.change_of(aside, None))
    return changing(files)


def _new_rules(
    request: ImportRequest,
    context: Surroundings,
    desk: Desk,
    title: str,
    name: str,
    listing: Listing,
) -> tuple[Rules, Mapping[str, Any]]:
    """The rules of a new application: those given as options, the others guessed from the keys of the listing."""
    told = guessed_rules(request, desk, listing)
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
