"""``merge``: three versions of a file or a desk, decision by decision; also as git's merge driver."""

import os
from collections.abc import Mapping, Sequence
from typing import Any

from msgspec import Struct

from olive_compass.cli import pick
from olive_compass.cli.changing.saving import save
from olive_compass.cli.files import read_file
from olive_compass.cli.options import WriteOptions
from olive_compass.cli.sharing.guarding import refuse_broken_guards
from olive_compass.cli.sharing.merge_answers import Settle, by_preference, settler
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF, RED, YELLOW
from olive_compass.core.answers.merge import wrong_together
from olive_compass.core.apps.app import App
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.sharing.merging import Conflict
from olive_compass.core.wording import counted
from olive_compass.desk import git as real_git
from olive_compass.desk.bundles import FILES, FOLDERS, files_of
from olive_compass.desk.desk import Desk, find_root
from olive_compass.desk.formats import scheme_file
from olive_compass.desk.merging import FileMerge, clash_text, merge_file, said, subject
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.storage.saving import write_atomically, write_on_desk
from olive_compass.errors import UserError


class MergeRequest(Struct, frozen=True, kw_only=True):
    """What was typed of the merging of desks: ours, theirs, a new folder for it, and what stops nothing."""

    ours: str
    theirs: str
    out: str | None
    despite: tuple[str, ...]
    dry_run: bool
    json: bool


class MergeOptions(WriteOptions, kw_only=True):
    """The options of ``merge``."""

    base: str | None
    ours: str | None
    theirs: str | None
    if_taken: str | None
    out: str | None
    unsettled: bool
    driver: list[str]
    despite: list[str]


def merge(args: MergeOptions, context: Surroundings) -> int:
    """Runs ``merge`` on three files, or three desks."""
    base, ours, theirs = args.base, args.ours, args.theirs
    if base is None or ours is None or theirs is None:
        raise UserError(
            "Name three versions: what both came from, ours and theirs.",
            hint="See olive-compass merge --help.",
        )
    paths = [os.path.join(context.folder, each) for each in (base, ours, theirs)]
    resolve = settler(args.if_taken, context)
    if all(os.path.isdir(path) for path in paths):
        request = MergeRequest(
            ours=ours,
            theirs=theirs,
            out=args.out,
            despite=tuple(args.despite),
            dry_run=args.dry_run,
            json=args.json,
        )
        return _desks(request, context, paths, resolve)
    before, mine, other = (read_file(context, given) for given in (base, ours, theirs))
    # Called by git with three files of its own naming: what they are shows in the name of ours.
    merged = merge_file(ours, before, mine, other, resolve)
    _say_clashes(context, ours, merged)
    _write_merged(args, context, merged)
    return 1 if merged.conflicts else 0


def _write_merged(args: MergeOptions, context: Surroundings, merged: FileMerge) -> None:
    """Writes what a merge of three files came to into a file, or says it."""
    if args.json:
        written = [args.out] if args.out and not args.dry_run else []
        context.json(_as_json(args.dry_run, written, merged.conflicts, bool(written)))
    data = merged.data or b""
    if args.dry_run:
        context.say("Dry run: nothing was written.")
    elif args.out:
        write_atomically(os.path.abspath(os.path.join(context.folder, args.out)), data)
        context.report(f"Written: {args.out}.")
    elif not args.json:
        context.write(data.decode("utf-8", "replace"))


def driver(args: MergeOptions, context: Surroundings) -> int:
    """Runs ``merge --driver``: git gives the three versions and the path; ours is written."""
    base, ours, theirs, path = args.driver
    before, mine, other = (read_file(context, file) for file in (base, ours, theirs))
    # An empty base is a file that both sides added.
    merged = merge_file(path, before or None, mine, other, by_preference(args.if_taken))
    write_atomically(os.path.abspath(os.path.join(context.folder, ours)), merged.data or b"")
    for conflict in merged.conflicts:
        context.warn(f"olive-compass: {path}: both sides changed {clash_text(conflict)}")
    for line in _new_conflicts(context, path, mine, other, merged.data):
        context.warn(f"olive-compass: {line}")
    if merged.conflicts:
        context.warn(
            "olive-compass: settle it: olive-compass merge --unsettled --if-taken keep|replace|house"
        )
    return 1 if merged.conflicts else 0


def unsettled(args: MergeOptions, context: Surroundings) -> int:
    """Runs ``merge --unsettled``: merges again what git left unmerged, and settles it."""
    desk = pick.desk(args, context)
    if not real_git.is_repository(desk.root):
        raise UserError(
            "This desk is no git repository, so git has left nothing unmerged on it.",
            hint="Make it one: olive-compass desk git",
        )
    listed = real_git.git(desk.root, "diff", "--name-only", "--relative", "--diff-filter=U", "-z")
    paths = [path for path in listed.split("\0") if path]
    if not paths:
        context.report("git has nothing unmerged on this desk.")
        return 0
    resolve = settler(args.if_taken, context)
    conflicts: list[Conflict] = []
    for path in paths:
        # The stages of git: 1 is the common version, 2 ours, 3 theirs.
        base, ours, theirs = (_stage(desk.root, number, path) for number in (1, 2, 3))
        merged = merge_file(path, base, ours, theirs, resolve)
        _say_clashes(context, path, merged)
        conflicts += merged.conflicts
        if args.dry_run or merged.conflicts:
            continue
        if merged.data is None:
            real_git.git(desk.root, "rm", "-q", "--", path)
        else:
            write_on_desk(desk.root, path, merged.data)
            real_git.git(desk.root, "add", "--", path)
        context.report(f"Settled: {path}.")
        for line in _new_conflicts(context, path, ours, theirs, merged.data):
            context.say(f"{YELLOW}{line}{OFF}")
    if args.json:
        context.json(_as_json(args.dry_run, paths, conflicts, not args.dry_run))
    if conflicts:
        context.say(
            f"{counted(len(conflicts), 'decision')} not settled; use --if-taken keep, replace or house."
        )
        return 1
    if not args.dry_run:
        context.report("All is settled. To end the merge: git commit")
    return 0


def _desks(request: MergeRequest, context: Surroundings, paths: list[str], resolve: Settle) -> int:
    """Merges three desks into ours, as one change that one undo takes back; or into a new folder."""
    # A folder that cannot be written to is refused before three desks are read.
    new = _new_folder(request.out, context) if request.out else ""
    roots = [find_root(path) for path in paths]
    _, our_root, _ = roots
    desk = Desk(our_root)
    base, ours, theirs = (files_of(root, (*FILES, *FOLDERS)).files for root in roots)
    changes, conflicts = _merged(context, base, ours, theirs, resolve)
    for each in changes:
        # Each side may be right by itself and the two together give one press to two commands.
        other = theirs.get(each.path)
        for line in _new_conflicts(context, each.path, each.before, other, each.after, desk):
            context.say(f"{YELLOW}{line}{OFF}")
    if conflicts:
        _refuse_conflicts(request, context, conflicts)
        return 1
    # A guard of ours holds against what a colleague changed as it does against ourselves.
    refuse_broken_guards(desk, changes, request.despite)
    names = ", ".join(change.path for change in changes) or "nothing"
    wrote = False
    if not changes and (request.dry_run or not new):
        context.say("Both sides are the same already; nothing was changed.")
    elif request.dry_run:
        context.say(f"Would merge {names}.\nDry run: nothing was written.")
    else:
        wrote = True
        _write(request, context, desk, new, ours, changes)
    if request.json:
        context.json(_as_json(request.dry_run, [each.path for each in changes], [], wrote))
    return 0


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
    """Says what is left to settle before desks can be merged."""
    if request.json:
        context.json(_as_json(request.dry_run, [], conflicts, False))
    context.say(
        f"{RED}{counted(len(conflicts), 'decision')} not settled{OFF}; nothing was changed."
    )
    context.say("Use --if-taken keep, replace or house.")


def _as_json(
    dry_run: bool, files: Sequence[str], conflicts: Sequence[Conflict], changed: bool
) -> dict[str, Any]:
    """What a merge came to, as JSON (docs/json.md)."""
    return {
        "changed": changed,
        "dry-run": dry_run,
        "files": list(files),
        "unsettled": [
            {
                "file": each.path,
                "what": subject(each),
                "ours": said(each.ours),
                "theirs": said(each.theirs),
                "before": said(each.base),
            }
            for each in conflicts
        ],
    }


def _new_folder(named: str, context: Surroundings) -> str:
    """The folder of a desk that is to be made; raises ``UserError`` where something is there."""
    folder = os.path.abspath(os.path.join(context.folder, named))
    if os.path.exists(folder) and (not os.path.isdir(folder) or os.listdir(folder)):
        raise UserError(
            f"“{named}” is there already.", hint="The merged desk goes into a new folder."
        )
    return folder


def _merged(
    context: Surroundings,
    base: Mapping[str, bytes],
    ours: Mapping[str, bytes],
    theirs: Mapping[str, bytes],
    resolve: Settle,
) -> tuple[list[FileChange], list[Conflict]]:
    """What becomes other in our files, and the decisions that nobody settled."""
    changes = []
    conflicts: list[Conflict] = []
    for path in sorted({*base, *ours, *theirs}):
        before = ours.get(path)
        merged = merge_file(path, base.get(path), before, theirs.get(path), resolve)
        _say_clashes(context, path, merged)
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


def _new_conflicts(
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
        stack = desk.stack(app) if app in desk.app_names() else None
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


def _say_clashes(context: Surroundings, path: str, merged: FileMerge) -> None:
    for conflict in merged.conflicts:
        context.warn(f"olive-compass: {path}: both sides changed {clash_text(conflict)}")


def _stage(root: str, number: int, path: str) -> bytes | None:
    done = real_git.run(root, "show", f":{number}:./{path}")
    if done.returncode == 0:
        return done.stdout
    return None
