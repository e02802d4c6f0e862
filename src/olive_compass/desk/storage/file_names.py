"""Names that every system can store: a desk is carried from one to another."""

import os
import re
import unicodedata
from collections.abc import Iterable

from olive_compass.errors import UserError

#: Names that some system takes for a device, with the three superscript digits that it takes too.
_DEVICES = re.compile(r"(?i)(con|prn|aux|nul|com[\d¹²³]|lpt[\d¹²³])(\..*)?")
_LONGEST = 120


def is_storable(part: str) -> bool:
    """Whether a file or folder can be called so on every system.

    >>> is_storable("mine.toml"), is_storable("aux.toml"), is_storable("mine."), is_storable("a:b")
    (True, False, False, False)
    """
    return (
        bool(part)
        and not part.startswith(".")
        and not part.endswith(".")
        and part == part.strip()
        and part.isprintable()
        and not set(part) & set('\\/:*?"<>|')
        and not _DEVICES.fullmatch(part)
        and len(part.encode()) <= _LONGEST
    )


def as_stored(path: str) -> str:
    """What two paths have in common that some system takes for one."""
    return unicodedata.normalize("NFKC", path).casefold()


def twin_of(root: str, path: str) -> str:
    """What lies in a folder under another name that some system takes for the same, ``""``: nothing does."""
    folder, above = root, ""
    for part in path.split("/"):
        names = []
        if os.path.isdir(folder):
            names = os.listdir(folder)
        if part not in names:
            other = next((name for name in names if as_stored(name) == as_stored(part)), "")
            if other:
                return f"{above}{other}"
            return ""
        folder, above = os.path.join(folder, part), f"{above}{part}/"
    return ""


def checked_name(name: str, kind: str, known: Iterable[str], taken: Iterable[str] = ()) -> str:
    """``name``, as that of a new file beside ``known`` ones. Raises ``UserError`` where it cannot be.

    ``kind`` is what it names (a scheme, a key set …), ``taken`` are names that mean something else.
    """
    taken = tuple(taken)
    if not re.fullmatch(r"\w[\w-]*", name) or name in taken:
        also = "".join(f"; {each} is taken" for each in taken)
        raise UserError(
            f"“{name}” cannot be the name of {kind}.", hint=f"Use letters, digits, - and _{also}."
        )
    if not is_storable(name) or unicodedata.normalize("NFKC", name) != name:
        raise UserError(
            f"“{name}” cannot be the name of {kind}: some system cannot store it.",
            hint="Choose another, of plain letters and digits.",
        )
    for other in known:
        if other != name and as_stored(other) == as_stored(name):
            raise UserError(
                f"“{name}” and “{other}” would be one file on some systems.", hint="Choose another."
            )
    return name
