"""Edits of a text, and the lines that they change."""

from collections.abc import Iterator, Sequence
from itertools import zip_longest

from msgspec import Struct

#: What stands from one place to another, and what takes its place.
Edit = tuple[int, int, str]


class Line(Struct, frozen=True):
    """A line of a file that changes: its number (of a new one, that of the line before which it comes), and what
    it was and is to be; None: it was not there, or it goes."""

    line: int
    was: str | None
    now: str | None


def edited(text: str, edits: Sequence[Edit]) -> str:
    """A text with all edits in it, which are in the order of their places."""
    parts, at = [], 0
    for start, end, new in edits:
        parts += [text[at:start], new]
        at = end
    return "".join((*parts, text[at:]))


def _differing(old: list[str], new: list[str], number: int) -> Iterator[Line]:
    """The lines between the beginning and the end that both have; ``number`` is that of the first."""
    same = 0
    for was, now in zip(old, new, strict=False):
        if was != now:
            break
        same += 1
    old, new = old[same:], new[same:]
    while old and new and old[-1] == new[-1]:
        old.pop()
        new.pop()
    for n, (was_, now_) in enumerate(zip_longest(old, new), number + same):
        yield Line(n, was_, now_)


def changed_lines(text: str, edits: Sequence[Edit]) -> Iterator[Line]:
    """The lines that edits change, those that touch one line together."""
    together: list[list[Edit]] = []
    last = -1
    for edit in edits:
        first = text.rfind("\n", 0, edit[0]) + 1
        if first > last:
            together.append([])
        together[-1].append(edit)
        last = max(last, _line_end(text, edit[1]))
    number, at = 1, 0
    for some in together:
        start = text.rfind("\n", 0, some[0][0]) + 1
        end = _line_end(text, max(edit[1] for edit in some))
        moved = [(a - start, b - start, new) for a, b, new in some]
        number += text.count("\n", at, start)
        at = start
        old, new = text[start:end].split("\n"), edited(text[start:end], moved).split("\n")
        yield from _differing(old, new, number)


def lines_between(old: str, new: str) -> Iterator[Line]:
    """The lines in which two texts differ."""
    import difflib

    a, b = old.split("\n"), new.split("\n")
    for what, start, end, first, last in difflib.SequenceMatcher(None, a, b, False).get_opcodes():
        if what != "equal":
            for n, (was, now) in enumerate(zip_longest(a[start:end], b[first:last])):
                yield Line(start + n + 1, was, now)


def _line_end(text: str, at: int) -> int:
    end = text.find("\n", at)
    if end >= 0:
        return end
    return len(text)
