"""``deliver``: writes the keys into an application's own file, and takes back what was changed there."""

import argparse

from olive_compass.cli import pick
from olive_compass.cli.changing.saving import retry_on_conflict
from olive_compass.cli.options import (
    app_argument,
    despite_guard_option,
    reason_option,
    scheme_option,
    typed,
    write_options,
    yes_option,
)
from olive_compass.cli.surroundings import Surroundings

GROUP = "application"
ORDER = 40
SUMMARY = "Write your keys into an application's shortcuts file"
EXAMPLES = """olive-compass deliver reliefkiln --to kiln/keys.kiln --file-format kiln --dry-run
olive-compass deliver reliefkiln --to kiln/keys.kiln --file-format kiln --yes
olive-compass deliver reliefkiln --check
olive-compass deliver reliefkiln --import-changes"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument(
        "--to", metavar="FILE", help="its shortcuts file on this computer (seat.toml remembers it)"
    )
    parser.add_argument(
        "--file-format",
        metavar="FORMAT",
        help="the format of that file (olive-compass fileformat list; the desk remembers it)",
    )
    what = parser.add_mutually_exclusive_group()
    what.add_argument(
        "--check",
        action="store_true",
        help="show what changed in the file since the last delivery",
    )
    what.add_argument(
        "--import-changes", action="store_true", help="save what changed there as decisions"
    )
    reason_option(parser, "with --import-changes: the reason")
    yes_option(parser)
    scheme_option(parser)
    despite_guard_option(parser)
    write_options(parser)


def run(args: argparse.Namespace, context: Surroundings) -> int:
    from olive_compass.cli.sharing import delivering, importing_changes

    pick.open_desk(args.desk, context)
    if args.check:
        return typed(importing_changes.check)(args, context)
    if args.import_changes:
        return typed(importing_changes.take_in)(args, context)
    return retry_on_conflict(lambda: typed(delivering.deliver)(args, context), context)
