"""An application's shortcuts file, read by a format of one's own."""

import bisect
import re
import time
from collections.abc import Iterable, Iterator, Mapping, Sequence
from types import MappingProxyType
from typing import Any

from msgspec import Struct

from olive_compass.core.apps.listing import slug
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.kinds.own import PREFIX, is_word
from olive_compass.core.keys.reading import TriggerError, read_trigger
from olive_compass.core.keys.spelling import Spelling
from olive_compass.core.keys.terminal_notation import NotWritten
from olive_compass.core.keys.terminal_notation import read as read_terminal
from olive_compass.core.keys.terminal_notation import write as write_terminal
from olive_compass.core.keys.triggers import Run, Stroke
from olive_compass.desk.structures import ESCAPES
from olive_compass.desk.structures import records as structured
from olive_compass.errors import Refused
from olive_compass.structs import replace

#: The groups that a pattern may name.
GROUPS = ("id", "title", "menu", "mode", "keys", "kind", "does")

#: What a command with several keys becomes: one record for all, one a key, or its first key only.
SEVERAL = ("joined", "records", "first")

#: Whether the file has the keys of every command; those of the commands only that differ from the factory; or only
#: the keys that do, one by one.
HOLDS = ("all", "changes", "keys")

#: How capital letters are read: as the file tells (a letter stands there both ways), or as Shift and the letter.
CAPITALS = ("", "shift")

#: The longest cell of keys, in characters.
LONGEST_CELL = 2_000

#: How long a pattern may look at a file, in seconds.
LONGEST = 6.0


class FileFormat(Struct, frozen=True):
    """How a file is read and written.

    ``pattern`` matches a record and names its parts; ``section`` the heading of records that follow it.
    ``entry`` is a new record, with the parts in braces; ``between`` what parts two records, its sign
    (a comma, say) also where a record is taken out; ``new_section`` is a new section with ``{entry}`` in
    it, put after the sign ``section_end`` of the last one. ``each`` is how one key is written in the
    cell, ``join`` what parts several; ``none`` is the cell of a command without a key (None: its record
    goes). ``escapes`` are signs that are written otherwise, ``modes`` our modes as the file calls them.
    ``off`` is a record that switches a key off, ``off_pattern`` matches one; ``notation`` is one of
    ``terminal_notation``; ``capitals`` one of ``CAPITALS``. Of a file with a ``structure`` (``structures``) the
    ``records`` are found by a path, and their ``fields`` by attribute, element or name.
    """

    name: str
    title: str = ""
    pattern: str = ""
    section: str = ""
    entry: str = ""
    between: str = "\n"
    new_section: str = ""
    section_end: str = ""
    each: str = "{key}"
    join: str = ", "
    none: str | None = None
    several: str = "joined"
    holds: str = "all"
    off: str = ""
    off_pattern: str = ""
    notation: str = ""
    capitals: str = ""
    structure: str = ""
    records: str = ""
    fields: Mapping[str, str] = MappingProxyType({})
    spelling: Mapping[str, str] = MappingProxyType({})
    escapes: Mapping[str, str] = MappingProxyType({})
    modes: Mapping[str, str] = MappingProxyType({})


class Piece(Struct, frozen=True):
    """One key of a cell: where it stands in the file, and what it is (None: that cannot be read)."""

    span: tuple[int, int]
    run: Run | None
    problem: str = ""


class Entry(Struct, frozen=True):
    """A record of a file: its parts, its mode (``""``: the file names none), its keys one by one, and where it
    stands: the whole of it, and the cell of its keys."""

    parts: Mapping[str, str]
    mode: str
    pieces: tuple[Piece, ...]
    span: tuple[int, int]
    cell: tuple[int, int]

    @property
    def keys(self) -> tuple[Run, ...]:
        """The keys that can be read."""
        return tuple(dict.fromkeys(each.run for each in self.pieces if each.run))

    @property
    def problem(self) -> str:
        """Why keys of it cannot be read, ``""``: they can."""
        return next((each.problem for each in self.pieces if each.run is None), "")

    @property
    def subject(self) -> str:
        """What names the command: its id, or else its title."""
        return self.parts.get("id") or self.parts.get("title", "")


def id_in_mode(id_: str, mode: str) -> str:
    """The id in our catalogue of a command that has other keys in another mode: there it is a command of its own.

    >>> id_in_mode("cancel", "copy")
    'copy/cancel'
    """
    return f"{mode}/{id_}"


def names_modes(form: FileFormat) -> bool:
    """Whether files of the format say in which mode a key counts."""
    return "(?P<mode>" in form.pattern or bool(form.section) or "mode" in form.fields


class Off(Struct, frozen=True):
    """A record that switches a key off: in which mode, which key (None: it cannot be read), and where it stands."""

    mode: str
    run: Run | None
    span: tuple[int, int]


class Content(Struct, frozen=True):
    """What a format makes of a file: its records, its headings with their ends, the lines with something in them
    that belong to neither, and the keys that are switched off. ``form`` is the format with what the file itself tells
    of it."""

    entries: tuple[Entry, ...]
    sections: tuple[tuple[str, int], ...]
    outside: tuple[int, ...]
    offs: tuple[Off, ...]
    form: FileFormat

    @property
    def passed_over(self) -> int:
        """How many lines belong to no record and no heading."""
        return len(self.outside)


class Wanted(Struct, frozen=True):
    """What a command is to have in a mode: its parts, the mode as we call it, and its keys.

    None for the keys: the file is to say nothing of it.
    """

    parts: Mapping[str, str]
    mode: str
    keys: tuple[Run, ...] | None


class Unwritten(Struct, frozen=True):
    """What a format cannot write: whose, and why."""

    subject: str
    mode: str
    why: str


class _Matches(Struct, frozen=True):
    """What the patterns of a format match in a file, or what its structure has."""

    sections: list[Any]
    records: list[Any]
    offs: list[Any]


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
        self.outside = ROOT if form.section or "mode" in form.fields else ""

    def mode_at(self, place: int) -> str:
        """The mode of the section that a place lies in."""
        above = bisect.bisect_left(self.starts, place)
        return self.heads[above - 1][2] if above and place < self.ends[above - 1] else self.outside


def read(form: FileFormat, text: str, typed: int = 0) -> Content:
    """The records of a file. Raises ``Refused`` where the format cannot be carried out."""
    matches = _matches(form, text)
    form = _told_by_file(form, matches)
    sections = _Sections(form, matches.sections, text)
    cells = _Cells(form, typed)
    offs = [_off(form, found, sections, cells) for found in matches.offs]
    entries = _entries(form, matches.records, {each.span for each in offs}, sections, cells)
    spans = [*(each.span for each in entries), *(each.span for each in offs)]
    spans += [(start, end) for start, end, _ in sections.heads]
    headings = tuple((mode, end) for _, end, mode in sections.heads)
    # What is about the records of a structured file is its structure, and no line that could not be read.
    lines = () if form.structure else tuple(_lines_outside(text, spans))
    return Content(tuple(entries), headings, lines, tuple(offs), form)


def _matches(form: FileFormat, text: str) -> _Matches:
    if form.structure:
        return _Matches([], structured(form.structure, form.records, form.fields, text), [])
    return _Matches(
        list(_found(form, "section", text)) if form.section else [],
        list(_found(form, "pattern", text)),
        list(_found(form, "off_pattern", text)) if form.off_pattern else [],
    )


def _off(form: FileFormat, found: Any, sections: _Sections, cells: "_Cells") -> Off:
    named = _our_mode(form, found.groupdict().get("mode") or "")
    pieces = cells.read(found["keys"])
    return Off(
        named or sections.mode_at(found.start()), pieces[0].run if pieces else None, found.span()
    )


def _entries(
    form: FileFormat,
    records: Iterable[Any],
    offs: set[tuple[int, int]],
    sections: _Sections,
    cells: "_Cells",
) -> list[Entry]:
    """The records, but for those that switch a key off; raises ``Refused`` where that takes too long."""
    entries = []
    end = time.monotonic() + LONGEST
    for n, found in enumerate(records):
        if found.span() not in offs:
            entries.append(_entry(form, found, sections.mode_at(found.start()), cells))
        if n % 1000 == 0 and time.monotonic() > end:
            raise Refused(f"Reading the keys of this file took more than {LONGEST:.0f} s.")
    return entries


def _told_by_file(form: FileFormat, matches: _Matches) -> FileFormat:
    """The format with what the file itself tells of it: how it writes the modes, whether capitals are Shift, and
    whether keys stand in a list."""
    if form.structure and not form.escapes:
        form = replace(form, escapes=ESCAPES[form.structure])
    records = matches.records
    all_ = (*matches.sections, *records, *matches.offs)
    written_so = {_group(found, "mode") for found in all_}
    names = {_unescaped(form, name) for name in written_so if name}
    known = set(form.modes.values())
    written = {slug(name): name for name in sorted(names - known) if slug(name) != name}
    if written:
        form = replace(form, modes={**written, **form.modes})
    # A list of texts has each key in quotation marks.
    listed = any((_group(found, "keys") or "").lstrip().startswith('"') for found in records)
    if form.structure == "json" and form.each == "{key}" and listed:
        form = replace(form, each='"{key}"')
    if not form.capitals and _has_both_cases(form, records):
        form = replace(form, capitals="shift")
    return form


def _group(found: Any, name: str) -> str | None:
    """A part of a record, None: it has none of that name."""
    try:
        value: str | None = found[name]
    except IndexError:
        return None
    return value


def _has_both_cases(form: FileFormat, records: Iterable[Any]) -> bool:
    """Whether a letter stands in a file both small and as a capital, each with a key of its own."""
    seen: set[str] = set()
    for cell in {_group(found, "keys") for found in records}:
        for piece in _raw_pieces(form, cell or ""):
            if len(piece) == 1 and piece.isalpha():
                if piece.swapcase() in seen:
                    return True
                seen.add(piece)
    return False


def _raw_pieces(form: FileFormat, cell: str) -> list[str]:
    return [_unescaped(form, cell[start:end]) for start, end in _spans(form, cell)]


def _section_end(form: FileFormat, text: str, start: int) -> int:
    """Where the section ends whose heading ends at ``start``: at the sign for that, or with the file."""
    # Its last line need not be followed by another.
    sign = form.section_end.rstrip("\n")
    at = text.find(sign, start) if sign.strip() else -1
    return at if at >= 0 else len(text)


def _found(form: FileFormat, field: str, text: str) -> Iterable[Any]:
    """The matches of a pattern of the format, within its time."""
    # The patterns of others can run for ever; the standard library's have no limit of time.
    import regex

    pattern = getattr(form, field)
    end = time.monotonic() + LONGEST
    try:
        compiled = regex.compile(pattern, regex.MULTILINE)
        at = compiled.finditer(text, timeout=max(end - time.monotonic(), 0.01))
        return [found for found in at if found.end() > found.start()]
    except regex.error as error:
        raise Refused(f"The {field} of the format {form.name} cannot be read: {error}.") from error
    except TimeoutError as error:
        raise Refused(
            f"The {field} of the format {form.name} took more than {LONGEST:.0f} s.",
            hint="Let each part of it fit in one way only: [^\\n]+ and not .+ before a blank.",
        ) from error


def _entry(form: FileFormat, found: Any, mode: str, cells: "_Cells") -> Entry:
    parts = {name: value for name, value in found.groupdict().items() if value is not None}
    keys = parts.pop("keys", None)
    if form.escapes:
        # What a command is told by is what stands there, to the byte.
        parts = {
            name: value if name == "id" else _unescaped(form, value)
            for name, value in parts.items()
        }
    if parts.get("mode"):
        mode = _our_mode(form, parts["mode"])
    span = found.span()
    cell = found.span("keys") if keys is not None else (span[1], span[1])
    return Entry(parts, mode, cells.read(keys, cell[0]) if keys else (), span, cell)


class _Cells:
    """The cells of a file: most of them say what another said before."""

    def __init__(self, form: FileFormat, typed: int) -> None:
        self.form, self.typed = form, typed
        self.known: dict[str, tuple[Piece, ...]] = {}

    def read(self, text: str, at: int = 0) -> tuple[Piece, ...]:
        """The keys in a cell that begins ``at`` a place of the file."""
        pieces = self.known.get(text)
        if pieces is None:
            pieces = self.known[text] = read_cell(self.form, text, self.typed)
        return tuple(
            [
                Piece((each.span[0] + at, each.span[1] + at), each.run, each.problem)
                for each in pieces
            ]
        )


def read_cell(form: FileFormat, text: str, typed: int = 0) -> tuple[Piece, ...]:
    """The keys in a cell as the file has it, each with where it stands in it."""
    # In the notation of terminals a blank is a key.
    plain = text if form.notation else text.strip()
    if not plain or (form.none is not None and plain == form.none.strip()):
        return ()
    if len(plain) > LONGEST_CELL:
        return (Piece((0, len(text)), None, f"it has more than {LONGEST_CELL} characters"),)
    found = []
    for start, end in _spans(form, text):
        where = start, end
        try:
            run = _key(form, _unescaped(form, text[start:end]), typed)
        except (TriggerError, NotWritten) as error:
            found.append(Piece(where, None, str(error)))
        else:
            found.append(Piece(where, run))
    return tuple(found)


def _key(form: FileFormat, written: str, typed: int) -> Run:
    """A key of a file; one that nobody knows is a trigger in the application's own word. Raises ``TriggerError`` or
    ``NotWritten``."""
    if form.notation:
        return read_terminal(written, form.notation, form.spelling, form.capitals == "shift")
    text = Spelling(form.spelling).read(written)
    if form.capitals == "shift":
        text = " ".join(map(_capital_is_shift, text.split(" ")))
    try:
        return read_trigger(text, typed)
    except TriggerError as error:
        word = text[error.start : error.end]
        # A sentence in the place of keys is no sequence of words for them.
        if not is_word(word) or " " in text.strip():
            raise
        return read_trigger(f"{text[: error.start]}{PREFIX}{word}{text[error.end :]}", typed)


def _capital_is_shift(text: str) -> str:
    """A stroke with a capital letter as Shift and that letter.

    >>> _capital_is_shift("F"), _capital_is_shift("Alt+F"), _capital_is_shift("Ctrl+F"), _capital_is_shift("F1")
    ('Shift+F', 'Alt+Shift+F', 'Ctrl+F', 'F1')
    """
    held, plus, key = text.rpartition("+")
    if (
        len(key) != 1
        or not key.isalpha()
        or not key.isupper()
        or set(held.split("+")) & _SAME_EITHER_WAY
    ):
        return text
    return f"{held}{plus}Shift+{key}"


#: Modifiers with which a capital letter is the same key as the small one.
_SAME_EITHER_WAY = {"Ctrl", "Meta", "Shift", "Main"}


def _spans(form: FileFormat, cell: str) -> list[tuple[int, int]]:
    """Where the keys of a cell stand in it, each without the blanks about it."""
    before, _, after = form.each.partition("{key}")
    if before or after:
        escapes = "|".join(map(re.escape, form.escapes.values()))
        # A sign that is written otherwise is read in that one way: two ways would be tried in turn, for ever.
        inner = f"{escapes}|(?!{escapes})" if escapes else ""
        pattern = f"{re.escape(before)}((?:{inner}.)*?){re.escape(after)}(?={re.escape(form.join.strip())}|\\s*$|\\s)"
        return [found.span(1) for found in re.finditer(pattern, cell, re.DOTALL)]
    if form.notation and form.several != "joined":
        return [(0, len(cell))]
    if form.several != "joined" or not form.join:
        return [_trimmed(cell, 0, len(cell))]
    found, start = [], 0
    for piece in cell.split(form.join):
        if piece.strip():
            found.append(_trimmed(cell, start, start + len(piece)))
        start += len(piece) + len(form.join)
    return found


def _trimmed(text: str, start: int, end: int) -> tuple[int, int]:
    inner = text[start:end]
    return start + len(inner) - len(inner.lstrip()), end - len(inner) + len(inner.rstrip())


def write_key(form: FileFormat, key: Run) -> str:
    """One key as the file has it in a cell, without what stands about it there. Raises ``NotWritten``."""
    if form.notation:
        text = write_terminal(key, form.notation, form.spelling, form.capitals == "shift")
    elif form.capitals == "shift":
        text = " ".join(_cased(form, each) for each in key.strokes)
    else:
        text = Spelling(form.spelling).write(key)
    return escaped(form, text)


def _cased(form: FileFormat, each: Stroke) -> str:
    """A stroke in a file in which a capital letter is that letter with Shift."""
    plain = (
        len(each.key) == 1
        and each.key.isalpha()
        and not set(each.modifiers) & {"Ctrl", "Meta", "Main"}
    )
    held = tuple(name for name in each.modifiers if not plain or name != "Shift")
    text = Spelling(form.spelling).write(Run((Stroke(held, each.key, each.by_place),)))
    if not plain:
        return text
    return text[:-1] + (each.key.upper() if "Shift" in each.modifiers else each.key.lower())


def write_cell(form: FileFormat, keys: Sequence[Run]) -> str:
    """The cell of a record with these keys."""
    if not keys:
        return form.none or ""
    several = keys if form.several == "joined" else keys[:1]
    return form.join.join(form.each.replace("{key}", write_key(form, key)) for key in several)


def subject(parts: Mapping[str, str]) -> str:
    return parts.get("id") or parts.get("title", "")


def _our_mode(form: FileFormat, text: str) -> str:
    return next((ours for ours, theirs in form.modes.items() if theirs == text), text)


def _part(form: FileFormat, text: str) -> str:
    return _our_mode(form, _unescaped(form, text))


def their_mode(form: FileFormat, mode: str) -> str:
    return form.modes.get(mode, mode)


def escaped(form: FileFormat, text: str) -> str:
    return "".join(form.escapes.get(char, char) for char in text)


def _unescaped(form: FileFormat, text: str) -> str:
    if not form.escapes:
        return text
    signs = {theirs: ours for ours, theirs in form.escapes.items()}
    pattern = "|".join(re.escape(each) for each in sorted(signs, key=len, reverse=True))
    return re.sub(pattern, lambda found: signs[found[0]], text)


def _lines_outside(text: str, spans: Iterable[tuple[int, int]]) -> Iterator[int]:
    """The numbers of the lines that have something in them which no span covers."""
    at, line = 0, 1
    for start, end in [*sorted(spans), (len(text), len(text))]:
        gap = text[at:start]
        if gap.strip(_NOTHING):
            for number, piece in enumerate(gap.split("\n"), line):
                if piece.strip(_NOTHING):
                    yield number
        end = max(at, end)
        line += text.count("\n", at, end)
        at = end


#: Signs that part records and stand about them: a line of them alone says nothing.
_NOTHING = " \t\r\n,;{}[]()"
