"""Every form of output writes tables, sheets of keys and checklists, whatever it writes in a way of its own."""

import csv
import io

import pytest
from openpyxl import load_workbook
from pdfplumber import open as open_pdf

from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.schemes.sheet import SheetGroup, SheetKey, SheetLine
from olive_compass.drawing.documents import (
    About,
    Cell,
    Checklist,
    Comparison,
    Contrast,
    Sheet,
    SheetDocument,
    Table,
    TableDocument,
    Task,
    Written,
)
from olive_compass.drawing.forms import form_called, form_names, form_of_ending
from olive_compass.drawing.key_caps import printed

KEY = read_trigger("Ctrl+Shift+B")
TABLE = TableDocument(
    title="Keys | of a set",
    subtitle="Larkspur Map Works",
    table=Table(
        ("purpose", "key"),
        ((Cell("=bake"), Cell("in draw", (printed(KEY, str),))), (Cell(), Cell())),
    ),
    notes=("no sign: as in the set",),
)
SHEET = SheetDocument(
    sheets=(
        Sheet(
            about=About(
                title="Quillmap",
                version="4.2",
                desk="Larkspur",
                mode="",
                schemes="mine",
                date="2026",
            ),
            groups=(
                SheetGroup(
                    name="Shade",
                    lines=(
                        SheetLine(
                            id="tints.bake",
                            title="Bake tints",
                            keys=(SheetKey(trigger=KEY, text="Ctrl+Shift+B", modes=(), where=""),),
                            where="",
                            does="",
                        ),
                    ),
                ),
            ),
            modes=ModeTree({}),
        ),
    ),
    show=str,
)
CHECKLIST = Checklist(
    title="Quillmap 4.2",
    tasks=(Task(text="Give Home to Whole sheet.", menu="View > Whole sheet"),),
    left=("F9: reserved",),
)
COMPARISON = Comparison(
    before="factory",
    after="house",
    contrasts=(
        Contrast(
            part="Quillmap",
            what="moved",
            table="key",
            subject="Check closure",
            before="F8 in draw",
            after="Ctrl+Shift+K",
            why="asked for before every proof",
        ),
    ),
    summary="1 moved.",
)


def said(name: str, written: Written) -> str:
    """What a reader finds in a document."""
    if name == "xlsx":
        book = load_workbook(io.BytesIO(written.data))
        return " ".join(
            str(cell) for row in book.active.iter_rows(values_only=True) for cell in row
        )
    if name == "pdf":
        with open_pdf(io.BytesIO(written.data)) as pdf:
            return " ".join(page.extract_text() for page in pdf.pages)
    return written.data.decode()


@pytest.mark.parametrize("name", form_names())
def test_every_form_writes_every_kind_of_document(name: str) -> None:
    form = form_called(name)
    assert all(form_of_ending(ending) == name for ending in form.endings)
    assert "bake" in said(name, form.table(TABLE))
    assert "in draw" in said(name, form.table(TABLE))
    assert "Bake tints" in said(name, form.sheets(SHEET))
    assert "Whole sheet" in said(name, form.checklist(CHECKLIST))
    assert "F8 in draw" in said(name, form.comparison(COMPARISON))


def test_a_form_without_a_way_of_its_own_writes_sheets_and_checklists_as_tables() -> None:
    form = form_called("csv")
    rows = list(csv.reader(io.StringIO(form.sheets(SHEET).data.decode())))
    assert rows[0] == ["menu", "title", "keys", "modes", "command"]
    assert rows[1] == ["Shade", "Bake tints", "Ctrl+Shift+B", "", "tints.bake"]
    tasks = list(csv.reader(io.StringIO(form.checklist(CHECKLIST).data.decode())))
    assert tasks[1] == ["", "1", "Give Home to Whole sheet.", "View > Whole sheet"]
    compared = list(csv.reader(io.StringIO(form.comparison(COMPARISON).data.decode())))
    assert compared[0] == ["part", "change", "what", "of", "before", "after", "why"]
    assert "'=bake" in form.table(TABLE).data.decode()
