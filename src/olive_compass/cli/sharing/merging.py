"""``merge``: three versions of a file or a desk, decision by decision; also as git's merge driver."""

import os
from collections.abc import Sequence

from olive_compass.cli import exit_status, pick
from olive_compass.cli.files import read_file
from olive_compass.cli.options import WriteOptions
from olive_compass.cli.sharing.merge_answers import resolver
from olive_compass.cli.sharing.merge_report import MergeRequest, new_conflicts, report_conflicts
from olive_compass.cli.sharing.merging_desks import merge_desks
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import OFF, YELLOW
from olive_compass.core.sharing.merging import Conflict
from olive_compass.core.wording import counted
from olive_compass.desk import git as real_git
from olive_compass.desk.desk import Desk
from olive_compass.desk.merging import FileMerge, conflict_text, merge_file
from olive_compass.desk.preferring import Resolve, by_preference
from olive_compass.desk.reported.merging import merged_report
from olive_compass.desk.storage.saving import write_atomically, write_on_desk
from olive_compass.errors import UserError


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
    resolve = resolver(args.if_taken, context)
    if all(os.path.isdir(path) for path in paths):
        request = MergeRequest(
            ours=ours,
            theirs=theirs,
            out=args.out,
            despite=tuple(args.despite),
            dry_run=args.dry_run,
            json=args.json,
        )
        return merge_desks(request, context, paths, resolve)
    before, mine, other = (read_file(context, given) for given in (base, ours, theirs))
    # Called by git with three files of its own naming: what they are shows in the name of ours.
    merged = merge_file(ours, before, mine, other, resolve)
    report_conflicts(context, ours, merged)
    _write_merged(args, context, merged)
    return exit_status.failed(merged.conflicts)


def _write_merged(args: MergeOptions, context: Surroundings, merged: FileMerge) -> None:
    """Writes what a merge of three files came to into a file, or says it."""
    if args.json:
        written = []
        if args.out and not args.dry_run:
            written = [args.out]
        context.json(merged_report(args.dry_run, written, merged.conflicts, bool(written)))
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
        context.warn(f"olive-compass: {path}: both sides changed {conflict_text(conflict)}")
    for line in new_conflicts(context, path, mine, other, merged.data):
        context.warn(f"olive-compass: {line}")
    if merged.conflicts:
        context.warn(
            "olive-compass: settle it: olive-compass merge --unsettled --if-taken keep|replace|house"
        )
    return exit_status.failed(merged.conflicts)


def _put(root: str, path: str, data: bytes | None) -> None:
    """Writes a merged file, or removes it (None), and tells git that it is merged."""
    if data is None:
        real_git.git(root, "rm", "-q", "--", path)
        return
    write_on_desk(root, path, data)
    real_git.git(root, "add", "--", path)


def unsettled(args: MergeOptions, context: Surroundings) -> int:
    """Runs ``merge --unsettled``: merges again what git left unmerged, and settles it."""
    desk = pick.desk(args, context)
    if not real_git.is_repository(desk.root):
        raise UserError(
            "This desk is no git repository, so git has left nothing unmerged on it.",
            hint="Make it one: olive-compass desk git",
        )
    listed = real_git.git(desk.root, "diff", "--name-only", "--relative", "--diff-filter=U", "-z")
    paths = list(filter(None, listed.split("\0")))
    if not paths:
        context.report("git has nothing unmerged on this desk.")
        return 0
    resolve = resolver(args.if_taken, context)
    conflicts: list[Conflict] = []
    for path in paths:
        conflicts += _settle(context, desk, path, resolve, args.dry_run)
    if args.json:
        context.json(merged_report(args.dry_run, paths, conflicts, not args.dry_run))
    if conflicts:
        context.say(
            f"{counted(len(conflicts), 'decision')} not settled; use --if-taken keep, replace or house."
        )
        return 1
    if not args.dry_run:
        context.report("All is settled. To end the merge: git commit")
    return 0


def _settle(
    context: Surroundings, desk: Desk, path: str, resolve: Resolve, dry_run: bool
) -> Sequence[Conflict]:
    """Merges a file again, and writes it where no conflict remains. Returns the conflicts that remain."""
    # The stages of git: 1 is the common version, 2 ours, 3 theirs.
    base, ours, theirs = (_stage(desk.root, number, path) for number in (1, 2, 3))
    merged = merge_file(path, base, ours, theirs, resolve)
    report_conflicts(context, path, merged)
    if not dry_run and not merged.conflicts:
        _put(desk.root, path, merged.data)
        context.report(f"Settled: {path}.")
        for line in new_conflicts(context, path, ours, theirs, merged.data):
            context.say(f"{YELLOW}{line}{OFF}")
    return merged.conflicts


def _stage(root: str, number: int, path: str) -> bytes | None:
    done = real_git.run(root, "show", f":{number}:./{path}")
    if done.returncode == 0:
        return done.stdout
    return None
