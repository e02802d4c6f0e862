"""A key that only the application knows, in its own word (``own:XF99``): it equals itself and nothing else."""

import re
from typing import TYPE_CHECKING

from olive_compass.core.keys.kinds.kind import Kind, UnreadableError

if TYPE_CHECKING:
    from olive_compass.core.keys.kinds.kind import Board, Sits

PREFIX = "own:"

#: The longest word of an application for a key.
LONGEST = 40


class Own(Kind):
    name = "own key"
    plural = "keys in the application's own words"
    prefix = PREFIX
    unwritten = ("aria", "xdg", "code")

    def read(self, text: str) -> str:
        if not is_word(text):
            raise UnreadableError(
                f"“{text}” is no word of an application for a key: it has no blank or +"
            )
        return PREFIX + text

    def sits(self, code: str, keyboard: "Board") -> "Sits | None":
        # Nobody can say where it is, and so what it costs.
        return None


def is_word(text: str) -> bool:
    """Whether an application can have that as its own word for a key.

    >>> is_word("XF99"), is_word("see below"), is_word("")
    (True, False, False)
    """
    return (
        bool(text) and len(text) <= LONGEST and text.isprintable() and not re.search(r"[\s+]", text)
    )


KIND = Own()
