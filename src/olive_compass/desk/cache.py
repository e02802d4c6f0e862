"""The user's own folders for what we keep beside desks, and files there that may be lost without harm."""

import os
import sys
from collections.abc import Mapping

#: Where a system keeps what is of one user, by what it is: below the home folder.
_BELOW_HOME = {
    "cache": (".cache", os.path.join("Library", "Caches"), "XDG_CACHE_HOME"),
    "data": (
        os.path.join(".local", "share"),
        os.path.join("Library", "Application Support"),
        "XDG_DATA_HOME",
    ),
}


def user_folder(kind: str, environ: Mapping[str, str]) -> str:
    """The user's own folder for what we keep beside desks (``cache`` or ``data``), ``""``: none.

    A package knows these folders too; loading it takes longer than the parsing that the cache saves.
    """
    own = environ.get(f"OLIVE_COMPASS_{kind.upper()}")
    if own is not None:
        return own
    linux, mac, variable = _BELOW_HOME[kind]
    if environ.get(variable):
        return os.path.join(environ[variable], "olive-compass")
    if os.name == "nt":
        base = environ.get("LOCALAPPDATA", "")
        return os.path.join(base, "olive-compass", kind) if base else ""
    if not environ.get("HOME"):
        return ""
    below = mac if sys.platform == "darwin" else linux
    return os.path.join(environ["HOME"], below, "olive-compass")


def cache_file(root: str, environ: Mapping[str, str], ending: str) -> str:
    """Where something of the desk in ``root`` is kept, ``""``: nowhere."""
    folder = user_folder("cache", environ)
    if not folder or os.path.abspath(folder).startswith(os.path.abspath(root) + os.sep):
        return ""
    # Two desks with one name share a file: no harm, for what counts is what it says it was made from.
    whole = os.path.abspath(root)
    plain = "".join(char if char.isascii() and char.isalnum() else "-" for char in whole[-80:])
    return os.path.join(folder, f"{plain}.{ending}")


def put(path: str, data: bytes) -> None:
    """Writes a file of the cache as a whole; nothing happens where that cannot be."""
    beside = f"{path}.{os.getpid()}"
    try:
        folder, name = os.path.split(path)
        os.makedirs(folder, exist_ok=True)
        for left in os.listdir(folder):
            # What a killed process began, or another is at: that one writes anew next time.
            if left.startswith(f"{name}."):
                os.unlink(os.path.join(folder, left))
        with open(beside, "wb") as file:
            file.write(data)
        os.replace(beside, path)
    except OSError:
        return
