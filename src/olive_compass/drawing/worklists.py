"""A work list as Markdown and as an HTML page with boxes to tick."""

from collections.abc import Sequence

from olive_compass.drawing.sheets import marked
from olive_compass.drawing.web_pages import NOTHING, filled, for_each, heading, page, table

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
    steps = (
        filled(_STEP, number=number, text=text, menu=menu)
        for number, (_, menu, text) in enumerate(rows, 1)
    )
    body = heading(about, f"{len(rows)} changes by hand, in this order")
    body += table(("", "", "change", "menu"), steps)
    body += filled(_LEFT, for_each(_ITEM, left)) if left else NOTHING
    return page(f"{about}: keys to change by hand", body)


_STEP = """\
  <tr>
    <td><input type="checkbox" id="step-{number}"></td>
    <td class="soft">{number}</td>
    <td><label for="step-{number}">{text}</label></td>
    <td class="soft">{menu}</td>
  </tr>
"""

_LEFT = """\
<h2>What it does not allow</h2>
<ul>
{}</ul>
"""

_ITEM = "  <li>{}</li>\n"
