"""Three desks that are merged into one of them, or into a new folder."""

import os
from collections.abc import Iterable, Mapping

from olive_compass.cli.changing.saving import save
from olive_compass.cli.files import is_in_use
from olive_compass.cli.sharing.guarding import refuse_broken_guards
from olive_compass.cli.sharing.merge_report import MergeRequest, new_conflicts, report_conflicts
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF, RED, YELLOW
from olive_compass.core.sharing.merging import Conflict
from olive_compass.core.wording import counted
from olive_compass.desk.bundles import FILES, FOLDERS, files_of
from olive_compass.desk.desk import Desk
from olive_compass.desk.merging import merge_file
from olive_compass.desk.paths import find_root
from olive_compass.desk.preferring import Resolve
from olive_compass.desk.reported.merging import merged_report
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.storage.saving import write_atomically
from olive_compass.errors import UserError


def merge_desks(
    request: MergeRequest, context: Surroundings, paths: list[str], resolve: Resolve
) -> int:
    """Merges three desks into ours, as one change that one undo takes back; or into a new folder."""
    # A folder that cannot be written to is refused before three desks are read.
    new = ""
    if request.out:
        new = _new_folder(request.out, context)
    roots = [find_root(path) for path in paths]
    _, our_root, _ = roots
    desk = Desk(our_root)
    base, ours, theirs = (files_of(root, (*FILES, *FOLDERS)).files for root in roots)
    changes, conflicts = _merged(context, base, ours, theirs, resolve)
    _say_new_conflicts(context, desk, changes, theirs)
    if conflicts:
        _refuse_conflicts(request, context, conflicts)
        return 1
    # A guard of ours holds against what a colleague changed as it does against ourselves.
    refuse_broken_guards(desk, changes, request.despite)
    writes = bool(changes or new) and not request.dry_run
    if writes:
        _write(request, context, desk, new, ours, changes)
    elif changes:
        names = ", ".join(change.path for change in changes)
        context.say(f"Would merge {names}.\nDry run: nothing was written.")
    else:
        context.say("Both sides are the same already; nothing was changed.")
    if request.json:
        context.json(merged_report(request.dry_run, [each.path for each in changes], [], writes))
    return 0


def _say_new_conflicts(
    context: Surroundings,
    desk: Desk,
    changes: Iterable[FileChange],
    theirs: Mapping[str, bytes | None],
) -> None:
    """Each side may be right by itself and the two together give one press to two commands."""
    for each in changes:
        other = theirs.get(each.path)
        for line in new_conflicts(context, each.path, each.before, other, each.after, desk):
            context.say(f"{YELLOW}{line}{OFF}")


def _write(
    request: MergeRequest,
    context: Surroundings,
    desk: Desk,
    new: str,
    ours: Mapping[str, bytes],
    changes: list[FileChange],
) -> None:
    """Writes what was merged into our desk, or with all that ours has into a new folder."""
    names = ", ".join(change.path for change in changes) or "nothing"
    if new:
        _write_desk(new, {**ours, **{each.path: each.after for each in changes}})
        context.report(f"{BOLD}Merged{OFF} into the new desk {request.out}: {names}.")
        return
    what = f"Merged with {request.theirs}: {counted(len(changes), 'file')}"
    number = save(desk, context, changes, what)
    context.report(f"{BOLD}Merged{OFF}: {names} (change {number}).")
    context.report(f"To undo: olive-compass undo --desk {request.ours}")


def _refuse_conflicts(
    request: MergeRequest, context: Surroundings, conflicts: list[Conflict]
) -> None:
    """Lists the decisions to resolve before desks can be merged."""
    if request.json:
        context.json(merged_report(request.dry_run, [], conflicts, False))
    context.say(
        f"{RED}{counted(len(conflicts), 'decision')} not settled{OFF}; nothing was changed."
    )
    context.say("Use --if-taken keep, replace or house.")


def _new_folder(named: str, context: Surroundings) -> str:
    """The folder of a desk that is to be made; raises ``UserError`` where something is there."""
    folder = os.path.abspath(os.path.join(context.folder, named))
    if is_in_use(folder):
        raise UserError(
            f"“{named}” is there already.", hint="The merged desk goes into a new folder."
        )
    return folder


def _merged(
    context: Surroundings,
    base: Mapping[str, bytes],
    ours: Mapping[str, bytes],
    theirs: Mapping[str, bytes],
    resolve: Resolve,
) -> tuple[list[FileChange], list[Conflict]]:
    """The changes to our files, and the unresolved decisions."""
    changes = []
    conflicts: list[Conflict] = []
    for path in sorted({*base, *ours, *theirs}):
        before = ours.get(path)
        merged = merge_file(path, base.get(path), before, theirs.get(path), resolve)
        report_conflicts(context, path, merged)
        conflicts += merged.conflicts
        if merged.data != before:
            changes.append(FileChange(path, before, merged.data))
    return changes, conflicts


def _write_desk(folder: str, files: Mapping[str, bytes | None]) -> None:
    for path, data in files.items():
        if data is not None:
            whole = os.path.join(folder, path)
            os.makedirs(os.path.dirname(whole), exist_ok=True)
            write_atomically(whole, data)
