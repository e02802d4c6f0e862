"""Plain text with one command a line, read by a pattern with named groups."""

import re

from olive_compass.core.apps.columns import FIELDS, HEADINGS
from olive_compass.core.apps.listing import Row, SetAside
from olive_compass.desk.importing.source import Read, Source
from olive_compass.errors import Refused

SUFFIXES = ()


def suits(source: Source) -> bool:
    """Never by itself: a pattern must say how a line reads."""
    return bool(source.pattern)


def read(source: Source) -> Read:
    """A row a line that fits the pattern; the other lines are set aside."""
    try:
        pattern = re.compile(source.pattern)
    except re.error as error:
        raise Refused(f"The pattern cannot be read: {error}.") from error
    known = {word for words in HEADINGS.values() for word in words.split()}
    wrong = [name for name in pattern.groupindex if name not in known]
    if wrong or not pattern.groupindex:
        says = f"“{wrong[0]}” is no group of a pattern" if wrong else "The pattern names no group"
        raise Refused(
            f"{says}; the groups are {', '.join(FIELDS)}.", hint="Write one as (?P<title>.+)."
        )
    names = list(pattern.groupindex)
    rows = [Row(0, tuple(names))]
    aside = []
    for number, line in enumerate(source.text.splitlines(), 1):
        match = pattern.search(line)
        if match:
            rows.append(Row(number, tuple(match[name] or "" for name in names)))
        elif line.strip():
            aside.append(SetAside(number, "row", "the pattern does not fit it", line))
    return Read(rows, tuple(aside), f"{source.encoding}, by pattern")
