"""Holds the guards of a desk against changes that come as whole files: merged, unpacked, upgraded."""

from olive_compass.cli import parts
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.guards import broken_guards
from olive_compass.desk.desk import Desk, scheme_path
from olive_compass.desk.history import FileChange
from olive_compass.errors import Refused


def refuse_broken_guards(
    at: Desk, files: list[FileChange], despite: list[str], only: list[FileChange] | None = None
) -> None:
    """Raises ``Refused`` where ``files`` change what a guarded key of this desk does.

    ``only`` are files that come first in any case (a new version of the application), so that what
    they change is not held against the rest.
    """
    if "guard" in despite:
        return
    before = at.with_files(only) if only else at
    after = at.with_files(files)
    touched = {
        each.path.split("/")[1] for each in files if each.path.startswith(("schemes/", "apps/"))
    }
    for app in sorted(touched & set(before.app_names()) & set(after.app_names())):
        stacks = before.stack(app), after.stack(app)
        if not any(scheme.guard for scheme in stacks[0].schemes):
            continue
        keymaps = [Keymap(stack, at.keyboard) for stack in stacks]
        for guard in broken_guards(*keymaps):
            path = scheme_path(app, guard.scheme.name)
            raise Refused(
                f"{parts.guard_text(guard)}; nothing was changed.",
                file=path,
                line=before.line(path, "guard", str(guard.trigger)),
                hint="To do it all the same: --despite guard",
            )
