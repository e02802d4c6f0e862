"""Reads a cell of a listing that may hold several triggers, one, or a word for none.

Commas, slashes and semicolons part triggers, and each of them is also a key. A cell is cut
where every piece that results can be read; ``A or B`` is our own way of writing two.
"""

import re
from functools import lru_cache

from olive_compass.core.keys.cell import Cell
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.spellings import KEY_SPELLINGS, MODIFIER_SPELLINGS
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.keys.triggers import Run, Stroke
from olive_compass.core.keys.words import AND_WORDS, NO_KEY_WORDS, OR_WORDS, words_of
from olive_compass.core.wording import clause

#: What people write into a cell for "no key" (lower case).
NO_KEY = frozenset(
    [
        "none",
        "n/a",
        "na",
        "(none)",
        "[none]",
        "<none>",
        "nil",
        "null",
        "unassigned",
        "disabled",
        "(unassigned)",
        "undefined",
        "-",
        "–",
        "—",
        "--",
        "---",
        "…",
    ]
) | {"", "not set", "no key", "no shortcut", "not assigned", *NO_KEY_WORDS}

_WORDS = (
    rf"(?i)\s+(?:{'|'.join(OR_WORDS)})\s+"
    rf"|\s*[\n\r]+\s*(?:(?:{'|'.join(AND_WORDS)})\s*[\n\r]+\s*)?"
)
_SPACED = r"\s+[/|;,]\s+"


def read_cell(text: str, typed: int = 0, platform: str = "pc") -> Cell:
    """The triggers that a cell holds, in its order; where it has those of two platforms, of ``platform``.

    What manuals write otherwise is read as they mean it (``manual_cells``); a cell that tells a gesture says so.

    >>> [str(t) for t in read_cell("F6 / Num + , Ctrl+,").triggers]
    ['F6', 'Num+', 'Ctrl+,']
    >>> read_cell("(none)").triggers
    ()
    """
    cell = _as_it_stands(text, typed)
    if not cell.problem and not any(map(_is_range, cell.triggers)):
        if len(cell.triggers) > 1:
            return _of_platform(cell, text, platform)
        return cell
    # Loaded here: few cells are written so.
    from olive_compass.core.keys.manual_cells import (
        as_cell,
        is_gesture,
        without_condition,
        without_where,
    )

    # What says when a key does so may have an “or” in it, which parts no keys.
    if without := without_condition(text):
        return read_cell(without, typed, platform)
    parts = [part for part in re.split(_WORDS, text) if part.strip()]
    for some in (parts, [without_where(part) for part in parts]):
        put = "\n".join(as_cell(part, platform) for part in some)
        if put != text and not (again := _as_it_stands(put, typed)).problem:
            return again
    if is_gesture(text):
        return Cell(cell.triggers, GESTURE)
    return cell


#: A word that is longer than a sign or a number, and how many of them may stand among keys without being one.
_LONG_WORD = re.compile(r"[^\W\d_]{3,}")
_MOST_OTHER_WORDS = 12


def is_sentence(text: str, most: int = _MOST_OTHER_WORDS) -> bool:
    """Whether a text has more than ``most`` words that name no key: more than any way to write keys has."""
    words = _LONG_WORD.findall(text.lower())
    others = [
        word for word in words if word not in KEY_SPELLINGS and word not in MODIFIER_SPELLINGS
    ]
    return len(others) > most


@lru_cache(maxsize=4096)
def names_keys(text: str) -> bool:
    """Whether a cell holds a trigger at all: asked of every cell of a listing, and of many several times.

    >>> names_keys("Ctrl+S or a click"), names_keys("Save sheet")
    (True, False)
    """
    return not is_sentence(text) and bool(read_cell(text).triggers)


def _is_range(run: Run) -> bool:
    """Whether a run is more likely all the keys from one to another: ``F1 - F12``, ``Ctrl+1 - 9``."""
    if len(run.strokes) != 3:
        return False
    first, sign, last = run.strokes
    numbers = (first.key.removeprefix("F"), last.key.removeprefix("F"))
    return not sign.modifiers and sign.key == "-" and all(map(str.isdecimal, numbers))


_COMMAND = re.compile(rf"⌘|\b(?:cmd|command|{'|'.join(words_of('Meta'))})\b", re.I)
_CONTROL = re.compile(rf"\b(?:ctrl|control|{'|'.join(words_of('Ctrl'))})\b", re.I)


def names_command(text: str) -> bool:
    """Whether a cell names the main modifier of a Mac."""
    return _COMMAND.search(text) is not None


def _of_platform(cell: Cell, text: str, platform: str) -> Cell:
    """The triggers of one platform, where a cell has each key twice: with Ctrl, and with the Mac's Command."""
    if not (names_command(text) and _CONTROL.search(text)):
        return cell
    mac = [run for run in cell.triggers if "Meta" in run.strokes[0].modifiers]
    others = [run for run in cell.triggers if run not in mac]
    if _without(mac, "Meta+") != _without(others, "Ctrl+"):
        return cell
    if platform == "mac":
        return Cell(tuple(mac))
    return Cell(tuple(others))


def _without(runs: list[Run], modifier: str) -> set[str]:
    """The keys without one of their modifiers."""
    return {str(run).replace(modifier, "") for run in runs}


#: Why a cell with words such as “hold Space and drag” is no key.
GESTURE = "it tells a gesture, and names no key"


def _as_it_stands(text: str, typed: int) -> Cell:
    text = text.strip()
    if text.lower() in NO_KEY:
        return Cell(())
    if text[:5].lower() == "main ":
        # Our own word for the main modifier is a word of English before a blank: “Main Menu”.
        return Cell((), f"“{text}” is no key")
    found: list[Run] = []
    problem = ""
    for part in re.split(_WORDS, text):
        cell = _part(part.strip(), typed)
        found.extend(cell.triggers)
        problem = problem or cell.problem
    return Cell(tuple(dict.fromkeys(found)), problem)


def _of_pieces(pieces: list[str], typed: int) -> Cell | None:
    """The triggers of pieces, None where one of them is no trigger."""
    read = [_one(piece, typed) for piece in pieces]
    if all(read):
        return _together(pieces, [run for run in read if run])
    return None


def _part(text: str, typed: int) -> Cell:
    """A piece without “or”: cut at its separators, or one trigger whole."""
    pieces = re.split(_SPACED, text)
    if len(pieces) > 1 and (cell := _of_pieces(pieces, typed)):
        return cell
    try:
        return Cell((read_trigger(text, typed),))
    except TriggerError as error:
        whole = error
    for cut in _cuts(text):
        if cell := _of_pieces(cut, typed):
            return cell
    # A word that is no key is not meant as its letters, one after another.
    near = ""
    if " " not in whole.nearest:
        near = whole.nearest
    return Cell((), f"{whole.reason}" + clause("; did you mean {}?", near))


def _one(text: str, typed: int) -> Run | None:
    try:
        return read_trigger(text, typed)
    except TriggerError:
        return None


def _cuts(text: str) -> list[list[str]]:
    """Ways to cut at ``,`` ``;`` ``/``: each sign parts, unless it ends a piece as its key."""
    cuts = []
    for sign in (",", ";", "/", "|"):
        if sign not in text:
            continue
        pieces: list[str] = []
        at = 0
        for n, char in enumerate(text):
            # "Ctrl+," and a lone "," are keys; the sign parts only after a piece.
            if char == sign and text[at:n].strip() and not text[at:n].rstrip().endswith("+"):
                pieces.append(text[at:n].strip())
                at = n + 1
        pieces.append(text[at:].strip())
        if len(pieces) > 1:
            cuts.append([piece for piece in pieces if piece])
    return cuts


def _together(pieces: list[str], runs: list[Run]) -> Cell:
    """Refuses ``Ctrl+PgUp/PgDn``: nobody can tell whether Ctrl belongs to both."""
    first = runs[0].strokes[0]
    for piece, run in zip(pieces[1:], runs[1:], strict=True):
        bare = not run.strokes[0].modifiers and not run.strokes[0].key.startswith("F")
        if _shares_modifiers(first, bare, run):
            held = "+".join(first.modifiers)
            return Cell((), f"it is not clear whether {held} belongs to “{piece}” too")
    return Cell(tuple(runs))


def _shares_modifiers(first: Stroke, bare: bool, run: Run) -> bool:
    return bool(first.modifiers and bare and len(run.strokes) == 1)
