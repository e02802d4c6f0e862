"""Which application is meant where none is named: the one that one stands in, has in use, or that has such a thing."""

import os
from collections.abc import Callable, Iterable

from olive_compass.cli.surroundings import Surroundings
from olive_compass.desk.desk import Desk
from olive_compass.errors import UserError

#: The folders of a desk that have one for each application.
FOLDERS = ("apps", "schemes", "macros", "documents")


def current(desk: Desk, context: Surroundings) -> str:
    """The application of the folder one stands in, else the one in use on this seat, ``""``: none."""
    here = os.path.relpath(os.path.realpath(context.folder), os.path.realpath(desk.root))
    parts = here.split(os.sep)
    if _is_of_an_app(parts, desk):
        return parts[1]
    used, names = desk.seat.current, desk.app_names()
    if used in names:
        return used
    # Where there is only one, it is meant.
    if len(names) == 1:
        return names[0]
    return ""


def _is_of_an_app(parts: list[str], desk: Desk) -> bool:
    return len(parts) > 1 and parts[0] in FOLDERS and parts[1] in desk.app_names()


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


def app_having(
    desk: Desk, context: Surroundings, name: str, kind: str, names: Callable[[str], Iterable[str]]
) -> str:
    """The application that has a thing of that name: the one in use before the only one.

    Raises ``UserError`` where several have, or none.
    """
    having = [app for app in desk.app_names() if name in names(app)]
    used = current(desk, context)
    if used and (used in having or not having):
        return used
    if len(having) == 1:
        return having[0]
    if having:
        raise UserError(
            f"{len(having)} applications have a {kind} “{name}”: {', '.join(having)}.",
            hint=f"Say which: {having[0]}/{name}",
        )
    known = desk.app_names()
    if app := app_called(desk, name):
        # The one word given is the application; the name is missing.
        example = next(iter(names(app)), "mine")
        says = f"“{name}” is the application; name a {kind} of it."
        raise UserError(says, hint=f"Write APP/NAME, such as {app}/{example}.")
    raise UserError(
        f"No application has a {kind} “{name}”.",
        hint=f"Write APP/NAME, such as {known[0] if known else 'app'}/{name}.",
    )


def app_called(desk: Desk, word: str) -> str:
    """The application whose very name or title a word is, ``""``: none."""
    wanted = word.casefold()
    if wanted in desk.app_names():
        return wanted
    return next(
        (name for name in desk.app_names() if desk.app(name).title.casefold() == wanted), ""
    )
