"""An application's shortcuts file, read by a format of one's own."""

import bisect
import time
from collections.abc import Iterable, Iterator
from typing import Any

from msgspec import Struct

from olive_compass.core.apps.command_ids import slug
from olive_compass.core.apps.modes import ROOT
from olive_compass.desk.shortcuts.file_format import FileFormat, our_mode, unescaped
from olive_compass.desk.shortcuts.shortcut_cells import Cells, raw_pieces
from olive_compass.desk.shortcuts.shortcuts_content import Content, Entry, Off, part_of
from olive_compass.desk.shortcuts.structures import ESCAPES, LISTS
from olive_compass.desk.shortcuts.structures import records as structured
from olive_compass.errors import UserError
from olive_compass.structs import replace

#: How long a pattern may look at a file, in seconds.
LONGEST = 6.0


class _Matches(Struct, frozen=True, kw_only=True):
    """What the patterns of a format match in a file, or what its structure has."""

    sections: list[Any]
    records: list[Any]
    offs: list[Any]
    in_lists: bool = False


class _Sections:
    """The sections of a file: which mode counts at a place of it."""

    def __init__(self, form: FileFormat, found: Iterable[Any], text: str) -> None:
        self.heads = [
            (each.start(), each.end(), _part(form, each.groupdict().get("mode") or ""))
            for each in found
        ]
        self.starts = [start for start, _, _ in self.heads]
        self.ends = [_section_end(form, text, end) for _, end, _ in self.heads]
        # What stands outside the sections counts wherever they do not say otherwise.
        has_modes = form.section or "mode" in form.fields
        self.length = len(text) + 1
        #: Records come in their order: most lie where the last one did.
        self.last = (0, 0, "")
        self.outside = our_mode(form, form.outside) or (ROOT if has_modes else "")

    def mode_at(self, place: int) -> str:
        """The mode of the section that a place lies in."""
        start, end, mode = self.last
        if not start <= place < end:
            start, end, mode = self.last = self._about(place)
        return mode

    def _about(self, place: int) -> tuple[int, int, str]:
        """From where to where what counts at a place does so, and the mode."""
        above = bisect.bisect_left(self.starts, place)
        if above < len(self.starts):
            after = self.starts[above]
        else:
            after = self.length
        if not above:
            return 0, after, self.outside
        end = self.ends[above - 1]
        if place < end:
            return self.starts[above - 1] + 1, min(end, after), self.heads[above - 1][2]
        return end, after, self.outside


def read(form: FileFormat, text: str, typed: int = 0) -> Content:
    """The records of a file. Raises ``UserError`` where the format cannot be carried out."""
    matches = _matches(form, text)
    form = _told_by_file(form, matches)
    sections = _Sections(form, matches.sections, text)
    cells = Cells(form, typed)
    offs = [_off(form, found, sections, cells) for found in matches.offs]
    entries = _entries(form, matches.records, {each.span for each in offs}, sections, cells)
    headings = tuple((mode, end) for _, end, mode in sections.heads)
    spans = [each.span() for each in (*matches.records, *matches.offs, *matches.sections)]
    # What is about the records of a structured file is its structure, and no line that could not be read.
    lines = () if form.structure else tuple(_lines_outside(text, spans))
    return Content(
        entries=tuple(entries), sections=headings, outside=lines, offs=tuple(offs), form=form
    )


def _matches(form: FileFormat, text: str) -> _Matches:
    if form.structure:
        lists = LISTS.get(form.structure)
        to_lists = lists is not None and form.each == lists.each
        found, in_lists = structured(form.structure, form.records, form.fields, text, to_lists)
        return _Matches(sections=[], records=found, offs=[], in_lists=in_lists)
    return _Matches(
        sections=list(_found(form, "section", text)) if form.section else [],
        records=list(_found(form, "pattern", text)),
        offs=list(_found(form, "off_pattern", text)) if form.off_pattern else [],
    )


def _off(form: FileFormat, found: Any, sections: _Sections, cells: Cells) -> Off:
    named = our_mode(form, found.groupdict().get("mode") or "")
    pieces = cells.read(found["keys"])
    return Off(
        named or sections.mode_at(found.start()), pieces[0].run if pieces else None, found.span()
    )


def _entries(
    form: FileFormat,
    records: Iterable[Any],
    offs: set[tuple[int, int]],
    sections: _Sections,
    cells: Cells,
) -> list[Entry]:
    """The records, but for those that switch a key off; raises ``UserError`` where that takes too long."""
    entries = []
    end = time.monotonic() + LONGEST
    for n, found in enumerate(records):
        span = found.span()
        if span not in offs:
            entries.append(_entry(form, found, sections.mode_at(span[0]), cells))
        if n % 1000 == 0 and time.monotonic() > end:
            raise UserError(f"Reading the keys of this file took more than {LONGEST:.0f} s.")
    return entries


def _modes_written(form: FileFormat, matches: _Matches) -> dict[str, str]:
    """The modes whose names the file writes otherwise than we do, with its own."""
    named = list(matches.sections)
    if form.structure or "(?P<mode>" in form.pattern:
        named += [*matches.records, *matches.offs]
    written_so = {part_of(found, "mode") for found in named}
    names = {unescaped(form, name) for name in written_so if name} - set(form.modes.values())
    return {slug(name): name for name in sorted(names) if slug(name) != name}


def _told_by_file(form: FileFormat, matches: _Matches) -> FileFormat:
    """The format with what the file itself tells of it: how it writes the modes, whether capitals are Shift, and
    whether keys stand in a list."""
    if form.structure and not form.escapes:
        form = replace(form, escapes=ESCAPES[form.structure])
    if written := _modes_written(form, matches):
        form = replace(form, modes={**written, **form.modes})
    if matches.in_lists:
        lists = LISTS[form.structure]
        # What a new record has about its one key stands about each of them.
        entry = form.entry.replace(lists.each.replace("{key}", "{keys}"), "{keys}")
        form = replace(form, each=lists.each, join=lists.join, entry=entry)
    if not form.capitals and _has_both_cases(form, matches.records):
        form = replace(form, capitals="shift")
    return form


def _has_both_cases(form: FileFormat, records: Iterable[Any]) -> bool:
    """Whether a letter stands in a file both small and as a capital, each with a key of its own."""
    seen: set[str] = set()
    for cell in {found["keys"] for found in records}:
        for piece in raw_pieces(form, cell or ""):
            if len(piece) == 1 and piece.isalpha():
                if piece.swapcase() in seen:
                    return True
                seen.add(piece)
    return False


def _section_end(form: FileFormat, text: str, start: int) -> int:
    """Where the section ends whose heading ends at ``start``: at the sign for that, or with the file."""
    # Its last line need not be followed by another.
    sign = form.section_end.rstrip("\n")
    at = -1
    if sign.strip():
        at = text.find(sign, start)
    if at >= 0:
        return at
    return len(text)


def _found(form: FileFormat, field: str, text: str) -> Iterable[Any]:
    """The matches of a pattern of the format, within its time."""
    # The patterns of others can run for ever; the standard library's have no limit of time.
    import regex

    pattern = getattr(form, field)
    end = time.monotonic() + LONGEST
    try:
        compiled = regex.compile(pattern, regex.MULTILINE)
        # There is no other thread to which the interpreter could be left, once a record.
        at = compiled.finditer(text, timeout=max(end - time.monotonic(), 0.01), concurrent=False)
        return [found for found in at if found.group()]
    except regex.error as error:
        raise UserError(
            f"The {field} of the format {form.name} cannot be read: {error}."
        ) from error
    except TimeoutError as error:
        raise UserError(
            f"The {field} of the format {form.name} took more than {LONGEST:.0f} s.",
            hint="Let each part of it fit in one way only: [^\\n]+ and not .+ before a blank.",
        ) from error


def _entry(form: FileFormat, found: Any, mode: str, cells: Cells) -> Entry:
    parts = found.groupdict()
    keys = parts.pop("keys", None)
    if None in parts.values():
        parts = {name: value for name, value in parts.items() if value is not None}
    if form.escapes:
        # A command is recognised by what stands there, to the byte.
        parts = {
            name: value if name == "id" else unescaped(form, value) for name, value in parts.items()
        }
    if parts.get("mode"):
        mode = our_mode(form, parts["mode"])
    return Entry(found=found, parts=parts, mode=mode, in_cell=cells.read(keys) if keys else ())


def _part(form: FileFormat, text: str) -> str:
    return our_mode(form, unescaped(form, text))


def _lines_outside(text: str, spans: Iterable[tuple[int, int]]) -> Iterator[int]:
    """The numbers of the lines that have something in them which no span covers."""
    at, counted, line = 0, 0, 1
    for start, end in [*sorted(spans), (len(text), len(text))]:
        gap = text[at:start]
        if gap != "\n" and gap.strip(_NOTHING):
            line += text.count("\n", counted, at)
            counted = at
            for number, piece in enumerate(gap.split("\n"), line):
                if piece.strip(_NOTHING):
                    yield number
        at = max(at, end)


#: Signs that part records and stand about them: a line of them alone says nothing.
_NOTHING = " \t\r\n,;{}[]()"
