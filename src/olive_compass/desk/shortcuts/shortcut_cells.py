"""The cells of a shortcuts file: its keys in its own words, read and written."""

import re
from collections.abc import Sequence

from msgspec import Struct

from olive_compass.core.keys.kinds.own import PREFIX, is_word
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.spelling import CAPITAL, Spelling
from olive_compass.core.keys.terminal_notation import NotWrittenError
from olive_compass.core.keys.terminal_notation import read as read_terminal
from olive_compass.core.keys.terminal_notation import write as write_terminal
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.keys.triggers import Run, Stroke
from olive_compass.desk.shortcuts.file_format import FileFormat, escaped, unescaped

#: The longest cell of keys, in characters.
LONGEST_CELL = 2_000


class Piece(Struct, frozen=True):
    """One key of a cell: where it stands in the file, and what it is (None: that cannot be read)."""

    span: tuple[int, int]
    run: Run | None
    problem: str = ""


def raw_pieces(form: FileFormat, cell: str) -> list[str]:
    """The keys of a cell as they are written, without what is written otherwise in the file."""
    return [unescaped(form, cell[start:end]) for start, end in spans(form, cell)]


class Cells:
    """The cells of a file: most of them say what another said before."""

    def __init__(self, form: FileFormat, typed: int) -> None:
        self.form, self.typed = form, typed
        self.known: dict[str, tuple[Piece, ...]] = {}

    def read(self, text: str) -> tuple[Piece, ...]:
        """The keys in a cell, each with its place in it."""
        pieces = self.known.get(text)
        if pieces is None:
            pieces = self.known[text] = read_cell(self.form, text, self.typed)
        return pieces


def read_cell(form: FileFormat, text: str, typed: int = 0) -> tuple[Piece, ...]:
    """The keys in a cell as the file has it, each with where it stands in it."""
    # In the notation of terminals a blank is a key.
    if form.notation:
        plain = text
    else:
        plain = text.strip()
    if not plain or (form.none is not None and plain == form.none.strip()):
        return ()
    if len(plain) > LONGEST_CELL:
        return (Piece((0, len(text)), None, f"it has more than {LONGEST_CELL} characters"),)
    found = []
    for start, end in spans(form, text):
        where = start, end
        try:
            run = _key(form, unescaped(form, text[start:end]), typed)
        except (TriggerError, NotWrittenError) as error:
            found.append(Piece(where, None, str(error)))
        else:
            found.append(Piece(where, run))
    return tuple(found)


def _key(form: FileFormat, written: str, typed: int) -> Run:
    """A key of a file; one that nobody knows is a trigger in the application's own word. Raises ``TriggerError`` or
    ``NotWrittenError``."""
    if form.notation:
        return read_terminal(written, form.notation, form.spelling, form.capitals == "shift")
    text = _spelling(form).read(written)
    try:
        return read_trigger(text, typed)
    except TriggerError as error:
        word = text[error.start : error.end]
        # A sentence in the place of keys is no sequence of words for them.
        if not is_word(word) or " " in text.strip():
            raise
        return read_trigger(f"{text[: error.start]}{PREFIX}{word}{text[error.end :]}", typed)


def spans(form: FileFormat, cell: str) -> list[tuple[int, int]]:
    """Where the keys of a cell stand in it, each without the blanks about it."""
    before, _, after = form.each.partition("{key}")
    if before or after:
        escapes = "|".join(map(re.escape, form.escapes.values()))
        # A sign that is written otherwise is read in that one way: two ways would be tried in turn, for ever.
        inner = ""
        if escapes:
            inner = f"{escapes}|(?!{escapes})"
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
    """One key as the file has it in a cell, without what stands about it there. Raises ``NotWrittenError``."""
    if form.notation:
        text = write_terminal(key, form.notation, form.spelling, form.capitals == "shift")
    else:
        spelling = _spelling(form)
        text = " ".join(_stroke(form, spelling, stroke) for stroke in key.strokes)
    return escaped(form, text)


def _stroke(form: FileFormat, spelling: Spelling, stroke: Stroke) -> str:
    """One stroke; a word of the application's own stands as it was read, its frame with it."""
    text = spelling.write(Run((stroke,)))
    if len(text) < 2 or stroke.key.startswith(PREFIX):
        return text
    return form.named_key.replace("{key}", text)


def _spelling(form: FileFormat) -> Spelling:
    """The words of the file for keys, and how it takes capital letters."""
    more = {}
    if form.capitals == "shift":
        more = dict([CAPITAL])
    return Spelling({**form.spelling, **more})


def write_cell(form: FileFormat, keys: Sequence[Run]) -> str:
    """The cell of a record with these keys."""
    if not keys:
        return form.none or ""
    if form.several == "joined":
        several = keys
    else:
        several = keys[:1]
    return form.join.join(form.each.replace("{key}", write_key(form, key)) for key in several)
