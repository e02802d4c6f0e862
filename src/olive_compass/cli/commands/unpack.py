"""``unpack``: takes a bundle in, after showing what it would change."""

import argparse

from olive_compass.cli import pick
from olive_compass.cli.changing.saving import confirm, retry_on_conflict, save
from olive_compass.cli.files import read_file
from olive_compass.cli.options import WriteOptions, despite_guard_option, write_options, yes_option
from olive_compass.cli.sharing.differences import print_sections
from olive_compass.cli.sharing.guarding import refuse_broken_guards
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.core.keys.system import SYSTEM_KEYS
from olive_compass.core.schemes.layers import FACTORY
from olive_compass.core.wording import clause, counted
from olive_compass.desk.bundles import Bundle, unpack
from olive_compass.desk.comparing import compare_desks
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import system_file
from olive_compass.desk.formats.desk_file import with_stack
from olive_compass.desk.paths import DESK_FILE, SYSTEM_FILE
from olive_compass.desk.reported.differences import difference_reports
from olive_compass.desk.storage.file_names import twin_of
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.trying import try_reading
from olive_compass.desk.unpacking import for_this_platform, taken_over
from olive_compass.errors import UserError

GROUP = "share"
ORDER = 60
SUMMARY = "Import a packed file; shows first what it would change"
EXAMPLES = """olive-compass unpack larkspur.zip --dry-run
olive-compass unpack larkspur.zip --if-taken replace --yes
olive-compass unpack larkspur.zip --if-taken keep --yes"""


#: The files of system keys as new desks have them.
_UNTOUCHED = [
    system_file.new_text(keys, table)
    for platform, keys in SYSTEM_KEYS.items()
    for table in (platform, system_file.STATED)
]


def add_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("file", metavar="FILE", help="the bundle")
    parser.add_argument(
        "--if-taken",
        choices=("replace", "keep", "stop"),
        help="what to do if a file exists and differs (default: ask)",
    )
    parser.add_argument(
        "--settings",
        action="store_true",
        help="also import desk.toml: its name, stacks and severities",
    )
    yes_option(parser)
    despite_guard_option(parser)
    write_options(parser)


class UnpackOptions(WriteOptions, kw_only=True):
    """The options of ``unpack``."""

    file: str
    if_taken: str | None
    settings: bool
    yes: bool
    despite: list[str]


def run(args: UnpackOptions, context: Surroundings) -> int:
    return retry_on_conflict(lambda: _unpack(args, context), context)


def _unpack(args: UnpackOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    bundle = for_this_platform(desk, unpack(read_file(context, args.file), args.file))
    fresh, collisions, alike = _sorted_out(args.settings, desk, bundle)
    # What would be taken if all that differs were: so a person sees it before answering.
    announced = [*fresh, *(collisions if args.if_taken != "keep" else ())]
    changes, _ = _changes(args.file, desk, bundle, announced)
    _show(args.json, args.file, context, desk, bundle, changes, fresh, collisions, alike)
    if not fresh and not collisions:
        context.report("All of it is here already; nothing was changed.")
        return 0
    if args.dry_run:
        if not args.json:
            context.say("Dry run: nothing was written.")
        return 0
    chosen = [*fresh, *_settled(args.if_taken, context, collisions)]
    if not chosen:
        context.report("Nothing was taken; nothing was changed.")
        return 0
    changes, orders = _changes(args.file, desk, bundle, chosen)
    confirm(args.yes, context, "Unpacking", "Do it?", "Nothing was unpacked.")
    refuse_broken_guards(desk, changes, args.despite)
    what = f"Unpacked {bundle.scope} {bundle.name}: {counted(len(chosen), 'file')}"
    save(desk, context, changes, what)
    context.report(f"{what}. To undo: olive-compass undo")
    for line in orders:
        context.report(line)
    context.report("Look whether it fits this keyboard and seat: olive-compass check")
    return 0


def _refuse_unreadable(file: str, after: Desk, chosen: list[str]) -> None:
    """Raises ``UserError`` where a file of the bundle cannot be read.

    The whole is read before anything is written: half of a bundle is worse than none.
    """
    try:
        try_reading(after, chosen)
    except UserError as refused:
        place = f"{refused.file}{clause(', line {}', refused.line)}"
        raise UserError(
            f"The bundle has a file that cannot be read ({place}): {refused.what} "
            "Nothing was changed.",
            file=file,
        ) from refused


def _changes(
    file: str, desk: Desk, bundle: Bundle, chosen: list[str]
) -> tuple[list[FileChange], list[str]]:
    """The file changes that take ``chosen`` in, the stack with them; and what is said of the stack.

    Raises ``UserError`` where one of them cannot be read.
    """
    changes = [FileChange(name, desk.bytes_or_none(name), bundle.files[name]) for name in chosen]
    after = desk.with_files(changes)
    _refuse_unreadable(file, after, chosen)
    data, lines = after.bytes(DESK_FILE), []
    for change in taken_over(desk, after, bundle, chosen):
        for stack in change.stacks:
            app, names = stack.app, stack.names
            if names != after.stack_names(app) or app not in after.settings.stacks:
                data = with_stack(data, app, names)
            order = " over ".join([*names, FACTORY])
            lines.append(f"{after.app(app).title} uses {order}.")
    if data != after.bytes(DESK_FILE):
        changes = [each for each in changes if each.path != DESK_FILE]
        changes.append(desk.change_of(DESK_FILE, data))
    return changes, lines


def _sorted_out(
    settings: bool, desk: Desk, bundle: Bundle
) -> tuple[list[str], list[str], list[str]]:
    """The new files, the files that differ from ours, and the identical ones."""
    fresh: list[str] = []
    collisions: list[str] = []
    alike: list[str] = []
    for name, data in bundle.files.items():
        if twin := twin_of(desk.root, name):
            raise UserError(
                f"The bundle has {name}, and this desk has {twin}: on some systems they are one file; "
                "nothing was changed.",
                hint="Rename the one here first, or take it out of the bundle there.",
            )
        if name == DESK_FILE and not settings:
            continue
        now = desk.bytes_or_none(name)
        if name == SYSTEM_FILE and now in _UNTOUCHED:
            # A new desk has the keys of its platform; nobody has decided about them yet.
            now = None
        (fresh if now is None else alike if now == data else collisions).append(name)
    return fresh, collisions, alike


def _show(
    as_json: bool,
    file: str,
    context: Surroundings,
    desk: Desk,
    bundle: Bundle,
    changes: list[FileChange],
    fresh: list[str],
    collisions: list[str],
    alike: list[str],
) -> None:
    """Describes the bundle, and each decision that importing it would change."""
    after = desk.with_files(changes)
    sections = compare_desks(desk, after)
    if as_json:
        context.json(
            {
                "scope": bundle.scope,
                "name": bundle.name,
                "made": bundle.made,
                "new": fresh,
                "differ": collisions,
                "alike": alike,
                "differences": difference_reports(sections),
            }
        )
        return
    if context.quiet:
        return
    context.say(f"{BOLD}{file}{OFF}: {bundle.scope} {bundle.name}, made {bundle.made}")
    for label, names in (("new here", fresh), ("differ from ours", collisions)):
        if names:
            context.say(f"  {label}: {', '.join(names)}")
    if alike:
        context.say(f"  alike: {counted(len(alike), 'file')}")
    if sections:
        print_sections(context, after, sections)


def _settled(if_taken: str | None, context: Surroundings, collisions: list[str]) -> list[str]:
    """The files that differ and are to be taken from the bundle."""
    if not collisions or if_taken == "keep":
        return []
    if if_taken == "replace":
        return collisions
    if if_taken == "stop" or not context.interactive:
        raise UserError(
            f"{counted(len(collisions), 'file')} of the bundle differ from ours, "
            f"{collisions[0]} first; nothing was changed.",
            hint="Use --if-taken replace or keep.",
        )
    chosen: list[str] = []
    for n, name in enumerate(collisions):
        answer = context.ask(
            f"{name} is here and differs. [o: ours, t: theirs, a: all theirs, q: stop]"
        )
        if answer.lower().startswith("q"):
            raise UserError("Nothing was unpacked.")
        if answer.lower().startswith("a"):
            return [*chosen, *collisions[n:]]
        if answer.lower().startswith("t"):
            chosen.append(name)
    return chosen
