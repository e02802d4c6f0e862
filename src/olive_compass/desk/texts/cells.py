"""Cells of the CSV files that people open in a spreadsheet.

A cell that a spreadsheet would run as a formula gets an apostrophe before it when it is
written, and loses it again when it is read; a cell that already begins so gets one more.
"""

_RISKY = tuple("=+-@\t\r")


def shielded(cell: str) -> str:
    """``cell`` as it may stand in a spreadsheet.

    >>> shielded("=1+1"), shielded("Ctrl+B")
    ("'=1+1", 'Ctrl+B')
    """
    if cell.lstrip("'").startswith(_RISKY):
        return "'" + cell
    return cell


def restored(cell: str) -> str:
    """``cell`` as it was before ``shielded``."""
    if cell[:1] == "'" and cell.lstrip("'").startswith(_RISKY):
        return cell[1:]
    return cell
