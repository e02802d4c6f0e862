"""The user's own folders for what we keep beside desks."""

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
        if base:
            return os.path.join(base, "olive-compass", kind)
        return ""
    if not environ.get("HOME"):
        return ""
    below = linux
    if sys.platform == "darwin":
        below = mac
    return os.path.join(environ["HOME"], below, "olive-compass")
