"""An application's shortcuts file, read by a format of one's own."""

import bisect
import re
import time
from collections.abc import Iterable, Mapping, Sequence
from types import MappingProxyType
from typing import Any

from msgspec import Struct

from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.kinds.own import PREFIX, is_word
from olive_compass.core.keys.reading import TriggerError, read_trigger
from olive_compass.core.keys.spelling import Spelling
from olive_compass.core.keys.triggers import Run
from olive_compass.errors import Refused

#: The groups that a pattern may name.
GROUPS = ("id", "title", "menu", "mode", "keys", "kind", "does")

#: What a command with several keys becomes: one record for all, one a key, or its first key only.
SEVERAL = ("joined", "records", "first")

#: Whether the file has the keys of every command, or those only that differ from the factory's.
HOLDS = ("all", "changes")

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


def names_modes(form: FileFormat) -> bool:
    """Whether files of the format say in which mode a key counts."""
    return "(?P<mode>" in form.pattern or bool(form.section)


class Content(Struct, frozen=True):
    """What a format makes of a file: its records, its headings with their ends, and how many lines with
    something in them belong to neither."""

    entries: tuple[Entry, ...]
    sections: tuple[tuple[str, int], ...]
    passed_over: int


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


def read(form: FileFormat, text: str, typed: int = 0) -> Content:
    """The records of a file. Raises ``Refused`` where the format cannot be carried out."""
    heads = [
        (found.start(), found.end(), _part(form, found.groupdict().get("mode") or ""))
        for found in (_found(form, "section", text) if form.section else ())
    ]
    entries = []
    starts = [start for start, _, _ in heads]
    ends = [_section_end(form, text, end) for _, end, _ in heads]
    # What stands outside the sections counts wherever they do not say otherwise.
    outside = ROOT if form.section else ""
    end = time.monotonic() + LONGEST
    for found in _found(form, "pattern", text):
        above = bisect.bisect_left(starts, found.start())
        within = above and found.start() < ends[above - 1]
        mode = heads[above - 1][2] if within else outside
        entries.append(_entry(form, found, mode, typed))
        if time.monotonic() > end:
            raise Refused(f"Reading the keys of this file took more than {LONGEST:.0f} s.")
    matched = [each.span for each in entries] + [(start, end) for start, end, _ in heads]
    sections = tuple((mode, end) for _, end, mode in heads)
    return Content(tuple(entries), sections, _lines_outside(text, matched))


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


def _entry(form: FileFormat, found: Any, mode: str, typed: int) -> Entry:
    parts = {
        name: _unescaped(form, value)
        for name, value in found.groupdict().items()
        if value is not None
    }
    cell = found.span("keys") if parts.get("keys") is not None else (found.end(), found.end())
    mode = _our_mode(form, parts["mode"]) if parts.get("mode") else mode
    pieces = read_cell(form, found.group("keys") or "", typed, cell[0])
    parts.pop("keys", None)
    return Entry(parts, mode, pieces, found.span(), cell)


def read_cell(form: FileFormat, text: str, typed: int = 0, at: int = 0) -> tuple[Piece, ...]:
    """The keys in a cell as the file has it, which begins ``at`` a place of it."""
    plain = text.strip()
    if not plain or (form.none is not None and plain == form.none.strip()):
        return ()
    if len(plain) > LONGEST_CELL:
        return (Piece((at, at + len(text)), None, f"it has more than {LONGEST_CELL} characters"),)
    spelling = Spelling(form.spelling)
    found = []
    for start, end in _spans(form, text):
        where = at + start, at + end
        try:
            run = _key(spelling.read(_unescaped(form, text[start:end])), typed)
        except TriggerError as error:
            found.append(Piece(where, None, str(error)))
        else:
            found.append(Piece(where, run))
    return tuple(found)


def _key(text: str, typed: int) -> Run:
    """A key of a file; one that nobody knows is a trigger in the application's own word. Raises ``TriggerError``."""
    try:
        return read_trigger(text, typed)
    except TriggerError as error:
        word = text[error.start : error.end]
        # A sentence in the place of keys is no sequence of words for them.
        if not is_word(word) or " " in text.strip():
            raise
        return read_trigger(f"{text[: error.start]}{PREFIX}{word}{text[error.end :]}", typed)


def _spans(form: FileFormat, cell: str) -> list[tuple[int, int]]:
    """Where the keys of a cell stand in it, each without the blanks about it."""
    before, _, after = form.each.partition("{key}")
    if before or after:
        escapes = "|".join(map(re.escape, form.escapes.values()))
        # A sign that is written otherwise is read in that one way: two ways would be tried in turn, for ever.
        inner = f"{escapes}|(?!{escapes})" if escapes else ""
        pattern = f"{re.escape(before)}((?:{inner}.)*?){re.escape(after)}(?={re.escape(form.join.strip())}|\\s*$|\\s)"
        return [found.span(1) for found in re.finditer(pattern, cell, re.DOTALL)]
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
    """One key as the file has it in a cell, without what stands about it there."""
    return escaped(form, Spelling(form.spelling).write(key))


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


def _lines_outside(text: str, spans: Iterable[tuple[int, int]]) -> int:
    """How many lines have something in them that no span covers."""
    at, rest = 0, []
    for start, end in sorted(spans):
        rest.append(text[at:start])
        at = max(at, end)
    rest.append(text[at:])
    return sum(1 for piece in rest for line in piece.splitlines() if line.strip(" \t\r,;{}[]()"))
