"""Cards in several columns: what stands side by side on a page, each column with titles and keys of its own.

A gap from above to below parts a page where what is left and right of it makes sense alone: has titles and keys.
The gap between the titles and the keys of one list parts nothing.
"""

import re
from collections.abc import Iterable, Sequence
from itertools import pairwise
from typing import Any

from msgspec import Struct

from olive_compass.core.keys.words import OR_WORDS
from olive_compass.desk.importing.line_pairs import MINUS, MINUS_KEY, is_keys, pair

#: A word as the reader of PDFs gives it: its text, its edges, its size and the name of its font.
Word = dict[str, Any]

#: Words this far apart, in heights of their letters, stand in two cells.
GAP = 1.1

#: How wide a gap from above to below must be, in heights of letters, and how many of a hundred lines may cross it.
_WIDTH = 0.9
_CROSSING = 4

#: From so many lines on, one may cross it in any case.
_ENOUGH = 8

#: How many cells of a column must be keys, or a title with its keys, in a hundred.
_MOSTLY = 50


_OR = re.compile(rf"(?i)\s+(?:{'|'.join(OR_WORDS)})$")


class Cell(Struct, frozen=True, kw_only=True):
    """Words that stand together: the text, its left and right edge, and whether it looks like a heading."""

    text: str
    left: float
    right: float
    large: bool


class Column(Struct, frozen=True):
    """A column of a card: its edges, and those of the parts in it (titles, keys)."""

    left: float
    right: float
    parts: tuple[tuple[float, float], ...]


#: The signs that stand before the items of a list, those of a symbol font among them, which has no letters for
#: them; a dash may be the minus key.
_ITEM = re.compile(r"[•◦▪▫‣●○■□\uf0b7\uf0a7\uf0d8]|\(cid:\d+\)|\d{1,2}[.)]")


#: The names of fonts whose letters have one width.
_ONE_WIDTH = re.compile(r"(?i)mono(?!type)|courier|consol|typewriter")

#: What stands between the keys of a stroke, or between two strokes.
JOINERS = ("+", "-", "/", ",")


def cells_of(line: Sequence[Word], usual: float) -> list[Cell]:
    """The cells of a line: words with no gap between them. The sign before the item of a list is none."""
    if len(line) > 1 and _ITEM.fullmatch(line[0]["text"]):
        line = line[1:]
    found: list[list[Word]] = []
    keys = _keys_at_the_end(line)
    for word in line:
        is_near = bool(found) and word["x0"] - found[-1][-1]["x1"] <= GAP * word["size"]
        if is_near and word is not keys:
            found[-1].append(word)
        else:
            found.append([word])
    return [
        Cell(
            text=_text_of(words, are_keys=words[0] is keys),
            left=words[0]["x0"],
            right=words[-1]["x1"],
            large=words[0]["size"] > usual * 1.12 or "bold" in words[0]["fontname"].lower(),
        )
        for words in found
    ]


def _text_of(words: Sequence[Word], are_keys: bool) -> str:
    text = " ".join(word["text"] for word in words)
    if are_keys and text in MINUS:
        return MINUS_KEY
    return text


def _keys_at_the_end(line: Sequence[Word]) -> Word | None:
    """The first of the words at the end of a line that are set in letters of one width, as keys are; None: all
    are, or none, or the line tells its keys without that."""
    first = None
    for word in reversed(line):
        if _ONE_WIDTH.search(word["fontname"]):
            first = word
        elif word["text"] not in JOINERS:
            is_told = first is None or pair(" ".join(each["text"] for each in line))
            return None if is_told else first
    return None


def columns(lines: Sequence[Sequence[Cell]]) -> list[Column]:
    """The columns of a page; none where it is one list."""
    parts = _parts([cell for line in lines for cell in line], len(lines))
    groups: list[list[tuple[float, float]]] = []
    open_: list[tuple[float, float]] = []
    for part in parts:
        open_.append(part)
        if _makes_sense(_within(lines, open_)):
            groups.append(open_)
            open_ = []
    if not groups or len(groups) < 2:
        return []
    groups[-1] += open_
    return [Column(group[0][0], group[-1][1], tuple(group)) for group in groups]


def _parts(cells: Sequence[Cell], lines: int) -> list[tuple[float, float]]:
    """The ranges from left to right that no gap from above to below parts."""
    if not cells:
        return []
    right = int(max(cell.right for cell in cells)) + 2
    covered = [0] * (right + 1)
    for cell in cells:
        for x in range(int(cell.left), min(int(cell.right) + 1, right)):
            covered[x] += 1
    # The title of a page goes over all its columns.
    most = max(lines * _CROSSING // 100, lines >= _ENOUGH)
    found: list[tuple[float, float]] = []
    start: int | None = None
    for x, times in enumerate(covered):
        if times > most and start is None:
            start = x
        elif times <= most and start is not None:
            found.append((start, x))
            start = None
    return _wide_apart(found, _WIDTH * 8)


def _wide_apart(ranges: Iterable[tuple[float, float]], least: float) -> list[tuple[float, float]]:
    found: list[tuple[float, float]] = []
    for left, right in ranges:
        if found and left - found[-1][1] < least:
            found[-1] = (found[-1][0], right)
        else:
            found.append((left, right))
    return found


def _within(
    lines: Sequence[Sequence[Cell]], parts: Sequence[tuple[float, float]]
) -> list[list[Cell]]:
    """What stands within these parts, line by line."""
    left, right = parts[0][0], parts[-1][1]
    found = [[c for c in line if left <= c.left + 2 and c.left <= right] for line in lines]
    return [line for line in found if line]


def _makes_sense(lines: Sequence[Sequence[Cell]]) -> bool:
    """Whether most lines have a title and keys of their own."""
    # Keys alone go on with those of the line above.
    body = [
        line for line in lines if len(line) > 1 or not (line[0].large or _begins_keys(line[0].text))
    ]
    whole = sum(
        len({_begins_keys(cell.text) for cell in line}) == 2
        or (len(line) == 1 and pair(line[0].text) is not None)
        for line in body
    )
    return len(body) > 1 and whole * 100 >= len(body) * _MOSTLY


def _begins_keys(text: str) -> bool:
    """Whether a text is keys, or such that go on: “Ctrl+S or”."""
    return is_keys(text) or is_keys(_OR.sub("", text))


def crosses(line: Sequence[Cell], found: Sequence[Column]) -> bool:
    """Whether a cell of a line stands over a gap between columns: it belongs to all of them."""
    gaps = [(one.right, other.left) for one, other in pairwise(found)]
    return any(cell.left < left and cell.right > right for cell in line for left, right in gaps)


def row_of(line: Sequence[Cell], column: Column) -> tuple[str, ...]:
    """The texts of a line in the parts of a column; several keys in one part are alternatives."""
    texts: list[str] = []
    for n in range(len(column.parts)):
        own = [cell.text for cell in line if _at(cell, column.parts) == n]
        joint = " "
        if len(own) > 1 and all(map(is_keys, own)):
            joint = " or "
        texts.append(joint.join(own))
    return tuple(texts)


def of_column(line: Sequence[Cell], column: int, found: Sequence[Column]) -> list[Cell]:
    """The cells of a line that stand in a column, the first being 0."""
    edges = [(each.left, each.right) for each in found]
    return [cell for cell in line if _at(cell, edges) == column]


def _at(cell: Cell, ranges: Sequence[tuple[float, float]]) -> int:
    """Which of the ranges a cell begins in, or begins after: no cell is in none."""
    return max(sum(left <= cell.left + 2 for left, _ in ranges) - 1, 0)
