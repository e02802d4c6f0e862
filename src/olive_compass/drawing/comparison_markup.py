"""A comparison as mark-up: a table for each part."""

from collections.abc import Iterable, Iterator, Sequence
from itertools import groupby

from markupsafe import Markup
from msgspec.structs import asdict

from olive_compass.drawing.documents import Contrast
from olive_compass.drawing.web_pages import NOTHING, filled, joined, table

HEADINGS = ("", "what", "of", "before", "after", "why")


def parts(contrasts: Iterable[Contrast]) -> Markup:
    """The tables, by the names of their parts."""
    grouped = groupby(sorted(contrasts, key=_part), _part)
    return joined(_of_part(list(own)) for _, own in grouped)


def _part(contrast: Contrast) -> str:
    return contrast.part.lower()


def _of_part(contrasts: Sequence[Contrast]) -> Markup:
    name = contrasts[0].part
    return (filled(_NAME, name) if name else NOTHING) + table(HEADINGS, _rows(contrasts))


def _rows(contrasts: Iterable[Contrast]) -> Iterator[Markup]:
    for each in contrasts:
        yield filled(_ROW, kind=each.what.split(" ")[-1], **asdict(each))


_NAME = "<h2>{}</h2>"

_ROW = """\
  <tr>
    <td class="{kind}">{what}</td>
    <td class="soft">{table}</td>
    <td>{subject}</td>
    <td>{before}</td>
    <td>{after}</td>
    <td class="soft">{why}</td>
  </tr>
"""
