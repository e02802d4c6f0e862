"""The application that one stands in or has in use."""

import os

from olive_compass.cli.surroundings import Surroundings
from olive_compass.desk.desk import Desk
from olive_compass.errors import UserError

#: The folders of a desk that have one for each application.
FOLDERS = ("apps", "schemes", "macros", "documents")


def current(desk: Desk, context: Surroundings) -> str:
    """The application of the folder one stands in, else the one in use on this seat, ``""``: none."""
    here = os.path.relpath(os.path.realpath(context.folder), os.path.realpath(desk.root))
    parts = here.split(os.sep)
    if len(parts) > 1 and parts[0] in FOLDERS and parts[1] in desk.app_names():
        return parts[1]
    used, names = desk.seat.current, desk.app_names()
    if used in names:
        return used
    # Where there is only one, it is meant.
    if len(names) == 1:
        return names[0]
    return ""


def named_or_current(desk: Desk, context: Surroundings, names: list[str]) -> list[str]:
    """The applications that are named, each once, else the one that is meant where none is named; raises
    ``UserError``."""
    if names:
        return list(dict.fromkeys(desk.app_name(name) for name in names))
    used = current(desk, context)
    if not used:
        raise none_named(desk)
    return [used]


def none_named(desk: Desk) -> UserError:
    names = desk.app_names()
    if not names:
        desk.app_name("")
    return UserError(
        "No application is named, and none is the current one here.",
        hint=f"Name one first ({', '.join(names[:4])}), or set it once: olive-compass use {names[0]}",
    )
