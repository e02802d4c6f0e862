"""Where the files of a desk are, and where the desk is."""

import os

from olive_compass.errors import UserError

DESK_FILE = "desk.toml"
SYSTEM_FILE = "system.toml"

#: The record of a change that is under way, or was interrupted.
PENDING = ".history/pending.json"


def find_root(start: str) -> str:
    """The folder of the desk that ``start`` lies in. Raises ``UserError`` where there is none."""
    try:
        folder = os.path.abspath(start)
    except FileNotFoundError as error:
        raise UserError(
            "The current folder is not there any more.", hint="Change to another one: cd"
        ) from error
    while True:
        if os.path.isfile(os.path.join(folder, DESK_FILE)):
            return folder
        above = os.path.dirname(folder)
        if above == folder:
            raise UserError(
                f"There is no desk in {os.path.abspath(start)} or above it.",
                hint="Name one with --desk FOLDER, or make one: olive-compass desk new FOLDER",
            )
        folder = above


def app_path(app: str) -> str:
    return f"apps/{app}/app.toml"


def catalogue_path(app: str) -> str:
    return f"apps/{app}/commands.csv"


def macro_path(app: str, name: str) -> str:
    return f"macros/{app}/{name}.toml"


def scheme_path(app: str, name: str) -> str:
    return f"schemes/{app}/{name}.toml"
