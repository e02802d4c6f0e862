"""The frame of a printed page: its head and foot, and lines of letters that fit."""

from collections.abc import Sequence
from functools import partial

from msgspec import Struct

from olive_compass.drawing.pages import Arrow, Cap, Measure, Page, Paper, Rule, Words
from olive_compass.drawing.text_metrics import CUT, wrapped_words
from olive_compass.structs import replace

#: What parts two lines, as a part of the size of the letters.
LEADING = 1.24
#: The letters of the title, of the line below it and of the foot, in points.
TITLE, SUBTITLE, NOTE = 17.0, 8.5, 7.5
#: The largest letters of what is printed, in points, and the width of paper from which they are larger.
LARGEST, HANGING = 12.0, 700.0


def sizes(paper: Paper, smallest: float) -> list[float]:
    """The sizes of letters that are tried, in points, the largest first: paper that hangs is read from
    farther away."""
    largest = LARGEST * (1.4 if min(paper.width, paper.height) > HANGING else 1)
    return [largest - n / 2 for n in range(int((largest - smallest) * 2) + 1)]


class Head(Struct, frozen=True):
    """What stands above and below: a title, a line under it, and the meaning of the marks."""

    title: str
    subtitle: str
    notes: tuple[str, ...] = ()


class Piled(Struct, frozen=True, kw_only=True):
    """What stands together, in ems: its height, what stands in it from its left upper corner, and
    whether some of it had no room."""

    height: float
    words: list[Words]
    caps: list[Cap]
    arrows: list[Arrow]
    rules: Sequence[Rule] = ()
    cut: bool = False


def fitting(row: Piled, room: float) -> Piled:
    """What of a row has room in ``room`` ems: all of it, but on very small paper in very large letters."""
    if row.height <= room:
        return row
    return Piled(
        height=room,
        words=[w for w in row.words if w.y + w.size <= room],
        caps=[c for c in row.caps if c.y + c.height <= room],
        arrows=[a for a in row.arrows if a.y + a.size <= room],
        cut=True,
    )


class Frame:
    """The paper with its head and foot, and the letters that are measured."""

    def __init__(self, head: Head, paper: Paper, measure: Measure) -> None:
        self.paper = paper
        self.measure = measure
        self.top, self.head = self._head(head)
        self.bottom, self.foot = self._foot(head.notes)

    def height(self, size: float) -> float:
        """How much there is between head and foot, in ems of that size."""
        return (self.bottom - self.top) / size

    def leaf(
        self, size: float, placed: Sequence[tuple[float, float, Piled]], number: int, of: int
    ) -> Page:
        """A page with letters of that size: each thing with its place from the left margin and from the
        head, in ems."""
        words, caps, arrows, rules = [*self.head, *self.foot], [], [], []
        margin = self.paper.margin
        for x, y, each in placed:
            left, top = margin + x * size, self.top + y * size
            words += [_moved(w, left, top, size) for w in each.words]
            caps += [
                Cap(
                    x=left + c.x * size,
                    y=top + c.y * size,
                    width=c.width * size,
                    height=c.height * size,
                    words=_moved(c.words, left, top, size) if c.words else None,
                    mark=c.mark,
                    tint=c.tint,
                )
                for c in each.caps
            ]
            arrows += [
                Arrow(
                    x=left + a.x * size, y=top + a.y * size, size=a.size * size, bearing=a.bearing
                )
                for a in each.arrows
            ]
            rules += [
                Rule(x=left + r.x * size, y=top + r.y * size, width=r.width * size, tone=r.tone)
                for r in each.rules
            ]
        if of > 1:
            line = f"{number} of {of}"
            x = self.paper.width - margin - self.measure(line, NOTE, False)
            words.append(
                Words(
                    x=x,
                    y=self.paper.height - margin - NOTE * LEADING,
                    size=NOTE,
                    line=line,
                    tone="soft",
                )
            )
        rules.append(Rule(x=margin, y=self.top - 7, width=self.paper.inner, tone="accent"))
        return Page(
            width=self.paper.width,
            height=self.paper.height,
            words=tuple(words),
            caps=tuple(caps),
            arrows=tuple(arrows),
            rules=tuple(rules),
        )

    def _head(self, head: Head) -> tuple[float, list[Words]]:
        y = self.paper.margin
        title = 12.0
        if self.paper.inner > 300:
            title = TITLE
        found = []
        for line in self._lines(head.title, title, True, 2):
            found.append(Words(x=self.paper.margin, y=y, size=title, line=line, bold=True))
            y += title * LEADING
        for line in self._lines(head.subtitle, SUBTITLE, False, 2):
            found.append(Words(x=self.paper.margin, y=y, size=SUBTITLE, line=line, tone="soft"))
            y += SUBTITLE * LEADING
        return y + 11, found

    def _foot(self, notes: Sequence[str]) -> tuple[float, list[Words]]:
        """The notes in as few lines as they take, above the bottom; the page's number has its place."""
        room = self.paper.inner - self.measure("100 of 100", NOTE, False) - 10
        lines = _filled([*notes, "Made by Olive Compass."], room, NOTE, self.measure)
        y = self.paper.height - self.paper.margin - len(lines) * NOTE * LEADING
        found = [
            Words(x=self.paper.margin, y=y + n * NOTE * LEADING, size=NOTE, line=line, tone="soft")
            for n, line in enumerate(lines)
        ]
        return y - 8, found

    def _lines(self, text: str, size: float, bold: bool, most: int) -> list[str]:
        return cut_lines(text, self.paper.inner, size, bold, most, self.measure)


def _filled(parts: Sequence[str], room: float, size: float, measure: Measure) -> list[str]:
    """Notes one after another in lines of that width; a note too long for a line goes on in the next."""
    lines: list[str] = []
    for part in parts:
        joined = part
        if lines:
            joined = f"{lines[-1]}   {part}"
        if lines and measure(joined, size, False) <= room:
            lines[-1] = joined
        else:
            lines += cut_lines(part, room, size, False, 3, measure)
    return lines


def cut_lines(
    text: str, width: float, size: float, bold: bool, most: int, measure: Measure
) -> list[str]:
    """A text in at most so many lines of that width: words too long are parted, what has no room is left
    out with a sign."""
    wide = partial(_wide, measure, bold)
    found = wrapped_words(text.split(), width, size, wide)
    if found is None:
        words = [part for word in text.split() for part in _parted(word, width, size, wide)]
        found = wrapped_words(words, width, size, wide) or ()
    lines = list(found)
    if len(lines) > most:
        last = lines[most - 1]
        while last and wide(last + CUT, size) > width:
            last = last[:-1]
        if wide(CUT, size) <= width:
            lines = [*lines[: most - 1], last + CUT]
        else:
            lines = lines[: most - 1]
    return lines


def _wide(measure: Measure, bold: bool, text: str, size: float) -> float:
    return measure(text, size, bold)


def _parted(word: str, width: float, size: float, wide: "partial[float]") -> list[str]:
    """A word in parts that each fit the width; a letter alone is a part however wide it is."""
    parts = [""]
    for char in word:
        if parts[-1] and wide(parts[-1] + char, size) > width:
            parts.append("")
        parts[-1] += char
    return parts


def _moved(words: Words, left: float, top: float, size: float) -> Words:
    return replace(words, x=left + words.x * size, y=top + words.y * size, size=words.size * size)
