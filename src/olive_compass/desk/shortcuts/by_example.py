r"""Makes a pattern for records of a shortcuts file from lines of it, and what is said to be in them.

What was named in a line becomes a part of the record; the rest is matched literally, except blanks (any number of
them) and words in capitals and options that other lines have otherwise.
"""

import re
from collections.abc import Sequence
from typing import Any

from msgspec import Struct

from olive_compass.core.keys.spelling import LOWER
from olive_compass.errors import UserError


class Example(Struct, frozen=True, kw_only=True):
    """A line of a file, and what of it is the key, the command (as an id, or its title) and the mode."""

    line: str
    key: str
    command: str
    mode: str = ""
    #: Whether the command stands there by its title.
    titled: bool = False


#: A remark behind a record.
_REMARK = re.compile(r"\s+(#|;|//)(?=\s)")


def pattern_of(example: Example) -> tuple[str, str]:
    r"""The pattern of records like the example, and how a new one is written. Raises ``UserError`` where a part does
    not stand in the line.

    >>> example = Example(
    ...     line="bind-key -T prefix C-o rotate-window",
    ...     key="C-o",
    ...     command="rotate-window",
    ...     mode="prefix",
    ... )
    >>> pattern_of(example)[0]
    '^bind\\-key\\s+\\-T\\s+(?P<mode>\\S+)\\s+(?P<keys>\\S+)\\s+(?P<id>\\S.*)$'
    >>> pattern_of(Example(line="F5 sheet redraw  # all of it", key="F5", command="sheet redraw"))
    ('^(?P<keys>\\S+)\\s+(?P<id>\\S.*?)(?:\\s+#.*)?$', '{keys} {id}')
    """
    name = "id"
    if example.titled:
        name = "title"
    wanted = {"keys": example.key, name: example.command, "mode": example.mode}
    found = sorted(
        (_place(example, part, text), text, part) for part, text in wanted.items() if text
    )
    remark = _REMARK.match(example.line, found[-1][0][1])
    pattern, entry, at = "^", "", 0
    for n, ((start, end), _, part) in enumerate(found):
        if start < at:
            raise UserError(f"The {part} lies within another part of “{example.line}”.")
        between = example.line[at:start]
        last = n == len(found) - 1 and (bool(remark) or not example.line[end:].strip())
        pattern += _literal(between) + _part(part, example.line, start, end, last)
        entry += between + f"{{{part}}}"
        at = end
    if remark:
        # Other lines have another remark behind them, or none.
        return f"{pattern.removesuffix('*)')}*?)(?:\\s+{remark[1]}.*)?$", entry
    rest = example.line[at:]
    return f"{pattern}{_literal(rest.rstrip())}{'$' if not rest.strip() else ''}", entry + rest


def _place(example: Example, part: str, text: str) -> tuple[int, int]:
    """Where a part stands: as a word by itself before anywhere else."""
    for pattern in (rf"(?<!\S){re.escape(text)}(?!\S)", re.escape(text)):
        spans = [found.span() for found in re.finditer(pattern, example.line)]
        if spans:
            # A key is often a single letter, which other words have as well: the last one by itself is taken.
            return spans[0]
    raise UserError(
        f"“{text}” is not in “{example.line}”.", hint=f"Give the {part} exactly as in that line."
    )


def _part(part: str, line: str, start: int, end: int, last: bool) -> str:
    """A part of a record: what it is made of goes by what stands about it."""
    before, after = line[start - 1 : start], line[end : end + 1]
    if before and before in "\"'`" and before == after:
        return rf"(?P<{part}>(?:\\.|[^{before}\\])*)"
    if after and not after.isspace():
        return rf"(?P<{part}>[^\n{re.escape(after)}]*?)"
    if last:
        if part != "keys":
            return rf"(?P<{part}>\S.*)"
        return rf"(?P<{part}>.*)"
    return rf"(?P<{part}>\S+)"


def _literal(text: str) -> str:
    return re.sub(r"(?:\\?\s)+", r"\\s+", re.escape(text))


def key_fields(keys: Sequence[str]) -> dict[str, Any]:
    """What keys that are written so tell of a format: a frame around what is more than one sign, letters that are
    small.

    >>> key_fields(["<C-r>"]), key_fields(["C-R"]), key_fields(["Q"])
    ({'named_key': '<{key}>', 'spelling': {'a': 'A'}}, {}, {})
    """
    framed = [key[1:-1] for key in keys if re.fullmatch(r"<\S+>", key)]
    if not framed:
        return {}
    found: dict[str, Any] = {"named_key": "<{key}>"}
    if any(re.search(r"(?<![^\W_])[a-z]$", key) for key in framed):
        found["spelling"] = dict([LOWER])
    return found


def joined_patterns(patterns: Sequence[str]) -> str:
    """One pattern for records of several shapes."""
    if len(patterns) == 1:
        return patterns[0]
    return "|".join(f"(?:{each})" for each in patterns)
