"""``choice``: the order in which an application offers the commands that share a key."""

import argparse
from typing import Any

from olive_compass.cli import pick, words
from olive_compass.cli.parsing import app_argument, change_options, json_option, scheme_option
from olive_compass.cli.saving import save_edit, until_saved
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.tables import print_table
from olive_compass.core.schemes.deciding import CHOICE, Keymap
from olive_compass.errors import Refused

GROUP = "assign"
ORDER = 55
SUMMARY = "Show the keys that commands share, or put the candidates of one in order"
EXAMPLES = """olive-compass choice quillmap
olive-compass choice quillmap F9 lines.join plate.preview"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument("key", nargs="?", metavar="KEY", help="the key that is shared")
    parser.add_argument(
        "order", nargs="*", metavar="COMMAND", help="its candidates, the first first"
    )
    scheme_option(parser)
    change_options(parser)
    json_option(parser)


def run(args: Any, around: Surroundings) -> int:
    return until_saved(lambda: _choice(args, around))


def _choice(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    stack = at.stack(at.app_name(args.app))
    keymap = Keymap(stack, at.keyboard)
    if not args.order:
        return _list(args, around, keymap)
    scheme = pick.scheme_to_write(at, stack, args.scheme)
    trigger = pick.trigger(stack.app, args.key)
    wanted = [pick.command(stack.app, name, around).id for name in args.order]
    press = keymap.keyboard.press_of(trigger)
    offered = {
        claim.command
        for mode in stack.app.modes.names
        if len(winners := keymap.winners(press, mode)) > 1
        for claim in winners
    }
    strangers = [command for command in wanted if command not in offered]
    if strangers:
        raise Refused(
            f"{trigger} does not offer {words.title(keymap, strangers[0])}; nothing was changed.",
            hint="It offers " + ", ".join(sorted(offered)) + "."
            if offered
            else "Share it first: olive-compass assign ... --if-taken share",
        )
    rest = [command for command in sorted(offered) if command not in wanted]
    after = scheme._replace(order={**scheme.order, trigger: (*wanted, *rest)})
    titles = " > ".join(words.title(keymap, command) for command in (*wanted, *rest))
    what = f"{stack.app.title}: {trigger} offers {titles}"
    return save_edit(args, around, at, scheme, after, what, [])


def _list(args: Any, around: Surroundings, keymap: Keymap) -> int:
    wanted = keymap.keyboard.press_of(pick.trigger(keymap.app, args.key)) if args.key else None
    rows = []
    for press in keymap.buckets:
        if wanted not in (None, press):
            continue
        together: dict[tuple[str, ...], list[str]] = {}
        for mode in keymap.app.modes.names:
            outcome = keymap.decide_press(press, mode)
            if outcome.what == CHOICE:
                ids = tuple(claim.command for claim in outcome.winners)
                together.setdefault(ids, []).append(mode)
        key = str(keymap.buckets[press][0].trigger)
        rows += [(key, ids, modes) for ids, modes in together.items()]
    if args.json:
        around.json(
            [{"key": key, "modes": modes, "commands": list(ids)} for key, ids, modes in rows]
        )
    elif not rows:
        around.say(
            f"No key of {keymap.app.title} is shared" + (f" by {args.key}." if args.key else ".")
        )
    else:
        print_table(
            around,
            ("key", "where", "offers, in this order"),
            [
                (
                    key,
                    keymap.app.modes.phrase(modes),
                    ", ".join(words.title(keymap, command) for command in ids),
                )
                for key, ids, modes in rows
            ],
        )
    return 0 if rows else 1
