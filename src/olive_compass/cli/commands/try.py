"""``try``: the stand-in, a small pretend application to try keys and macros on."""

import argparse
from typing import Any

from olive_compass.cli.parsing import app_argument, dry_run_option
from olive_compass.cli.surroundings import Surroundings

GROUP = "macros"
ORDER = 10
SUMMARY = "Try keys and macros on a small pretend application, and keep a log of it"
EXAMPLES = """olive-compass try quillmap
olive-compass try quillmap --script scripts/harbour.txt
olive-compass try quillmap --mode label --document documents/quillmap/west-quay.json"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    session_options(parser)


def session_options(parser: argparse.ArgumentParser) -> None:
    """The options of a session at the stand-in."""
    parser.add_argument(
        "--script", metavar="FILE", help="do these lines; - is standard input (docs/macros.md)"
    )
    parser.add_argument("--mode", metavar="MODE", help="begin in this mode")
    parser.add_argument("--document", metavar="FILE", help="begin with this document")
    parser.add_argument("--log", metavar="FILE", help="write the log there (logs/APP-TIME.jsonl)")
    parser.add_argument("--no-log", action="store_true", help="write no log")
    dry_run_option(parser)


def run(args: Any, around: Surroundings) -> int:
    from olive_compass.cli.macros.stand_in import stand_in

    return stand_in(args, around)
