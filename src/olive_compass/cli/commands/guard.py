"""``guard``: says that a key must keep its meaning."""

import argparse
from typing import Any

from olive_compass.cli import pick, words
from olive_compass.cli.parsing import app_argument, change_options, scheme_option
from olive_compass.cli.saving import save_edit, until_saved
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.editing import make_guard

GROUP = "assign"
ORDER = 50
SUMMARY = "Say that a key must keep its meaning, with the reason"
EXAMPLES = """olive-compass guard quillmap Ctrl+Z --why "every visitor expects it\""""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument("key", metavar="KEY", help="the key to guard")
    parser.add_argument("--mode", action="append", metavar="MODE", help="only in this mode")
    parser.add_argument("--why", required=True, metavar="TEXT", help="the reason")
    scheme_option(parser)
    change_options(parser)


def run(args: Any, around: Surroundings) -> int:
    return until_saved(lambda: _guard(args, around))


def _guard(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    stack = at.stack(at.app_name(args.app))
    scheme = pick.scheme_to_write(at, stack, args.scheme)
    trigger = pick.trigger(stack.app, args.key)
    modes = tuple(pick.mode(stack.app, name) for name in args.mode) if args.mode else (ROOT,)
    keymap = Keymap(stack, at.keyboard)
    report = [
        f"What it keeps, in {mode}: {words.outcome_text(keymap, keymap.decide(trigger, mode))}."
        if mode != ROOT
        else f"What it keeps: {words.outcome_text(keymap, keymap.decide(trigger, mode))}."
        for mode in modes
    ]
    after = make_guard(scheme, trigger, modes, args.why)
    what = f"{stack.app.title}: {trigger} is guarded"
    return save_edit(args, around, at, scheme, after, what, report, args.why)
