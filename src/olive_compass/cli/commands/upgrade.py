"""``upgrade``: takes a new version of an application in, and says what of the schemes still holds."""

import argparse

from olive_compass.cli import pick
from olive_compass.cli.changing.saving import confirm, retry_on_conflict, save
from olive_compass.cli.intake.reading import ListingOptions, read_for, said_of
from olive_compass.cli.looking.upgrade_tables import print_upgrade
from olive_compass.cli.options import (
    app_argument,
    despite_guard_option,
    forget_option,
    limit_option,
    reading_options,
    write_options,
    yes_option,
)
from olive_compass.cli.sharing.guarding import refuse_guard
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import App
from olive_compass.core.changes.change import Answers, Change
from olive_compass.core.changes.upgrade import PutBack, TakeVersion, take_version, version_of
from olive_compass.core.schemes.objections.kind import GUARD
from olive_compass.core.wording import conditional, counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.reported.upgrade import upgrade_report
from olive_compass.desk.views import app_view
from olive_compass.desk.writing.versions import named_elsewhere, upgraded_files
from olive_compass.errors import UserError

GROUP = "application"
ORDER = 10
SUMMARY = "Import a new version's commands, and see what moved"
EXAMPLES = """olive-compass upgrade quillmap --from listings/quillmap-5.csv --version 5.0 --dry-run
olive-compass upgrade quillmap --from listings/quillmap-5.csv --version 5.0 --keep-keys --yes"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument(
        "--from", dest="listing", required=True, metavar="FILE", help="the new version's list"
    )
    parser.add_argument("--version", metavar="TEXT", help="the new version")
    parser.add_argument(
        "--keep-keys",
        action="store_true",
        help="keep the factory keys that moved: assign the old ones in the nearest personal scheme",
    )
    forget_option(parser)
    reading_options(parser, keeps=True)
    parser.add_argument(
        "--all", action="store_true", help="also show the decisions that still apply"
    )
    limit_option(parser, "show at most N changed commands")
    yes_option(parser)
    despite_guard_option(parser)
    write_options(parser)


class UpgradeOptions(ListingOptions, kw_only=True):
    """The options of ``upgrade``."""

    app: str
    listing: str
    version: str | None
    keep_keys: bool
    forget: list[str]
    all: bool
    limit: int | None
    yes: bool
    despite: list[str]
    dry_run: bool
    json: bool


def run(args: UpgradeOptions, context: Surroundings) -> int:
    return retry_on_conflict(lambda: _upgrade(args, context), context)


def _upgrade(args: UpgradeOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    view = app_view(desk, desk.app_name(args.app))
    old = view.app
    said = said_of(args)
    listing = read_for(said, args.listing, context, desk, old)
    if not listing.catalogue.commands:
        raise UserError("The list has no command; nothing was changed.", file=args.listing)
    # Which scheme keeps the old keys is settled before the listing is judged, or refused.
    keep_in = None
    if args.keep_keys:
        keep_in = pick.scheme_to_write(desk, view.stack, None)
    request = TakeVersion(
        listed=listing.catalogue,
        version=args.version or "",
        used=named_elsewhere(desk, old),
        forget=tuple(args.forget),
        keep_in=keep_in,
        answers=Answers(despite=frozenset(args.despite)),
        has_ids="id" in listing.columns.fields,
    )
    change = take_version(view, request)
    found = version_of(change)
    if args.json:
        context.json(upgrade_report(found))
    elif not context.quiet:
        print_upgrade(context, old, found, args.all, args.limit)
    _check_guards(context, desk, old, change)
    if change.already:
        context.report("The application is as it was; nothing was changed.")
        return 0
    changes = upgraded_files(said, desk, change)
    what = f"{old.title}: upgraded to {found.app.version or 'a new version'}"
    files = ", ".join(each.path for each in changes)
    if args.dry_run:
        if not args.json:
            context.say(f"{conditional(what)} ({files}).\nDry run: nothing was written.")
        return 0
    kept = f"{old.title} stays as it is; nothing was changed."
    confirm(args.yes, context, "An upgrade", "Import the new version?", kept)
    save(desk, context, changes, what)
    context.report(f"{what} ({files}).")
    context.report("To undo: olive-compass undo")
    return 0


def _check_guards(context: Surroundings, desk: Desk, old: App, change: Change) -> None:
    """Says which old keys stay assigned. Raises ``UserError`` where the new version would break a guard."""
    for back in (each for each in change.effects if isinstance(each, PutBack)):
        count = counted(back.commands, "command")
        context.report(f"Assigned in {back.scheme}: the old keys of {count}.")
    for question in change.questions:
        # Only a guard stands in the way here: moved factory keys are reported, not asked about.
        if question.what == GUARD:
            refuse_guard(desk, old.name, question)
