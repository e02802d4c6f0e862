"""The file that keys are delivered to: where it lies, and of which format it is."""

import os

from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import App
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import seat_file
from olive_compass.desk.paths import DESK_FILE, SYSTEM_FILE
from olive_compass.desk.shortcuts.delivery import last_delivery, opened
from olive_compass.desk.shortcuts.delivery_target import Target
from olive_compass.desk.shortcuts.shortcuts_file import read
from olive_compass.desk.storage.plain_file import lies_in, read_whole
from olive_compass.desk.storage.saving import refuse_leading_out
from olive_compass.errors import UserError
from olive_compass.structs import replace

#: Folders and files of the desk into which nothing is delivered.
_OURS = (
    "apps",
    "schemes",
    "macros",
    "trays",
    "keysets",
    "keyboards",
    "devices",
    "fileformats",
    "logs",
    "tallies",
    "documents",
    ".history",
)
_FILES = (DESK_FILE, SYSTEM_FILE, seat_file.SEAT_FILE, "purposes.csv")


def target(
    context: Surroundings, desk: Desk, app: App, to: str | None, file_format: str | None
) -> Target:
    """The file that is meant, read: ``to`` and ``fileformat`` say where it is and of which format, where the
    seat and the application do not. Raises ``UserError`` where it or its format is not known."""
    name = file_format or desk.reading(app.name).file_format
    if not name:
        raise UserError(
            f"The file format of {app.title} is not known yet.",
            hint=f"Use --file-format NAME; olive-compass fileformat list. For lists by hand: olive-compass "
            f"worklist {app.name}",
        )
    form = desk.file_format(name)
    # A format that says nothing of how keys are written takes that from the application.
    form = replace(form, spelling=form.spelling or app.spelling)
    given = desk.seat.files.get(app.name, "")
    if to:
        given = os.path.join(context.folder, os.path.expanduser(to))
    if not given:
        raise UserError(
            f"The place of {app.title}'s shortcuts file on this computer is not known yet.",
            hint=f"Set it once: olive-compass deliver {app.name} --to FILE",
        )
    path = _place(desk, given)
    data = _content(desk, path, given)
    text = opened(data or b"")
    content = read(form, text.text, app.rules.typed)
    # What the file itself tells of its format counts from here on, also for what is read back.
    form = content.form
    return Target(
        path=path,
        form=form,
        data=data,
        text=text,
        content=content,
        last=last_delivery(desk, app, path),
    )


def _content(desk: Desk, path: str, given: str) -> bytes | None:
    """The bytes of the file; None: it is yet to be made, as the application may keep none until the first key is
    changed."""
    try:
        return read_whole(os.path.join(desk.root, path), given)
    except FileNotFoundError:
        return None
    except OSError as error:
        raise UserError(f"This file cannot be read: {error.strerror}.", file=given) from error


def is_of_the_desk(path: str) -> bool:
    """Whether a file on the desk is one of its own, or git's: also where a system knows no capitals."""
    parts = path.casefold().split("/")
    return parts[0] in _OURS or path.casefold() in _FILES or ".git" in parts


def _place(desk: Desk, given: str) -> str:
    """Where a file lies that is named: from the desk's folder, if it lies in that, so that the desk may be moved.

    Raises ``UserError`` for a folder, and for a file of the desk itself.
    """
    whole = os.path.join(desk.root, os.path.expanduser(given))
    refuse_leading_out(desk.root, whole, given)
    path = os.path.realpath(whole)
    if os.path.isdir(path):
        raise UserError("This is a folder, and no shortcuts file.", file=given)
    root = os.path.realpath(desk.root)
    if not lies_in(path, root):
        return path
    path = os.path.relpath(path, root).replace(os.sep, "/")
    if is_of_the_desk(path):
        raise UserError(
            "This is a file of the desk itself, and none of an application.", file=given
        )
    return path
