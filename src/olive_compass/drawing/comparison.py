"""A comparison as an HTML page."""

from collections.abc import Sequence

from olive_compass.core.sharing.comparing import Difference
from olive_compass.drawing.templating import page


def as_html(
    before: str, after: str, rows: Sequence[tuple[str, str, Difference]], summary: str
) -> str:
    """The page: each row is a file, what the difference is about, and the difference."""
    return page("compare.html", before=before, after=after, rows=rows, summary=summary)
