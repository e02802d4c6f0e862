"""Text with a title and its keys in each line, or on two, in whatever order: a page of a handbook, a paragraph, a list."""

import re

from olive_compass.core.plain import lines_of
from olive_compass.desk.importing.blocks import Heading, Line, has_keys, read_blocks
from olive_compass.desk.importing.line_pairs import is_keys, pair
from olive_compass.desk.importing.source import Read, Source

SUFFIXES = ()

#: How many lines must have keys, and how many of a hundred.
_LEAST = 3
_SHARE = 25

#: A line that is a bracket and nothing else.
_BRACKET = re.compile(r"[\[{(]|[\]})]+[;,]?")


def suits(source: Source) -> bool:
    """Whether enough lines have a title and keys, or are keys below or above one."""
    if source.pattern or "\0" in source.text[:2000]:
        return False
    blocks = blocks_of(source.text[:100_000])
    keyed = has_keys(blocks)
    return keyed >= _LEAST and keyed * 100 >= _SHARE * len(blocks)


def read(source: Source) -> Read:
    """A row for each title with keys, under the lines that head them."""
    return read_blocks(blocks_of(source.text), f"{source.encoding}, line by line")


def blocks_of(text: str, first: int = 1, level: int = 2) -> list[Heading | Line]:
    """The lines of a text, whose first has the number ``first``, and those that head others, all of one level."""
    lines = [
        (n, raw) for n, raw in enumerate(lines_of(text.replace("\x0c", "\n")), first) if raw.strip()
    ]
    indents = [len(raw) - len(raw.lstrip()) for _, raw in lines]
    # One alone may be the key.
    has_remarks = sum(raw.lstrip().startswith("#") for _, raw in lines) > 1
    found: list[Heading | Line] = []
    for (n, raw), indent, below in zip(lines, indents, [*indents, 0][1:], strict=True):
        line = raw.strip()
        if has_remarks and line.startswith("#"):
            found.append(Heading(n, line.strip("# \t"), level))
            continue
        alone = pair(line) is None and not is_keys(line)
        # What stands further out than the line below it heads that.
        if alone and indent < below and indent == min(indents):
            found.append(Heading(n, line, level))
        else:
            found.append(Line(n, line))
    return found


def is_program(text: str) -> bool:
    """Whether a text is lines of a program: brackets stand alone that hold all of it, or end what a line before began.

    >>> is_program("function save(){\\n  write()\\n}"), is_program("{\\nPrevious paragraph\\n}\\nNext paragraph")
    (True, False)
    """
    lines = text.split("\n")
    lines = [line.strip() for line in lines if line.strip()]
    alone = [bool(_BRACKET.fullmatch(line)) for line in lines]
    if not any(alone):
        return False
    begun = (len(line) > 1 and line.count("{") > line.count("}") for line in lines)
    return (alone[0] and alone[-1]) or any(begun)
