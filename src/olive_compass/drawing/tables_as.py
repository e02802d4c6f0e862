"""A table in the forms in which one is passed on: CSV, Markdown, HTML, a workbook."""

import csv
import io
from collections.abc import Sequence

from markupsafe import Markup

from olive_compass.desk.texts.cells import shielded
from olive_compass.drawing.key_caps import Trigger
from olive_compass.drawing.sheets import marked
from olive_compass.drawing.table_paper import Cell, Table
from olive_compass.drawing.web_pages import caps, filled, for_each, heading, joined, page
from olive_compass.drawing.workbooks import Grid, as_workbook


def as_csv(table: Table) -> str:
    """A row a row; cells that a spreadsheet would run are shielded."""
    text = io.StringIO()
    writer = csv.writer(text, lineterminator="\n")
    writer.writerow(table.headings)
    for row in table.rows:
        writer.writerow(shielded(whole(cell)) for cell in row)
    return text.getvalue()


def as_markdown(title: str, subtitle: str, table: Table, notes: Sequence[str]) -> str:
    """One table under its title."""
    lines = [f"# {marked(title)}\n", f"{marked(subtitle)}\n"]
    lines.append(f"| {' | '.join(map(marked, table.headings))} |")
    lines.append(f"| {' | '.join('---' for _ in table.headings)} |")
    lines += [f"| {' | '.join(marked(whole(cell)) for cell in row)} |" for row in table.rows]
    return "\n".join([*lines, "", *map(marked, notes)]).rstrip() + "\n"


def as_html(title: str, subtitle: str, table: Table, notes: Sequence[str]) -> str:
    """One page, to read or to print."""
    body = filled(
        _TABLE,
        headings=for_each(_TH, table.headings),
        rows=joined(filled(_TR, joined(map(_cell, row))) for row in table.rows),
    )
    return page(title, heading(title, subtitle) + body + for_each(_NOTE, notes))


def _cell(cell: Cell) -> Markup:
    space = " " if cell.triggers and cell.text else ""
    return filled(_TD, joined(map(_trigger, cell.triggers), _OR), space, cell.text)


def _trigger(trigger: Trigger) -> Markup:
    # Of one stroke all is said, the turns of a wheel and the like included.
    texts = [each.text for each in trigger.pieces] if len(trigger.pieces) > 1 else [trigger.text]
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


def as_xlsx(title: str, table: Table) -> bytes:
    """A workbook of one sheet."""
    rows = tuple(tuple(map(whole, row)) for row in table.rows)
    return as_workbook([Grid(title, table.headings, rows)], title)


def whole(cell: Cell) -> str:
    """All of a cell in words."""
    return " ".join(filter(None, (", ".join(each.text for each in cell.triggers), cell.text)))
