"""A page that needs no other file, to read or to print on A4 and Letter."""

from markupsafe import Markup

from olive_compass.drawing.comparison_markup import parts
from olive_compass.drawing.documents import (
    About,
    Cell,
    Checklist,
    Comparison,
    SheetDocument,
    TableDocument,
    Written,
)
from olive_compass.drawing.forms import Form
from olive_compass.drawing.group_colours import tints
from olive_compass.drawing.key_caps import Trigger
from olive_compass.drawing.sheet_markup import sections
from olive_compass.drawing.web_pages import (
    NOTHING,
    caps,
    filled,
    for_each,
    heading,
    joined,
    page,
    table,
)


def _table(document: TableDocument) -> Written:
    body = filled(
        _TABLE,
        headings=for_each(_TH, document.table.headings),
        rows=joined(filled(_TR, joined(map(_cell, row))) for row in document.table.rows),
    )
    head = heading(document.title, document.subtitle)
    return _written(page(document.title, head + body + for_each(_NOTE, document.notes)))


def _cell(cell: Cell) -> Markup:
    space = ""
    if cell.triggers and cell.text:
        space = " "
    return filled(_TD, joined(map(_trigger, cell.triggers), _OR), space, cell.text)


def _trigger(trigger: Trigger) -> Markup:
    # Of one stroke all is said, the turns of a wheel and the like included.
    if len(trigger.pieces) > 1:
        texts = [each.text for each in trigger.pieces]
    else:
        texts = [trigger.text]
    return filled(_TRIGGER, caps(texts, _SPACE))


_TABLE = """\
<div class="wide"><table>
  <thead><tr>{headings}</tr></thead>
  <tbody>
{rows}  </tbody>
</table></div>
"""

_TH = '<th scope="col">{}</th>'
_TR = "  <tr>{}</tr>\n"
_TD = "<td>{}{}{}</td>"
_TRIGGER = '<span class="trigger">{}</span>'
_SPACE = Markup(" ")
_OR = ' <span class="soft">or</span> '
_NOTE = '<p class="soft">{}</p>'


def _sheets(document: SheetDocument) -> Written:
    abouts = [sheet.about for sheet in document.sheets]
    titles = ", ".join(f"{each.title} {each.version}".strip() for each in abouts)
    lines = sum(len(group.lines) for sheet in document.sheets for group in sheet.groups)
    body = joined(
        heading(sheet.about.heading, _subtitle(sheet.about))
        + filled(_MAIN, sections(sheet.groups, "h2", tints=tints(sheet.menus)))
        for sheet in document.sheets
    )
    return _written(page(f"{titles}: keys", body, styles=["sheet.css"], foot=f"{lines} lines."))


def _subtitle(about: About) -> str:
    return f"{about.desk} · {about.schemes} · {about.date}"


_MAIN = "<main>\n{}</main>\n"


def _checklist(checklist: Checklist) -> Written:
    """A page whose boxes can be ticked on the screen and on paper."""
    steps = (
        filled(_STEP, number=number, text=task.text, menu=task.menu)
        for number, task in enumerate(checklist.tasks, 1)
    )
    body = heading(checklist.title, f"{len(checklist.tasks)} changes by hand, in this order")
    body += table(("", "", "change", "menu"), steps)
    if checklist.left:
        body += filled(_LEFT, for_each(_ITEM, checklist.left))
    else:
        body += NOTHING
    return _written(page(f"{checklist.title}: keys to change by hand", body))


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


def _comparison(comparison: Comparison) -> Written:
    """A table for each part."""
    head = heading(comparison.title, comparison.summary)
    return _written(page(comparison.title, head + parts(comparison.contrasts)))


def _written(text: str) -> Written:
    return Written(data=text.encode())


FORM = Form(
    endings=(".html", ".htm"),
    write_table=_table,
    write_sheets=_sheets,
    write_checklist=_checklist,
    write_comparison=_comparison,
)
