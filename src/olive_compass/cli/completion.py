"""What the shell may complete: applications, commands and schemes of the desk at hand."""

from typing import Any


def app_names(prefix: str, parsed_args: Any, **_: Any) -> list[str]:
    desk = _desk(parsed_args)
    return desk.app_names() if desk else []


def command_ids(prefix: str, parsed_args: Any, **_: Any) -> list[str]:
    desk = _desk(parsed_args)
    app = getattr(parsed_args, "app", None)
    if desk is None or app not in desk.app_names():
        return []
    return list(desk.app(app).catalogue.by_id)


def scheme_names(prefix: str, parsed_args: Any, **_: Any) -> list[str]:
    desk = _desk(parsed_args)
    app = getattr(parsed_args, "app", None)
    return desk.scheme_names(app) if desk and app else []


def app_and_scheme(prefix: str, parsed_args: Any, **_: Any) -> list[str]:
    """``app/scheme`` for each scheme, and ``app/`` for each application."""
    desk = _desk(parsed_args)
    if desk is None:
        return []
    schemes = [f"{app}/{name}" for app in desk.app_names() for name in desk.scheme_names(app)]
    return [*schemes, *(f"{app}/" for app in desk.app_names())]


def purpose_ids(prefix: str, parsed_args: Any, **_: Any) -> list[str]:
    from olive_compass.desk.purposes_file import load

    desk = _desk(parsed_args)
    return list(load(desk.root).by_id) if desk else []


def keyset_names(prefix: str, parsed_args: Any, **_: Any) -> list[str]:

    desk = _desk(parsed_args)
    return desk.keyset_names() if desk else []


def macro_names(prefix: str, parsed_args: Any, **_: Any) -> list[str]:
    """``app/macro`` for each macro."""
    desk = _desk(parsed_args)
    names = desk.app_names() if desk else []
    return [f"{app}/{name}" for app in names for name in desk.macros(app)]


def tray_names(prefix: str, parsed_args: Any, **_: Any) -> list[str]:
    """``app/tray`` for each tray."""
    desk = _desk(parsed_args)
    names = desk.app_names() if desk else []
    return [f"{app}/{tray.name}" for app in names for tray in desk.app(app).trays]


def _desk(parsed_args: Any) -> Any:
    import os

    from olive_compass.desk.desk import Desk, find_root
    from olive_compass.errors import Refused

    folder = getattr(parsed_args, "desk", None) or os.environ.get("OLIVE_COMPASS_DESK")
    try:
        return Desk(find_root(folder or os.curdir))
    except Refused:
        return None
