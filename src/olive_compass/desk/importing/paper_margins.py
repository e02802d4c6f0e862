"""What stands in the margins of a printed page: its number, and what a browser prints at its edges."""

import re

from olive_compass.desk.importing.paper_columns import Word


def is_at_the_edge(line: list[Word], height: float) -> bool:
    """Whether a line stands where browsers print the day, the title and the place of a page."""
    return bool(line[0]["bottom"] < height * _EDGE or line[0]["top"] > height * (1 - _EDGE))


#: The number of a page, with how many there are or without.
_PAGE_NUMBER = re.compile(r"[-–—]?\s*\d{1,4}(?:\s*/\s*\d{1,4})?\s*[-–—]?")


#: How much of a page is its margins, above and below, where its number stands; and its very edges, where nobody
#: sets any text of their own.
_MARGIN, _EDGE = 0.15, 0.035


def without_number(lines: list[list[Word]], height: float) -> list[list[Word]]:
    """The lines of a page without its number, which would be a key: alone, apart from the others, at the very top
    or at the very bottom."""
    if len(lines) < 2:
        return lines
    first, last = lines[0], lines[-1]
    if _is_number(last, lines[-2], last[0]["bottom"] > height * (1 - _MARGIN)):
        return lines[:-1]
    if _is_number(first, lines[1], first[0]["top"] < height * _MARGIN):
        return lines[1:]
    return lines


def _is_number(line: list[Word], other: list[Word], in_margin: bool) -> bool:
    """Whether a line is the number of its page; ``other`` is the line next to it."""
    if not in_margin or not _PAGE_NUMBER.fullmatch(" ".join(word["text"] for word in line)):
        return False
    return bool(abs(line[0]["top"] - other[0]["top"]) > 2.5 * line[0]["size"])
