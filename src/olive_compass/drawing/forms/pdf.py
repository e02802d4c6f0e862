"""PDF, for paper: a table on as few pages as it takes, a sheet of keys for the wall."""

from collections.abc import Iterable, Sequence

from olive_compass.core.wording import counted
from olive_compass.drawing import table_paper, wall_sheet
from olive_compass.drawing.documents import SheetDocument, TableDocument, Written
from olive_compass.drawing.faces import Faces
from olive_compass.drawing.forms import Form
from olive_compass.drawing.pages import Page
from olive_compass.drawing.pdf_files import as_pdf
from olive_compass.drawing.print_frame import Head
from olive_compass.drawing.sheet_listing import as_listing
from olive_compass.drawing.wall_blocks import blocks_of, texts_of

#: What the frame of a page writes beside the texts of a document.
_NUMBERS, _MARKS = "0123456789 of…", "+−"


def _table(document: TableDocument) -> Written:
    head = Head(document.title, document.subtitle, document.notes)
    faces = Faces([*_table_texts(document), _NUMBERS])
    printing = document.printing
    pages = table_paper.laid_out(head, document.table, printing.page, faces.width, printing.size)
    return _written(pages, faces, document.title)


def _table_texts(document: TableDocument) -> Iterable[str]:
    yield from (*document.notes, document.title, document.subtitle, *document.table.headings)
    for row in document.table.rows:
        for cell in row:
            yield cell.text
            yield from (piece.text for each in cell.triggers for piece in each.pieces)


def _sheets(document: SheetDocument) -> Written:
    """The keys of applications for the wall, a sheet for each."""
    printing = document.printing
    made = [blocks_of(sheet, document.show) for sheet in document.sheets]
    texts = [text for head, blocks in made for text in texts_of(head, blocks)]
    faces = Faces([*texts, _NUMBERS + _MARKS])
    options = wall_sheet.SheetOptions(printing.columns, printing.size)
    pages = []
    for head, blocks in made:
        pages += wall_sheet.laid_out(head, blocks, printing.page, faces.width, options)
    title = ", ".join(head.title for head, _ in made)
    return _written(pages, faces, title, as_listing(document.sheets))


def _written(pages: Sequence[Page], faces: Faces, title: str, listing: str = "") -> Written:
    data = as_pdf(pages, faces, title, listing)
    return Written(data=data, holds=counted(len(pages), "page"), faces=faces)


FORM = Form(endings=(".pdf",), write_table=_table, write_sheets=_sheets, only_file=True)
