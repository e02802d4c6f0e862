"""Gives a document out in the form that was asked for: on stdout, or into the file of ``--out``."""

from typing import TYPE_CHECKING, Any

from msgspec import Struct

from olive_compass.cli.output.new_file import Into, put_new
from olive_compass.cli.output.papers import Wanted, printing_of, warn_of_fonts
from olive_compass.cli.surroundings import Surroundings
from olive_compass.drawing.forms import form_called

if TYPE_CHECKING:
    from olive_compass.drawing.documents import Table, Written


class Matter(Struct, frozen=True):
    """What a table is about: its title, a line under it, and notes below."""

    title: str
    subtitle: str
    notes: tuple[str, ...] = ()


def give_table(
    asked: Wanted,
    context: Surroundings,
    matter: Matter,
    table: "Table",
    usual: str,
    lying: bool = False,
) -> None:
    """Gives a table out; ``usual`` is its paper where none was asked for, ``lying``: on its long side."""
    from olive_compass.drawing.documents import TableDocument

    document = TableDocument(
        title=matter.title,
        subtitle=matter.subtitle,
        table=table,
        notes=matter.notes,
        printing=printing_of(asked, usual, lying),
    )
    give(asked.into, context, form_called(asked.form).table(document))


def give(into: Into, context: Surroundings, written: "Written") -> None:
    """Gives out what a form has written."""
    if written.faces is not None:
        warn_of_fonts(context, into.out, written.faces)
    if into.out:
        put_new(into, context, written.data, written.holds)
    else:
        context.write(written.data.decode())


def give_json(into: Into, context: Surroundings, document: Struct | dict[str, Any]) -> None:
    """Gives JSON out, on stdout or into the file of ``--out``."""
    if not into.out:
        context.json(document)
        return
    from olive_compass.desk.texts import json_text
    from olive_compass.drawing.documents import Written

    give(into, context, Written(data=json_text.text(document).encode()))
