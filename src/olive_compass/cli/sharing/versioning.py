"""``desk git``: a desk as a git repository whose merges go by decision."""

import argparse
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.changing.saving import save
from olive_compass.cli.options import WriteOptions, write_options
from olive_compass.cli.surroundings import Surroundings
from olive_compass.desk import git as real_git
from olive_compass.desk.desk import Desk
from olive_compass.desk.git import block_change
from olive_compass.desk.storage.records import FileChange, changing

#: What is of this machine alone, and not of the repository.
IGNORED = (".history/", ".house/", "seat.toml")


def options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--off", action="store_true", help="remove that setup")
    write_options(parser)


class DeskGitOptions(WriteOptions, kw_only=True):
    """The options of ``desk git``."""

    off: bool


def _set_driver(root: str) -> None:
    """Tells git in this clone how files of a desk are merged."""
    section = f"merge.{real_git.DRIVER}"
    real_git.git(root, "config", f"{section}.name", "decisions, not lines")
    real_git.git(root, "config", f"{section}.driver", real_git.driver_command())


def desk_git(args: DeskGitOptions, context: Surroundings) -> int:
    """Runs ``desk git``, or with ``--off`` takes back what it did."""
    desk = pick.desk(args, context)
    is_new = not real_git.is_repository(desk.root)
    if args.off:
        return _off(args.dry_run, args.json, context, desk, is_new)
    attributes = tuple(f"{each} merge={real_git.DRIVER}" for each in real_git.PATTERNS)
    changes = changing(
        [
            block_change(desk, real_git.ATTRIBUTES, attributes),
            block_change(desk, real_git.IGNORE, IGNORED),
        ]
    )
    if args.dry_run:
        names = ", ".join(change.path for change in changes) or "no file"
        made = ""
        if is_new:
            made = "make a repository, "
        context.say(f"Would {made}set the merge driver and write {names}.")
        context.say("Dry run: nothing was written.")
        number = None
    else:
        number = _set_up(context, desk, changes, is_new)
    if args.json:
        context.json(_as_json(args.dry_run, changes, number))
    return 0


def _set_up(
    context: Surroundings, desk: Desk, changes: list[FileChange], is_new: bool
) -> int | None:
    """Makes the repository where there is none, and lets git merge by decision; the number of the change."""
    number = None
    if is_new:
        real_git.git(desk.root, "init", "--quiet")
        context.report("Made a git repository of the desk.")
    _set_driver(desk.root)
    if changes:
        number = save(desk, context, changes, "Desk: set git to merge by decision")
    context.report(
        "From now on, git merges this desk decision by decision. A clone needs its own: olive-compass desk git"
    )
    context.report(
        "To keep it as it is now: git add -A, then git commit. Undone by: desk git --off"
    )
    return number


def _off(dry_run: bool, as_json: bool, context: Surroundings, desk: Desk, is_new: bool) -> int:
    changes = [block_change(desk, real_git.ATTRIBUTES, ()), block_change(desk, real_git.IGNORE, ())]
    changes = changing(changes)
    if dry_run:
        context.say("Would remove the merge driver.\nDry run: nothing was written.")
        if as_json:
            context.json(_as_json(dry_run, changes, None))
        return 0
    number = None
    if not is_new:
        # It fails where there is no such section, which is what is wanted.
        real_git.run(desk.root, "config", "--remove-section", f"merge.{real_git.DRIVER}")
    if changes:
        number = save(desk, context, changes, "Desk: set git to merge by lines")
    if as_json:
        context.json(_as_json(dry_run, changes, number))
    context.report(
        "From now on, git merges this desk by lines again. The repository itself is left as it is."
    )
    return 0


def _as_json(dry_run: bool, changes: list[FileChange], number: int | None) -> dict[str, Any]:
    return {
        "changed": not dry_run,
        "dry-run": dry_run,
        "change": number,
        "files": [each.path for each in changes],
    }
