"""Forms and layouts: those that ship with the program, and those of the desk's own files."""

import os
from collections.abc import Mapping
from typing import TYPE_CHECKING

from olive_compass.core.keys.forms import Form
from olive_compass.core.keys.keyboards import NO_DEVICES, Keyboard
from olive_compass.core.keys.layouts import Layout
from olive_compass.desk.formats.keyboard_files import read_form, read_layout
from olive_compass.desk.storage.plain_file import read_whole
from olive_compass.errors import UserError

if TYPE_CHECKING:
    from olive_compass.core.keys.devices import Device

_DATA = os.path.join(os.path.dirname(os.path.dirname(os.path.abspath(__file__))), "data")


def load(
    root: str,
    platform: str,
    form: str,
    layout: str,
    devices: "Mapping[str, Device]" = NO_DEVICES,
) -> Keyboard:
    """The keyboard of that form and layout, with the devices beside it.

    Raises ``UserError`` where form or layout are unknown.
    """
    board = load_form(root, form)
    return Keyboard(platform, load_layout(root, layout), board, devices=devices)


def load_form(root: str, name: str) -> Form:
    """A form, the desk's own before one that ships with the program."""
    return read_form(*_file(root, "forms", name), name)


def load_layout(root: str, name: str) -> Layout:
    """A layout, the desk's own before one that ships with the program."""
    return read_layout(*_file(root, "layouts", name), name)


def read(kind: str, data: bytes, file: str, name: str) -> Form | Layout:
    """The form or the layout (``kind`` is ``forms`` or ``layouts``) in a file's bytes."""
    if kind == "forms":
        return read_form(data, file, name)
    return read_layout(data, file, name)


def names(root: str, kind: str) -> list[str]:
    """The names of all ``forms`` or ``layouts``, sorted."""
    found: set[str] = set()
    for folder in (os.path.join(_DATA, kind), os.path.join(root, "keyboards", kind)):
        if os.path.isdir(folder):
            found.update(name[:-5] for name in os.listdir(folder) if name.endswith(".toml"))
    return sorted(found)


def _file(root: str, kind: str, name: str) -> tuple[bytes, str]:
    own = f"keyboards/{kind}/{name}.toml"
    for path, file in (
        (os.path.join(root, own), own),
        (os.path.join(_DATA, kind, f"{name}.toml"), f"{kind}/{name}.toml"),
    ):
        # A name from a file of others must not lead out of the two folders.
        if os.sep not in name and "/" not in name and os.path.isfile(path):
            return read_whole(path, file), file
    from olive_compass.near import did_you_mean

    known = names(root, kind)
    raise UserError(
        f"There is no keyboard {kind[:-1]} “{name}”.",
        hint=did_you_mean(name, known) or f"There is {', '.join(known)}.",
    )
