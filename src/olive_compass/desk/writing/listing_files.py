"""The files that an imported listing becomes."""

import csv
import io
from collections.abc import Mapping, Sequence

from msgspec import Struct

from olive_compass.core.apps.app import Catalogue
from olive_compass.core.apps.guesses import Guess, as_values, guesses
from olive_compass.core.apps.listing_result import Listing, SetAside
from olive_compass.core.apps.rules import Duplicates
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import app_writing
from olive_compass.desk.importing.readings import ReadingOptions, reading_wished
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


def renewed_app(
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
    return app_writing.with_reading(after, reading_wished(request.said, desk.reading(name)))


def with_new_guesses(desk: Desk, name: str, about: bytes, catalogue: Catalogue) -> bytes:
    """The application's file with what its new keys tell, where rules were told by keys before."""
    rules = desk.app(name).rules
    if not rules.guessed - {"duplicates"}:
        return about
    found = guesses(catalogue.commands, desk.app(name).modes.names, desk.settings.platform)
    return app_writing.with_guesses(about, as_values(g for g in found if g.rule in rules.guessed))


def guessed_rules(request: ImportRequest, desk: Desk, listing: Listing) -> list[Guess]:
    """What the keys of the listing tell of the rules that no option gives."""
    given = set()
    if request.duplicates:
        given.add("duplicates")
    if request.runs:
        given.add("longest-sequence")
    found = guesses(listing.catalogue.commands, listing.modes, desk.settings.platform)
    return [each for each in found if each.rule not in given]


def set_aside_text(aside: Sequence[SetAside]) -> bytes:
    text = io.StringIO()
    text.write("# olive-compass-set-aside/1\n")
    writer = csv.writer(text, lineterminator="\n")
    writer.writerow(("line", "what", "why", "text"))
    for each in aside:
        writer.writerow([each.line, *map(shielded, (each.what, each.why, each.text))])
    return text.getvalue().encode()
