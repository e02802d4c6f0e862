"""A row of a listing, before anybody has said what its cells are."""

from typing import Literal

from msgspec import Struct

#: Whether rows with one cell are headings.
Groups = Literal["guess", "yes", "no"]

#: What headings are.
Headings = Literal["guess", "menu", "mode"]


class Row(Struct, frozen=True, kw_only=True):
    """A row as the file has it: where it stands, its cells, and whether it is a heading (None: the
    file does not say). ``is_exact``: every blank of its cells counts, as in the names of a shortcuts file."""

    line: int
    cells: tuple[str, ...]
    heading: bool | None = None
    is_exact: bool = False
