"""Cells of the CSV files that people open in a spreadsheet.

A cell that a spreadsheet would run as a formula gets an apostrophe before it when it is
written, and loses it again when it is read; a cell that already begins so gets one more.
"""

import re

_RISKY = re.compile(r"'*[=+\-@\t\r]")
_SHIELDED = re.compile(r"'+[=+\-@\t\r]")


def shielded(cell: str) -> str:
    """``cell`` as it may stand in a spreadsheet.

    >>> shielded("=1+1"), shielded("Ctrl+B")
    ("'=1+1", 'Ctrl+B')
    """
    return "'" + cell if cell and cell[0] in "'=+-@\t\r" and _RISKY.match(cell) else cell


def restored(cell: str) -> str:
    """``cell`` as it was before ``shielded``."""
    return cell[1:] if cell and cell[0] == "'" and _SHIELDED.match(cell) else cell
