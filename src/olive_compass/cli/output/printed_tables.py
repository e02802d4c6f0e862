"""A table that a command gives out in any form: on paper, as a workbook, a page, CSV or Markdown."""

from typing import TYPE_CHECKING

from msgspec import Struct

from olive_compass.cli.output.new_file import Into, put_new
from olive_compass.cli.output.papers import Wanted, faces_for, paper_of, write_pdf
from olive_compass.cli.surroundings import Surroundings

if TYPE_CHECKING:
    from olive_compass.drawing.table_paper import Table

#: The forms of a table beside the command's own text.
FORMS = ("html", "csv", "markdown", "xlsx", "pdf")


class Matter(Struct, frozen=True):
    """What a table is about: its title, a line under it, and notes below."""

    title: str
    subtitle: str
    notes: tuple[str, ...] = ()


def give_out(
    asked: Wanted,
    context: Surroundings,
    matter: Matter,
    table: "Table",
    usual: str,
    lying: bool = False,
) -> None:
    """The table in the form that was asked for, on stdout or into the file of ``--out``."""
    from olive_compass.drawing import tables_as

    if asked.form == "pdf":
        _print(asked, context, matter, table, usual, lying)
    elif asked.form == "xlsx":
        put_new(asked.into, context, tables_as.as_xlsx(matter.title, table))
    elif asked.form == "csv":
        give_text(asked.into, context, tables_as.as_csv(table))
    else:
        as_form = tables_as.as_html if asked.form == "html" else tables_as.as_markdown
        give_text(asked.into, context, as_form(matter.title, matter.subtitle, table, matter.notes))


def give_text(into: Into, context: Surroundings, text: str) -> None:
    """A text on stdout, or into the file of ``--out``."""
    if not into.out:
        context.write(text)
        return
    put_new(into, context, text.encode())


def _print(
    asked: Wanted, context: Surroundings, matter: Matter, table: "Table", usual: str, lying: bool
) -> None:
    from olive_compass.drawing.print_frame import Head
    from olive_compass.drawing.table_paper import laid_out

    texts = [*matter.notes, matter.title, matter.subtitle, *table.headings, "0123456789 of…"]
    for row in table.rows:
        for cell in row:
            texts.append(cell.text)
            texts += [piece.text for each in cell.triggers for piece in each.pieces]
    faces = faces_for(context, asked.into.out, texts)
    head = Head(matter.title, matter.subtitle, matter.notes)
    leaves = laid_out(head, table, paper_of(asked, usual, lying), faces.width, asked.size or 0.0)
    write_pdf(asked.into, context, leaves, faces, matter.title)
