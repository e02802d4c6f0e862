"""What was done in an application, by all logs of the desk."""

import os
from collections.abc import Iterator

from olive_compass.cli.files import open_file
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import App
from olive_compass.core.macros.recording import Event
from olive_compass.desk.desk import Desk


def events_of(desk: Desk, app: App, context: Surroundings) -> Iterator[Event]:
    """What was done in an application, by all logs of the desk."""
    from olive_compass.desk.formats import log_file

    folder = os.path.join(desk.root, "logs")
    names = []
    if os.path.isdir(folder):
        names = sorted(os.listdir(folder))
    for name in names:
        if not name.endswith(".jsonl"):
            continue
        path = f"logs/{name}"
        with open_file(context, os.path.join(desk.root, path), "The log") as stream:
            yield from (
                each for each in log_file.events(stream, path) if each.app in (app.name, app.title)
            )
