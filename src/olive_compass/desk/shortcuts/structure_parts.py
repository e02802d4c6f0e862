"""What every reader of structured shortcuts files gives and needs: records with the places of their parts."""

import re
from bisect import bisect_left
from collections.abc import Mapping
from itertools import accumulate

from msgspec import Struct

#: The fields of records that are pairs of a name and a value.
NAME, VALUE = ":name", ":value"


Span = tuple[int, int]


class Found(Struct, frozen=True):
    """A record as a match of a pattern gives it: the whole of it, and its parts with where they stand."""

    whole: Span
    parts: Mapping[str, tuple[str, Span]]

    def span(self, name: str = "") -> Span:
        """Where the record stands, or a part of it."""
        if name:
            return self.parts[name][1]
        return self.whole

    def start(self) -> int:
        """Where it begins."""
        return self.whole[0]

    def end(self) -> int:
        """Where it ends."""
        return self.whole[1]

    def groupdict(self) -> dict[str, str]:
        """Its parts as they stand there."""
        return {name: text for name, (text, _) in self.parts.items()}

    def __getitem__(self, name: str) -> str | None:
        if name in self.parts:
            return self.parts[name][0]
        return None


class Places:
    """The places of bytes among the characters of a text."""

    def __init__(self, text: str) -> None:
        self.data = text.encode("utf-8", "surrogatepass")
        # Only a text with other letters has more bytes than characters: there each has its place looked up.
        lengths = (len(char.encode("utf-8", "surrogatepass")) for char in text)
        if len(self.data) == len(text):
            self.starts = None
        else:
            self.starts = list(accumulate(lengths, initial=0))

    def char(self, at: int) -> int:
        """The place of a byte among the characters."""
        if self.starts is None:
            return at
        return bisect_left(self.starts, at)


def is_under(path: str, names: list[str]) -> bool:
    """Whether what stands under these names, the nearest first, is what a path means: a name above it, or all of them
    from the root as JSONPath (RFC 9535) writes them.

    >>> is_under("keys", ["draw", "keys"]), is_under("$.keys[*]", ["keys"]), is_under("$.keys[*]", ["keys", "x"])
    (True, True, False)
    """
    if not path.startswith("$"):
        return path in names
    return re.findall(r"\.([\w-]+)|\[['\"]([^'\"]+)['\"]\]", path) == [
        (name, "") if re.fullmatch(r"[\w-]+", name) else ("", name) for name in reversed(names)
    ]
