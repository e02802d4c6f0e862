"""CSV, for spreadsheets and programs: a row a row; cells that a spreadsheet would run are shielded."""

import csv
import io

from olive_compass.desk.texts.cells import shielded
from olive_compass.drawing.documents import TableDocument, Written
from olive_compass.drawing.forms import Form


def _table(document: TableDocument) -> Written:
    text = io.StringIO()
    writer = csv.writer(text, lineterminator="\n")
    writer.writerow(document.table.headings)
    for row in document.table.rows:
        writer.writerow(shielded(cell.whole) for cell in row)
    return Written(data=text.getvalue().encode())


FORM = Form(endings=(".csv",), write_table=_table)
