"""DOCX documents: made into a page first, and read as one."""

import io

from olive_compass.desk.importing import page
from olive_compass.desk.importing.source import Read, Source, damaged
from olive_compass.structs import replace

SUFFIXES = (".docx",)


def suits(source: Source) -> bool:
    return source.data.startswith(b"PK\x03\x04") and b"word/" in source.data


def read(source: Source) -> Read:
    """The commands of a document: its headings, tables with their merged cells, lists and paragraphs."""
    from mammoth import convert_to_html

    try:
        text = convert_to_html(io.BytesIO(source.data), style_map=_TITLE).value
    except Exception as error:
        raise damaged(source.path, error, "Save it again, or save it as a web page.") from error
    # Each part on a line of its own: places are counted by them.
    for tag in ("</p>", "</tr>", "</li>", "</h1>", "</h2>", "</h3>"):
        text = text.replace(tag, f"{tag}\n")
    found = page.read(replace(source, text=f"<html><body>{text}</body></html>"))
    return replace(found, note="a text document")


#: The title of the whole is no menu, and the headings below it are.
_TITLE = """p[style-name='Title'] => h1:fresh
p[style-name='Heading 1'] => h2:fresh
p[style-name='Heading 2'] => h3:fresh
p[style-name='Heading 3'] => h4:fresh"""
