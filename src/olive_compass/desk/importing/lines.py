"""Plain text with one command a line, read by a pattern with named groups."""

import time
from typing import Any

from olive_compass.core.apps.columns import FIELDS
from olive_compass.core.apps.headings import WORDS
from olive_compass.core.apps.listing_result import SetAside
from olive_compass.core.apps.listing_row import Row
from olive_compass.core.plain import lines_of
from olive_compass.core.wording import clause
from olive_compass.desk.importing.source import MOST_ROWS, Read, Source, too_long
from olive_compass.errors import UserError

SUFFIXES = ()

#: How long a pattern may look at all lines, in seconds.
LONGEST = 4.0


def _spans_lines(pattern: str) -> bool:
    """Whether a pattern is meant for more than a line: it names the end of one."""
    return "\\n" in pattern or "\n" in pattern or "(?s" in pattern


def suits(source: Source) -> bool:
    """Never by itself: a pattern must say how a line reads."""
    return bool(source.pattern)


def read(source: Source) -> Read:
    """A row a line that fits the pattern; the other lines are set aside."""
    pattern = _compiled(source.pattern)
    names = list(pattern.groupindex)
    rows = [Row(line=0, cells=tuple(names))]
    aside = []
    if _spans_lines(source.pattern):
        return _records(source, pattern, rows)
    end = time.monotonic() + LONGEST
    for number, line in enumerate(lines_of(source.text), 1):
        try:
            match = pattern.search(line, timeout=max(end - time.monotonic(), 0.01))
        except TimeoutError as error:
            raise UserError(
                f"The pattern took more than {LONGEST:.0f} s, and came no further than this line.",
                file=source.path,
                line=number,
                hint="Let each part of it fit in one way only: \\S+ and not .+ before a blank.",
            ) from error
        if len(rows) > MOST_ROWS:
            raise too_long(source.path, number)
        if match:
            rows.append(Row(line=number, cells=tuple(match[name] or "" for name in names)))
        elif line.strip():
            aside.append(
                SetAside(line=number, what="row", why="the pattern does not fit it", text=line)
            )
    return Read(rows=rows, set_aside=tuple(aside), note=f"{source.encoding}, by pattern")


def _compiled(text: str) -> Any:
    """A pattern with groups that are fields; raises ``UserError`` where it cannot be read or names others."""
    # The patterns of others can run for ever; the standard library's have no limit of time.
    import regex

    try:
        pattern = regex.compile(text, regex.MULTILINE)
    except regex.error as error:
        raise UserError(f"The pattern cannot be read: {error}.") from error
    known = {word for words in WORDS.values() for word in words}
    wrong = [name for name in pattern.groupindex if name not in known]
    if pattern.groupindex and not wrong:
        return pattern
    says = "The pattern names no group"
    if wrong:
        says = f"“{wrong[0]}” is no group of a pattern"
    raise UserError(
        f"{says}; the groups are {', '.join(FIELDS)}.", hint="Write one as (?P<title>.+)."
    )


def _filled(text: str) -> int:
    """How many lines are not blank."""
    return sum(bool(line.strip()) for line in text.splitlines())


def _records(source: Source, pattern: Any, rows: list[Row]) -> Read:
    """A row a record of several lines; lines that belong to none are counted."""
    text = source.text.replace("\r\n", "\n")
    names = [cell for row in rows for cell in row.cells]
    at, line, outside = 0, 1, 0
    try:
        for match in pattern.finditer(text, timeout=LONGEST):
            # A pattern that may match nothing does so between all letters.
            if match.end() == match.start():
                continue
            outside += _filled(text[at : match.start()])
            line += text.count("\n", at, match.start())
            rows.append(Row(line=line, cells=tuple(match[name] or "" for name in names)))
            line += text.count("\n", match.start(), match.end())
            at = match.end()
            if len(rows) > MOST_ROWS:
                raise too_long(source.path, line)
    except TimeoutError as error:
        raise UserError(
            f"The pattern took more than {LONGEST:.0f} s, and came no further than this line.",
            file=source.path,
            line=line,
            hint="Let each part of it fit in one way only: [^\\n]+ and not .+ before a blank.",
        ) from error
    outside += _filled(text[at:])
    passed = clause("; {} lines passed over", outside)
    return Read(rows=rows, set_aside=(), note=f"{source.encoding}, by pattern{passed}")
