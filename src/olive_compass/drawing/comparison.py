"""A comparison as an HTML page."""

from collections.abc import Iterable, Sequence
from itertools import groupby

from markupsafe import Markup
from msgspec.structs import asdict

from olive_compass.core.sharing.comparing import Difference
from olive_compass.drawing.web_pages import NOTHING, filled, heading, joined, page, table

#: The file, what the difference is about, and the difference.
Row = tuple[str, str, Difference]

HEADINGS = ("", "what", "of", "before", "after", "why")


def as_html(before: str, after: str, rows: Sequence[Row], summary: str) -> str:
    """The page: a table for each file."""
    title = f"{before} and {after}"
    files = groupby(sorted(rows, key=_file), _file)
    return page(title, heading(title, summary) + joined(_of_file(list(own)) for _, own in files))


def _file(row: Row) -> str:
    return row[0].lower()


def _of_file(rows: Sequence[Row]) -> Markup:
    name = rows[0][0]
    return (filled(_NAME, name) if name else NOTHING) + table(HEADINGS, _rows(rows))


def _rows(rows: Iterable[Row]) -> Iterable[Markup]:
    for _, title, each in rows:
        yield filled(_ROW, kind=each.what.split(" ")[-1], title=title, **asdict(each))


_NAME = "<h2>{}</h2>"

_ROW = """\
  <tr>
    <td class="{kind}">{what}</td>
    <td class="soft">{table}</td>
    <td>{title}</td>
    <td>{before}</td>
    <td>{after}</td>
    <td class="soft">{why}</td>
  </tr>
"""
