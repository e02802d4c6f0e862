"""What was changed in an application's own file since the last delivery into it."""

from olive_compass.core.apps.app import App
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.sharing.delivering import ByMode, Moved, moved
from olive_compass.desk.shortcuts.delivery_target import (
    Target,
    current_keys,
    form_parts,
    said_by,
    wanted_there,
)


def changed_there(app: App, keymap: Keymap, found: Target) -> tuple[list[Moved], list[str]]:
    """What was changed over there since the last delivery, or against what is wanted where there was
    none; and what the file names that is no command of ours."""
    if found.last:
        before: ByMode = found.last.keys
    else:
        before = wanted_there(app, keymap, found)
    known = set(form_parts(app))
    # What is no command of ours is not ours to import, nor to call missing.
    now = {id_: keys for id_, keys in said_by(app, found).items() if id_ in known}
    before = {id_: keys for id_, keys in before.items() if id_ in known}
    return moved(before, now), current_keys(app, found)[1]
