"""Columns of a listing that no heading names, told by what most of their cells look like."""

import re
from collections.abc import Callable, Sequence

from olive_compass.core.apps.naming import MENU_SIGNS
from olive_compass.core.keys.cells import NO_KEY, names_keys

#: Keys whose modifiers are letters: ``C-a``, ``C-S-Left``. They are read once the spelling is told.
_LETTERED = r"(?:[A-Za-z]-){1,4}\S{1,9}"


#: How a column was told that has no heading.
_LOOKS = "what its cells look like"


class ByCells:
    """Fills in the fields that no heading told, by what most cells of a column look like."""

    def __init__(
        self, body: list[list[str]], width: int, fields: dict[str, int], why: dict[str, str]
    ) -> None:
        self.rows = len(body)
        self.columns = [[row[n].strip() for row in body if row[n].strip()] for n in range(width)]
        self.fields = fields
        self.why = why

    def guess(self) -> None:
        """All fields, the surest first."""
        self._keys()
        self._best("menu", 0.5, _is_path)
        self._id()
        self._title()

    def _open(self) -> list[int]:
        """The columns that no field has, and in which something stands."""
        taken = self.fields.values()
        return [n for n, cells in enumerate(self.columns) if cells and n not in taken]

    def _best(
        self,
        field: str,
        share: float,
        test: Callable[[str], bool],
        of_all: bool = False,
        among: Sequence[int] | None = None,
    ) -> None:
        """The column most of whose cells pass a test, of its own cells or of all rows."""
        if field in self.fields:
            return
        scored = []
        for n in self._open() if among is None else among:
            cells = self.columns[n]
            scored.append((sum(map(test, cells)) / (self.rows if of_all else len(cells)), -n))
        if scored and max(scored)[0] >= share:
            self.fields[field] = -max(scored)[1]
            self.why[field] = _LOOKS

    def _drop(self, field: str) -> None:
        del self.fields[field], self.why[field]

    def _keys(self) -> None:
        self._best("keys", 0.6, lambda cell: looks_like_key(cell) or cell.lower() in NO_KEY)
        # Words for no key alone are no keys.
        if "keys" in self.fields and not any(
            map(looks_like_key, self.columns[self.fields["keys"]])
        ):
            self._drop("keys")

    def _id(self) -> None:
        self._best("id", 0.8, lambda cell: _AN_ID.fullmatch(cell) is not None)
        if self.why.get("id") == _LOOKS:
            cells = self.columns[self.fields["id"]]
            # What appears twice is no id: it may be a version, or a file.
            if len(set(cells)) < len(cells):
                self._drop("id")

    def _title(self) -> None:
        """The titles; what stands row below row, left of them, is the menu."""
        often = [n for n in self._open() if self._stands_often(n)]
        rare = [n for n in self._open() if n not in often]
        if "title" not in self.fields:
            self._best("title", 0.5, _is_title, True, rare)
            left = [n for n in often if n < self.fields.get("title", 0)]
            if "menu" not in self.fields and left and all(map(_is_title, self.columns[left[0]])):
                self.fields["menu"], self.why["menu"] = left[0], _LOOKS
        self._best("title", 0.5, _is_title, True)

    def _stands_often(self, column: int) -> bool:
        cells = self.columns[column]
        return len(set(cells)) * 2 <= len(cells)


_AN_ID = re.compile(r"[^\W\d][\w-]*([._:][\w-]+)+")


def _is_title(cell: str) -> bool:
    return any(c.isalpha() for c in cell) and len(cell) < 80


def _is_path(cell: str) -> bool:
    return any(sign in cell for sign in (*MENU_SIGNS[:5], " | ", " / "))


def looks_like_key(cell: str) -> bool:
    """Whether a cell reads as keys and cannot be taken for a word."""
    cell = cell.strip()
    if not cell or cell.lower() in NO_KEY:
        return False
    return names_keys(cell) or re.fullmatch(_LETTERED, cell) is not None
