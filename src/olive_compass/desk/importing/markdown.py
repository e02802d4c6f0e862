"""Markdown, read as the page that it becomes: its headings, tables, lists and lines with keys."""

import os
import re
from typing import Any

from olive_compass.desk.importing import page
from olive_compass.desk.importing.blocks import has_keys
from olive_compass.desk.importing.line_pairs import is_keys
from olive_compass.desk.importing.page_parser import PageParser
from olive_compass.desk.importing.source import Read, Source
from olive_compass.structs import replace

SUFFIXES = (".md", ".markdown")

_HEADING = re.compile(r"^## ", re.M)
#: An item of a list, or a row of a table.
_ITEM = re.compile(r"^(?:[-*+] |\|)", re.M)


def suits(source: Source) -> bool:
    """By its ending, or by headings above lists or tables in a text, where the page that begins it has keys; else it is
    text like any other."""
    ending = os.path.splitext(source.path)[1].lower()
    looks_so = ending in ("", ".txt") and _HEADING.search(source.text) and _ITEM.search(source.text)
    if ending not in SUFFIXES and not looks_so:
        return False
    parser = PageParser(source.path)
    parser.feed(_page_of(source.text[:100_000]))
    parser.close()
    return has_keys(parser.blocks) > 0


def read(source: Source) -> Read:
    """The rows of the page, each with its line in the Markdown."""
    return page.read(replace(source, text=_page_of(source.text)))


def _page_of(text: str) -> str:
    """The page of a text, in which everything stands in the line in which it stood there."""
    # Loaded here: few lists are Markdown.
    from markdown_it import MarkdownIt

    reader = MarkdownIt("commonmark", {"html": True}).enable("table")
    reader.add_render_rule("code_inline", _code)
    parts: list[str] = []
    line = 0
    for token in reader.parse(text):
        if token.map and token.nesting >= 0 and token.map[0] > line:
            parts.append("\n" * (token.map[0] - line))
            line = token.map[0]
        put = reader.renderer.render([token], reader.options, {})
        # Only what is shown as it was written has lines of its own.
        if token.type not in ("fence", "code_block", "html_block"):
            put = put.replace("\n", " ")
        line += put.count("\n")
        parts.append(put)
    return "".join(parts)


def _code(_renderer: Any, tokens: Any, index: int, _options: Any, _env: Any) -> str:
    """Code within a line: where it is a key, it is marked as one."""
    from html import escape

    content = tokens[index].content
    tag = "code"
    if is_keys(content):
        tag = "kbd"
    return f"<{tag}>{escape(content)}</{tag}>"
