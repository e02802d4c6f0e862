"""Reads listings of any kind into rows: one module a format in this folder.

A module of a format holds ``SUFFIXES`` (file endings), ``suits(source)`` (for a file whose ending
says nothing) and ``read(source)``, which gives a ``Read``. It is found by its being here; the first that
suits reads a file, in the order of their names. The other modules help them.
"""

import os
from importlib import import_module
from shlex import quote
from types import ModuleType
from typing import Any

from olive_compass.desk.importing.source import Read, Source, bounded, decoded
from olive_compass.errors import UserError
from olive_compass.modules import module_names
from olive_compass.structs import replace

#: The largest listing that is read, in bytes.
LARGEST = 40_000_000


#: The first bytes of documents that are not read, and what each is.
NOT_READ = {
    b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1": "This is a document of the older binary kind (.doc, .xls).",
    b"{\\rtf": "This is rich text (RTF).",
}

#: What to do instead.
SAVE_AS = "Save it in its program as .docx, .odt, .xlsx, .csv, HTML or PDF."


def read_rows(path: str, data: bytes, pattern: str = "") -> tuple[str, Read]:
    """The rows of a listing and the name of its format.

    ``pattern`` is a regular expression with named groups for plain text. Raises ``UserError``
    where nothing can read it.
    """
    if len(data) > LARGEST:
        raise UserError(f"The listing is larger than {LARGEST // 1_000_000} MB.", file=path)
    text, encoding = decoded(data)
    source = Source(path=path, data=data, text=text, encoding=encoding, pattern=pattern)
    module: Any = _module_for(source)
    read = module.read(source)
    return module.__name__.rsplit(".", 1)[1], replace(read, rows=bounded(read.rows, path))


def formats() -> dict[str, ModuleType]:
    """The modules of all formats, by name."""
    names = module_names(__path__)
    modules = {name: import_module(f"{__name__}.{name}") for name in names}
    return {name: module for name, module in modules.items() if hasattr(module, "suits")}


def _module_for(source: Source) -> ModuleType:
    modules = formats()
    if source.pattern:
        return modules["lines"]
    for beginning, says in NOT_READ.items():
        if source.data.startswith(beginning):
            raise UserError(says, file=source.path, hint=SAVE_AS)
    ending = os.path.splitext(source.path)[1].lower()
    by_ending = [module for module in modules.values() if ending in module.SUFFIXES]
    for module in [*by_ending, *modules.values()]:
        if module.suits(source):
            return module
    if source.data.startswith(b"PK\x03\x04"):
        says = "This is a packed document of a kind that is not read here."
        raise UserError(says, file=source.path, hint=SAVE_AS)
    if not _is_text(source.text):
        says = "This is no text, and no document of a kind that is read here."
        raise UserError(says, file=source.path, hint=SAVE_AS)
    raise UserError(
        "This looks like plain text with one command a line.",
        file=source.path,
        hint=f"Point at one line of it: olive-compass fileformat new NAME --from {quote(source.path)}, then "
        "import it with --file-format NAME. Or say how a line reads with --pattern, for example "
        r"--pattern '(?P<title>\S+(?: \S+)*)\s{2,}(?P<keys>\S+)'",
    )


def _is_text(text: str) -> bool:
    """Whether hardly any of its characters are control characters, as in the bytes of a picture."""
    some = text[:4000]
    return sum(char < " " and char not in "\t\n\r\f" for char in some) * 50 <= len(some)
