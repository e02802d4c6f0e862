"""The forms in which tables, sheets, checklists and comparisons are given out: one module each in this folder, found by its being here.

A module has the name of the form, as ``--as`` takes it, and holds ``FORM``: how it writes a table. What a form does
not write in a way of its own, it writes as a table.
"""

from collections.abc import Callable
from importlib import import_module
from typing import TYPE_CHECKING

from msgspec import Struct

from olive_compass.modules import module_names

if TYPE_CHECKING:
    from olive_compass.drawing.documents import (
        Checklist,
        Comparison,
        SheetDocument,
        TableDocument,
        Written,
    )


class Form(Struct, frozen=True, kw_only=True):
    """How a form writes; ``endings`` are those of its files, ``only_file`` says that it is not for the terminal."""

    endings: tuple[str, ...]
    write_table: "Callable[[TableDocument], Written]"
    write_sheets: "Callable[[SheetDocument], Written] | None" = None
    write_checklist: "Callable[[Checklist], Written] | None" = None
    write_comparison: "Callable[[Comparison], Written] | None" = None
    only_file: bool = False

    def table(self, document: "TableDocument") -> "Written":
        """A table in this form."""
        return self.write_table(document)

    def sheets(self, document: "SheetDocument") -> "Written":
        """Sheets of keys in this form."""
        if self.write_sheets is not None:
            return self.write_sheets(document)
        # Loaded here: whoever only asks which forms there are needs no documents.
        from olive_compass.drawing.documents import sheets_as_table

        return self.write_table(sheets_as_table(document))

    def checklist(self, checklist: "Checklist") -> "Written":
        """A checklist in this form."""
        if self.write_checklist is not None:
            return self.write_checklist(checklist)
        from olive_compass.drawing.documents import checklist_as_table

        return self.write_table(checklist_as_table(checklist))

    def comparison(self, comparison: "Comparison") -> "Written":
        """A comparison in this form."""
        if self.write_comparison is not None:
            return self.write_comparison(comparison)
        from olive_compass.drawing.documents import comparison_as_table

        return self.write_table(comparison_as_table(comparison))


def form_names() -> list[str]:
    """The names of all forms, sorted."""
    return module_names(__path__)


def form_called(name: str) -> Form:
    """The form of that name."""
    found: Form = import_module(f"{__name__}.{name}").FORM
    return found


def form_of_ending(ending: str) -> str:
    """The name of the form whose files end so (``.md``), ``""``: none."""
    return next((name for name in form_names() if ending in form_called(name).endings), "")
