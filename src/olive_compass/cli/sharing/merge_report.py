"""The report of a merge: unresolved decisions, and new findings."""

import os

from msgspec import Struct

from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.answers.merge import wrong_together
from olive_compass.core.apps.app import App
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import scheme_file
from olive_compass.desk.merging import FileMerge, conflict_text
from olive_compass.desk.paths import find_root
from olive_compass.errors import UserError


class MergeRequest(Struct, frozen=True, kw_only=True):
    """What was typed of the merging of desks: ours, theirs, a new folder for it, and what stops nothing."""

    ours: str
    theirs: str
    out: str | None
    despite: tuple[str, ...]
    dry_run: bool
    json: bool


def new_conflicts(
    context: Surroundings,
    path: str,
    ours: bytes | None,
    theirs: bytes | None,
    merged: bytes | None,
    desk: Desk | None = None,
) -> list[str]:
    """What is wrong with the keys of a merged scheme that is wrong on neither side alone."""
    parts = path.split("/")
    if "schemes" not in parts or merged is None or not path.endswith(".toml"):
        return []
    try:
        if desk is None:
            desk = Desk(find_root(os.path.join(context.folder, os.path.dirname(path))))
        app, name = parts[-2], parts[-1].removesuffix(".toml")
        stack = None
        if app in desk.app_names():
            stack = desk.stack(app)
        if stack is None:
            return []
        sides = [_scheme(data, path, name, stack.app) for data in (ours, theirs, merged)]
        found = wrong_together(stack, desk.keyboard, *sides)
        return [f"after the merge: {says}" for says in found]
    except UserError:
        # A desk in the middle of a merge may not be readable as a whole.
        return []


def _scheme(data: bytes | None, path: str, name: str, app: App) -> Scheme:
    if data is None:
        return Scheme(app=app.name, name=name)
    return scheme_file.read(data, path, name, frozenset(app.modes.names), app.rules.typed)


def report_conflicts(context: Surroundings, path: str, merged: FileMerge) -> None:
    for conflict in merged.conflicts:
        context.warn(f"olive-compass: {path}: both sides changed {conflict_text(conflict)}")
