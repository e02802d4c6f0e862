"""JSON that people may read, and JSON that others wrote: it is read, or refused with its place."""

import json
import re
from contextlib import suppress
from itertools import pairwise
from typing import Any

from msgspec.json import encode
from msgspec.json import format as laid_out

from olive_compass.core.plain import escaped
from olive_compass.desk.storage.plain_file import utf8_of
from olive_compass.errors import UserError
from olive_compass.structs import to_builtins, uninterrupted

#: How long a text with comments may be, in characters.
MOST_BY_HAND = 2_000_000


def text(value: Any, within_ascii: bool = False) -> str:
    """``value`` as JSON, two blanks a level; what a terminal might act on is written as escapes.

    With ``within_ascii`` so is every character beyond ASCII. What is no value of JSON stands as its text: a layer
    is its name.
    """
    if not within_ascii:
        # The name of a file in another encoding holds halves of characters: only escapes can say them.
        with suppress(UnicodeEncodeError), uninterrupted():
            return escaped(laid_out(encode(value, enc_hook=str), indent=2).decode()) + "\n"
    return json.dumps(to_builtins(value, str), indent=2) + "\n"


def load(data: bytes, file: str) -> Any:
    """The content of a JSON file. Raises ``UserError`` where it is none."""
    try:
        return loads(utf8_of(data, file))
    except json.JSONDecodeError as error:
        raise UserError(f"This is not JSON: {error.msg}.", file=file, line=error.lineno) from error
    except ValueError as error:
        raise UserError(f"This JSON cannot be read: {error}.", file=file) from error


def without_comments(text: str) -> str:
    """The text with blanks in the place of comments, and of commas after which nothing comes: many applications write
    both into their JSON.

    >>> without_comments('[1, // one\\n 2,]')
    '[1,       \\n 2 ]'
    """
    # Who writes by hand writes no more than that.
    if len(text) > MOST_BY_HAND:
        return text
    # Loaded here: in most JSON there are none.
    import tree_sitter_json
    from tree_sitter import Language, Parser

    data = bytearray(text.encode("utf-8", "surrogatepass"))
    stack = [Parser(Language(tree_sitter_json.language())).parse(bytes(data)).root_node]
    while stack:
        node = stack.pop()
        stack += node.children
        needless = [each for each in node.children if each.type == "comment"]
        parts = [each for each in node.children if each.type != "comment" and not each.is_missing]
        needless += [
            comma
            for comma, end in pairwise(parts)
            if end.type in ("]", "}") and data[comma.start_byte : comma.end_byte] == b","
        ]
        for each in needless:
            part = data[each.start_byte : each.end_byte]
            data[each.start_byte : each.end_byte] = re.sub(rb"[^\r\n]", b" ", part)
    return data.decode("utf-8", "surrogatepass")


def loads(text: str) -> Any:
    """The content of a JSON text, half characters (lone surrogates) replaced.

    Raises ``ValueError``, for text that is nested too deeply and numbers of thousands of digits too.
    """
    try:
        content = json.loads(text)
        # Only an escape can make half a character out of text that was decoded.
        if "\\u" in text:
            return _whole(content)
        return content
    except json.JSONDecodeError:
        raise
    except RecursionError as error:
        raise ValueError("it is nested too deeply") from error
    except ValueError as error:
        raise ValueError("it has a number of too many digits") from error


def _whole(value: Any) -> Any:
    if isinstance(value, str):
        return value.encode("utf-16", "surrogatepass").decode("utf-16", "replace")
    if isinstance(value, list):
        return [_whole(each) for each in value]
    if isinstance(value, dict):
        return {_whole(key): _whole(each) for key, each in value.items()}
    return value
