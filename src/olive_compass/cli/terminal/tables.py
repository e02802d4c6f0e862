"""Plain tables: aligned columns that survive a pipe, and wrap at a terminal's width."""

from collections.abc import Iterator, Sequence
from itertools import zip_longest

from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import (
    BLUE,
    BOLD,
    DIM,
    GREEN,
    OFF,
    RED,
    YELLOW,
    width_of,
    wrapped,
)

GAP = 2

#: How many rows a list has at a terminal where nobody says otherwise, so that it fits a screen.
AT_A_TERMINAL = 20

#: More rows than any list has.
EVERY = 10**9


def most_rows(surroundings: Surroundings, asked: int | None = None) -> int:
    """As many rows as were asked for; otherwise what fits a screen at a terminal, and all of them elsewhere."""
    if asked:
        return asked
    if surroundings.width:
        return AT_A_TERMINAL
    return EVERY


def _wrapped_row(row: Sequence[str], widths: Sequence[int]) -> Iterator[tuple[str, ...]]:
    """The lines of a row whose cells wrap; the shorter cells stand empty below."""
    cells = [_coloured(wrapped(cell, width)) for cell, width in zip(row, widths, strict=True)]
    return zip_longest(*cells, fillvalue="")


def print_table(
    surroundings: Surroundings, headings: Sequence[str], rows: Sequence[Sequence[str]]
) -> None:
    """Prints ``rows`` under ``headings``; a column that is empty throughout is left out."""
    kept = [n for n in range(len(headings)) if any(row[n] for row in rows)]
    headings = [headings[n] for n in kept]
    rows = [[row[n] for n in kept] for row in rows]
    widths = _natural_widths(headings, rows)
    if surroundings.width:
        fitted = _fitted(widths, _least(headings, rows), surroundings.width)
        # A table whose columns cannot all be read is no table: each row becomes a short list.
        if fitted is None:
            _print_stacked(surroundings, headings, rows)
            return
        widths = fitted
    say = surroundings.say
    say(BOLD + _line(headings, widths) + OFF)
    for row in rows:
        if not surroundings.width:
            say(_line(row, widths))
            continue
        for line in _wrapped_row(row, widths):
            say(_line(line, widths))


def natural_width(headings: Sequence[str], rows: Sequence[Sequence[str]]) -> int:
    """How many columns of a terminal a table takes whose cells do not wrap."""
    columns = _natural_widths(headings, rows)
    return sum(columns) + GAP * (len(columns) - 1)


def _natural_widths(headings: Sequence[str], rows: Sequence[Sequence[str]]) -> list[int]:
    """How wide the columns of a table are whose cells do not wrap."""
    return [max(map(width_of, column)) for column in zip(headings, *rows, strict=True)]


def print_fields(surroundings: Surroundings, fields: Sequence[tuple[str, str]]) -> None:
    """Prints names and values under each other, the values aligned and wrapped."""
    fields = [(name, value) for name, value in fields if value]
    left = max((width_of(name) for name, _ in fields), default=0)
    room = 0
    if surroundings.width:
        room = max(surroundings.width - left - 4, 20)
    for name, value in fields:
        for n, line in enumerate(wrapped(value, room)):
            label = name if n == 0 else ""
            surroundings.say(f"  {DIM}{label}{' ' * (left - width_of(label))}{OFF}  {line}")


def _coloured(lines: list[str]) -> list[str]:
    """The lines of a cell, each with the colour in which the cell begins."""
    mark = lines[0][:1]
    if len(lines) == 1 or mark not in (BOLD, DIM, RED, YELLOW, GREEN, BLUE) or not mark:
        return lines
    return [lines[0] + OFF, *(f"{mark}{line}{OFF}" for line in lines[1:])]


def _least(headings: Sequence[str], rows: Sequence[Sequence[str]]) -> list[int]:
    """How narrow each column can be without a word of it being broken."""
    columns = zip(headings, *rows, strict=True)
    return [max(width_of(word) for cell in cells for word in cell.split()) for cells in columns]


def _fitted(widths: list[int], least: list[int], total: int) -> list[int] | None:
    """The widths with the widest columns narrowed until all fit; None where that would break words."""
    widths = list(widths)
    over = sum(widths) + GAP * (len(widths) - 1) - total
    while over > 0:
        room = [width if width > few else 0 for width, few in zip(widths, least, strict=True)]
        if not any(room):
            return None
        widths[room.index(max(room))] -= 1
        over -= 1
    return widths


def _print_stacked(
    surroundings: Surroundings, headings: Sequence[str], rows: Sequence[Sequence[str]]
) -> None:
    """Row under row, each cell with its heading: for a terminal too narrow for columns."""
    for row in rows:
        first = next((n for n, cell in enumerate(row) if cell), 0)
        surroundings.say(f"{BOLD}{row[first]}{OFF}")
        rest = [(h, c) for n, (h, c) in enumerate(zip(headings, row, strict=True)) if n != first]
        print_fields(surroundings, rest)


def _line(cells: Sequence[str], widths: Sequence[int]) -> str:
    padded = [
        cell + " " * (width - width_of(cell)) for cell, width in zip(cells, widths, strict=True)
    ]
    return (" " * GAP).join(padded).rstrip()
