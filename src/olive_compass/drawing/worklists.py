"""A work list as Markdown and as an HTML page with boxes to tick."""

from collections.abc import Sequence

from olive_compass.drawing.sheets import marked
from olive_compass.drawing.templating import page

#: A step: the command's title, its menu and the sentence.
Row = tuple[str, str, str]


def as_markdown(about: str, rows: Sequence[Row], left: Sequence[str]) -> str:
    """A list with boxes, as most readers of Markdown draw them."""
    lines = [f"# {marked(about)}: keys to change by hand", ""]
    lines += [
        f"- [ ] {n}. {marked(text)} {marked(menu)}".rstrip()
        for n, (_, menu, text) in enumerate(rows, 1)
    ]
    if left:
        lines += ["", "## What it does not allow", "", *(f"- {marked(each)}" for each in left)]
    return "\n".join(lines) + "\n"


def as_html(about: str, rows: Sequence[Row], left: Sequence[str]) -> str:
    """One page that needs no other; the boxes can be ticked on the screen and on paper."""
    return page("worklist.html", about=about, rows=rows, left=left)
