"""The file of a desk where the schemes that count for an application change."""

from olive_compass.core.apps.app import App
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.layers import scheme_layer
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats.desk_file import with_stack
from olive_compass.desk.paths import DESK_FILE, scheme_path
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.texts.toml_editor import with_top
from olive_compass.structs import replace


def renamed_in_stack(desk: Desk, app: str, old: str, new: str) -> list[FileChange]:
    """The change of ``desk.toml`` where its stack names the scheme; ``new`` ``""``: it goes."""
    names = desk.settings.stacks.get(app, ())
    if old not in names:
        return []
    after = tuple(new if name == old else name for name in names if name != old or new)
    before = desk.bytes(DESK_FILE)
    return [FileChange(DESK_FILE, before, with_stack(before, app, after))]


def copied_scheme(
    desk: Desk, app: App, asked_origin: str, asked_layer: str | None, name: str
) -> tuple[Scheme, bytes]:
    """A copy of another scheme's file, comments and all, with its own name and layer."""
    origin = desk.scheme(app, asked_origin.rpartition("/")[2])
    layer = scheme_layer(asked_layer or "") or origin.layer
    data = desk.bytes(scheme_path(app.name, origin.name))
    for key, value in (("layer", layer), ("based-on", origin.name)):
        data = with_top(data, key, value)
    scheme = replace(origin, name=name, layer=layer, based_on=origin.name)
    return scheme, data
