"""Makes the rows of a listing clean: without control characters, needless blanks, and cells that are far too long."""

from collections.abc import Sequence

from olive_compass.core.apps.listing_result import SetAside
from olive_compass.core.apps.listing_row import Row
from olive_compass.core.plain import escaped, plain_text

#: The most characters in a cell: what is longer is no title, and no description that a table has.
LONGEST_CELL = 5_000


def short_enough(rows: Sequence[Row]) -> tuple[list[Row], list[SetAside]]:
    """The rows that can be of commands, and those with a cell that is far too long for one."""
    kept, aside = [], []
    for row in rows:
        # All of a row together is mostly shorter than one cell may be.
        if sum(map(len, row.cells)) > LONGEST_CELL and (
            len(longest := max(row.cells, key=len)) > LONGEST_CELL
        ):
            why = f"a cell has {len(longest)} characters, and {LONGEST_CELL} are the most"
            aside.append(SetAside(line=row.line, what="row", why=why, text=longest[:200]))
        else:
            kept.append(row)
    return kept, aside


def cleaned_rows(rows: Sequence[Row]) -> tuple[list[Row], list[SetAside]]:
    """The rows without control characters and needless spaces, and the cells that had some."""
    aside: list[SetAside] = []
    result = []
    for row in rows:
        if _needs_no_cleaning(row):
            result.append(row)
            continue
        cells = []
        for cell in row.cells:
            if not cell.isprintable():
                plain = plain_text(cell)
                if len(plain) < len(cell.replace("\ufeff", "").replace("\r\n", "\n")):
                    why = "signs that do not belong in it were taken out"
                    aside.append(SetAside(line=row.line, what="text", why=why, text=escaped(cell)))
                cell = plain
            lines = (" ".join(line.split()) for line in cell.split("\n"))
            cells.append("\n".join(filter(None, lines)))
        result.append(Row(line=row.line, cells=tuple(cells), heading=row.heading))
    return result, aside


def _needs_no_cleaning(row: Row) -> bool:
    return (row.is_exact and "|".join(row.cells).isprintable()) or _is_clean(row.cells)


def _is_clean(cells: tuple[str, ...]) -> bool:
    """Whether nothing is to be taken out of the cells of a row; one that looks odd is gone through."""
    text = "|".join(cells)
    return (
        text.isprintable()
        and "  " not in text
        and "| " not in text
        and " |" not in text
        and text == text.strip()
    )
