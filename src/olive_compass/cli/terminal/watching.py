"""Does a command anew whenever a file of the desk is saved, for those who edit by hand."""

import contextlib
import os
import time
from collections.abc import Callable
from typing import TYPE_CHECKING

from olive_compass.cli import pick
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import DIM, OFF
from olive_compass.errors import UserError

if TYPE_CHECKING:
    from olive_compass.cli.options import HasDesk

#: How often the desk is looked at, in seconds.
EVERY = 0.4


def watch(args: "HasDesk", context: Surroundings, once: Callable[[], int]) -> int:
    """Calls ``once`` now and after every change, until Ctrl-C; returns what it gave last."""
    status = 0
    seen: dict[str, tuple[int, int]] | None = None
    root = pick.desk(args, context).root
    try:
        while True:
            now = _state(root)
            if now != seen:
                seen = now
                context.say(f"{DIM}{context.now():%H:%M:%S}{OFF}")
                try:
                    status = once()
                except UserError as refused:
                    # A file that is being edited is mostly wrong for a while.
                    context.warn(f"olive-compass: {refused}")
                    status = refused.status
                context.say(f"{DIM}Watching the desk; Ctrl-C ends it.{OFF}")
                context.flush()
                if not context.is_read:
                    return status
            time.sleep(EVERY)
    except KeyboardInterrupt:
        return status


def _state(root: str) -> dict[str, tuple[int, int]]:
    """When each file of a desk was written, and how large it is."""
    found = {}
    for folder, folders, names in os.walk(root):
        folders[:] = [name for name in folders if not name.startswith(".")]
        for name in names:
            if name.endswith((".toml", ".csv")) and not name.startswith("."):
                path = os.path.join(folder, name)
                with contextlib.suppress(OSError):
                    about = os.stat(path)
                    found[path] = (about.st_mtime_ns, about.st_size)
    return found
