"""What ``check`` finds of the applications of a desk, looked for anew only where something changed."""

from collections.abc import Sequence
from functools import partial
from typing import TYPE_CHECKING

from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.progress import along
from olive_compass.desk.checking import (
    KIND,
    Checked,
    checked_app,
    is_large,
    look,
    tell_neighbours,
    views_for,
)
from olive_compass.desk.desk import Desk
from olive_compass.desk.storage.kept import files_of

if TYPE_CHECKING:
    pass


LABEL = "Looking for findings"


def checked(desk: Desk, apps: Sequence[str], context: Surroundings) -> list[Checked]:
    """What is found of the applications, on the desk as it is."""
    # With purposes an application is held against all others.
    others = []
    if desk.lists_purposes:
        others = desk.app_names()
    files = {app: files_of([app, *others]) for app in apps}
    found = {app: desk.kept.find(KIND, app, files[app], Checked) for app in apps}
    for each in looked_for(desk, [app for app in apps if found[app] is None], context):
        found[each.app] = each
        # What could not be read is said each time, until it can be.
        if not desk.left_out:
            desk.kept.note(KIND, each.app, files[each.app], each)
    return [each for each in found.values() if each is not None]


def looked_for(
    desk: Desk,
    apps: Sequence[str],
    context: Surroundings,
    keyboard: str = "",
    since: str | None = None,
) -> list[Checked]:
    """The same, looked for anew: as on another keyboard, or only what is new above a scheme."""
    if not apps:
        return []
    if is_large(desk, apps) and (found := _by_several(desk, apps, context, keyboard, since)):
        return found
    # Loaded here: where nothing changed, nothing is said anew.
    from olive_compass.cli.terminal.action_lines import line_of

    views = views_for(desk, apps, keyboard)
    return [checked_app(desk, view, since, line_of) for view in along(context, LABEL, views)]


def _by_several(
    desk: Desk, apps: Sequence[str], context: Surroundings, keyboard: str, since: str | None
) -> list[Checked] | None:
    """What several processes find, None where they cannot do it or are no quicker."""
    from olive_compass.cli.terminal.action_lines import line_of
    from olive_compass.cli.terminal.parallel import parallel

    if desk.lists_purposes:
        # Each would read all applications, but for what these told and is kept.
        if keyboard or not desk.cache:
            return None
        parallel(context, LABEL, partial(tell_neighbours, desk.root, desk.cache), desk.app_names())
    work = partial(look, desk.root, desk.cache, keyboard=keyboard, since=since, written=line_of)
    found = parallel(context, LABEL, work, apps)
    order = {app: n for n, app in enumerate(apps)}
    return found and sorted(found, key=lambda each: order[each.app])
