"""``press``: what a key does here, and why."""

import argparse

from olive_compass.cli import exit_status, pick
from olive_compass.cli.looking.press_words import print_answer
from olive_compass.cli.options import (
    Common,
    app_argument,
    factory_option,
    json_option,
    keys_as_option,
    mode_option,
)
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.answers.press import press
from olive_compass.core.keys.triggers import Run, Stroke
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.desk.desk import Desk
from olive_compass.desk.views import restricted
from olive_compass.errors import UserError

GROUP = "first steps"
ORDER = 60
SUMMARY = "Show what a key does in an application, and why"
EXAMPLES = """olive-compass press quillmap Ctrl+M --mode draw
olive-compass press quillmap "S M\""""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    keys = parser.add_argument(
        "keys",
        metavar="KEYS",
        nargs="?",
        help="a key or a sequence, in any spelling; ? to press it, @? by the place of its key",
    )
    # Without --live it is needed, so that a single word is the key and not the application.
    vars(keys)["least"] = 1
    parser.add_argument(
        "--live",
        action="store_true",
        help="at a terminal: answer press after press, until Escape twice",
    )
    mode_option(parser, "show this mode (default: all modes)")
    factory_option(parser)
    keys_as_option(parser)
    json_option(parser)


class PressOptions(Common, kw_only=True):
    """The options of ``press``."""

    app: str
    keys: str | None
    live: bool
    mode: str | None
    only: str | None
    keys_as: str | None
    json: bool


def run(args: PressOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    pick.show_keys(args.keys_as, context, desk, [args.app])
    stack = restricted(desk.stack(desk.app_name(args.app)), args.only)
    modes = pick.mode_or_all(stack.app, args.mode)
    keymap = Keymap(stack, desk.keyboard)
    if args.live:
        return _live(args.keys, args.json, args.mode, context, desk, keymap, modes)
    if not args.keys:
        raise UserError(
            "Key missing.",
            hint=f"For example: olive-compass press {stack.app.name} Ctrl+M",
        )
    trigger = pick.trigger(stack.app, args.keys)
    answer = press(keymap, trigger, modes)
    if args.json:
        from olive_compass.desk.reported.press import press_report

        context.json(press_report(desk, keymap, answer))
    else:
        print_answer(desk, keymap, answer, context, args.mode)
    return exit_status.found(answer.does_something)


def _live(
    keys: str | None,
    as_json: bool,
    asked_mode: str | None,
    context: Surroundings,
    desk: Desk,
    keymap: Keymap,
    modes: tuple[str, ...],
) -> int:
    """Answers press after press; where a longer run begins with one, the next stroke is waited for."""
    from olive_compass.cli.terminal import pressing

    if keys or as_json:
        raise UserError(
            f"--live reads presses; {'KEYS' if keys else '--json'} cannot be used with it."
        )
    if not context.interactive:
        raise UserError(
            "--live reads presses at a terminal, and this is none.",
            hint=f"Name the key: olive-compass press {keymap.app.name} Ctrl+M",
        )

    def goes_on(strokes: tuple[Stroke, ...]) -> float:
        waits = any(keymap.decide(Run(strokes), mode).longer for mode in modes)
        if waits:
            return pressing.wait_of(keymap.app)
        return 0.0

    context.say("Press a key; each is answered. Escape twice ends.")
    while strokes := pressing.read(context, goes_on):
        context.say()
        print_answer(desk, keymap, press(keymap, Run(strokes), modes), context, asked_mode)
        for each in strokes:
            pressing.one_to_it(context, each)
    return 0
