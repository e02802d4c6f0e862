"""The form of a keyboard and what its keys type, as ``keyboards/forms/*.toml`` and ``keyboards/layouts/*.toml``."""

from typing import Literal

from olive_compass.core.keys.forms import Form, form_from_rows
from olive_compass.core.keys.layouts import Layout, layout_from_lines
from olive_compass.desk.texts.schemas import Format, fitted
from olive_compass.desk.texts.toml_text import load, refuse
from olive_compass.errors import UserError

FORM, LAYOUT = "olive-compass-form/1", "olive-compass-layout/1"


class FormTable(Format, frozen=True, kw_only=True):
    """A keyboard's form.

    A line of ``rows`` is a row: how far down it sits, then its keys from the left by W3C code, with *width and
    *height, and _width for a gap; in key units.
    """

    format: Literal["olive-compass-form/1"]
    rows: str = ""
    title: str = ""


class LayoutTable(Format, frozen=True, kw_only=True):
    """A keyboard's layout.

    A line of ``keys`` is a key: its W3C code, and what it types plain, with Shift, with AltGr, with both.
    """

    format: Literal["olive-compass-layout/1"]
    keys: str = ""
    title: str = ""
    source: str = ""


def read_form(data: bytes, file: str, name: str) -> Form:
    """The form in a file; raises ``UserError`` with its mistakes."""
    said, mistakes = fitted(load(data, file, FORM), FormTable, "a form")
    refuse(mistakes, data, file)
    try:
        return form_from_rows(name, said.title or name, said.rows)
    except ValueError as error:
        raise UserError(f"The form cannot be read: {error}.", file=file) from error


def read_layout(data: bytes, file: str, name: str) -> Layout:
    """The layout in a file; raises ``UserError`` with its mistakes."""
    said, mistakes = fitted(load(data, file, LAYOUT), LayoutTable, "a layout")
    refuse(mistakes, data, file)
    try:
        return layout_from_lines(name, said.title or name, said.keys)
    except ValueError as error:
        raise UserError(f"The layout cannot be read: {error}.", file=file) from error
