"""``try``: the simulator, a small pretend application to try keys and macros on."""

import argparse

from olive_compass.cli.options import app_argument, session_options, typed
from olive_compass.cli.surroundings import Surroundings

GROUP = "automate"
ORDER = 20
SUMMARY = "Try keys and macros in a simulator, a small pretend application"
EXAMPLES = """olive-compass try quillmap
olive-compass try quillmap --script scripts/harbour.txt
olive-compass try quillmap --mode label --document documents/quillmap/west-quay.json"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    session_options(parser)


def run(args: argparse.Namespace, context: Surroundings) -> int:
    from olive_compass.cli.macros.simulating import simulate

    return typed(simulate)(args, context)
