"""``rose``: the swipes of an application, mode by mode; copies them from mode to mode."""

import argparse
from typing import Any

from olive_compass.cli import pick, words
from olive_compass.cli.completion import app_names
from olive_compass.cli.parsing import dry_run_option, json_option, scheme_option
from olive_compass.cli.saving import save, until_saved
from olive_compass.cli.surroundings import BOLD, DIM, OFF, Surroundings
from olive_compass.cli.tables import print_table
from olive_compass.core.keys.roses import bearing_name, bearings, nearest, read_bearing
from olive_compass.core.schemes.consequences import losses
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.editing import give, take_from_others
from olive_compass.core.schemes.roses import Place, copied, places, swipe
from olive_compass.errors import Refused

GROUP = "paper"
ORDER = 30
SUMMARY = "List the swipes of each mode side by side, or copy them from mode to mode"
EXAMPLES = """olive-compass rose quillmap
olive-compass rose copy quillmap draw vertex --bearing NE
olive-compass rose copy quillmap draw label --dry-run"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    argument = parser.add_argument(
        "app", metavar="APP|copy", help="an application; or copy, and then APP FROM TO"
    )
    argument.completer = app_names  # type: ignore[attr-defined]
    parser.add_argument("rest", nargs="*", metavar="APP FROM TO", help="with copy: the two modes")
    parser.add_argument("--mode", help="only this mode")
    parser.add_argument("--bearing", metavar="B", help="with copy: only this place of the rose")
    parser.add_argument(
        "--if-taken",
        choices=("replace", "stop"),
        help="with copy: the answer where a place is taken",
    )
    scheme_option(parser)
    dry_run_option(parser)
    json_option(parser)


def run(args: Any, around: Surroundings) -> int:
    if args.app == "copy":
        if len(args.rest) != 3:
            raise Refused(
                "Say what to copy.", hint="For example: olive-compass rose copy APP draw vertex"
            )
        return until_saved(lambda: _copy(args, around))
    if args.rest:
        raise Refused(
            f"“{' '.join(args.rest)}” is too much.", hint="See olive-compass rose --help."
        )
    return _list(args, around)


def _list(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    stack = at.stack(at.app_name(args.app))
    keymap = Keymap(stack, at.keyboard)
    modes = (
        [pick.mode(stack.app, args.mode)]
        if args.mode
        else [mode for mode in stack.app.modes.names if stack.app.rose(mode)]
    )
    modes = [mode for mode in modes if stack.app.rose(mode)]
    if not modes:
        raise Refused(
            f"{stack.app.title} has no rose: it takes no swipes.",
            file=f"apps/{stack.app.name}/app.toml",
            hint="Roses stand under [roses].",
        )
    found = {mode: places(keymap, mode) for mode in modes}
    if args.json:
        around.json(
            {
                "app": stack.app.name,
                "roses": {
                    mode: [
                        {
                            "bearing": bearing_name(place.bearing),
                            "command": place.command or None,
                            "title": words.title(keymap, place.command) if place.command else None,
                            "from": words.source(place.claim) if place.claim else None,
                        }
                        for place in rose
                    ]
                    for mode, rose in found.items()
                },
            }
        )
        return 0
    sizes = {stack.app.rose(mode) for mode in modes}
    empty = sum(not place.command for rose in found.values() for place in rose)
    whole = sum(len(rose) for rose in found.values())
    around.say(
        f"{BOLD}{stack.app.title}{OFF}: {whole} places in {len(modes)} roses, {empty} empty."
    )
    all_bearings = sorted({bearing for size in sizes for bearing in bearings(size)})
    rows = []
    for bearing in all_bearings:
        cells = [_cell(keymap, found[mode], bearing) for mode in modes]
        named = {cell for cell in cells if cell not in ("-", "")}
        note = "" if len(named) < 2 else "differs"
        rows.append((bearing_name(bearing), *cells, note))
    print_table(around, ("", *modes, ""), rows)
    around.say(
        f"{DIM}-: empty. To fill a place: olive-compass assign {stack.app.name} COMMAND swipe:BEARING --mode MODE{OFF}"
    )
    return 0


def _cell(keymap: Keymap, rose: list[Place], bearing: int) -> str:
    for place in rose:
        if place.bearing == bearing:
            return words.title(keymap, place.command) if place.command else "-"
    return ""


def _copy(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    stack = at.stack(at.app_name(args.rest[0]))
    app = stack.app
    origin, goal = pick.mode(app, args.rest[1]), pick.mode(app, args.rest[2])
    scheme = pick.scheme_to_write(at, stack, args.scheme)
    keymap = Keymap(stack, at.keyboard)
    only = _bearing(args.bearing, app.rose(origin)) if args.bearing else None
    wanted, impossible = copied(keymap, origin, goal, only)
    if impossible:
        size = app.rose(goal)
        near = " or ".join(map(bearing_name, nearest(impossible[0].bearing, size))) if size else ""
        raise Refused(
            f"The rose of {goal} has no {bearing_name(impossible[0].bearing)}"
            + (f"; the nearest are {near}." if size else ": it has no rose."),
            hint="Copy single places with --bearing." if size else "",
        )
    taken = [(place, there) for place, there in wanted if there and there != place.command]
    if taken and args.if_taken != "replace":
        for place, there in taken:
            around.say(
                f"{bearing_name(place.bearing)} in {goal} is {words.title(keymap, there)}; "
                f"it would be {words.title(keymap, place.command)}."
            )
        if not (around.interactive and around.ask("Replace them? [y/N]").lower() in ("y", "yes")):
            raise Refused("Places are taken; nothing was changed.", hint="Say --if-taken replace.")
    after = scheme
    lines = []
    for place, there in wanted:
        if there == place.command:
            continue
        run_ = swipe(place.bearing)
        after = give(
            take_from_others(after, keymap, place.command, run_, (goal,)),
            place.command,
            run_,
            (goal,),
        )
        lines.append(
            f"{run_} in {goal}: {words.title(keymap, place.command)}"
            + (f", was {words.title(keymap, there)}" if there else "")
            + "."
        )
    if not lines:
        around.report(f"The rose of {goal} has all of it already; nothing was changed.")
        return 0
    if args.dry_run:
        around.say("\n".join(lines) + "\nNothing was written.")
        return 0
    change = at.save_scheme(scheme, after)
    save(at, around, [change], f"{app.title}: copied {len(lines)} swipes from {origin} to {goal}")
    around.report("\n".join(lines))
    new = Keymap(stack.with_scheme(after), at.keyboard)
    for place, there in wanted:
        for loss in losses(keymap, new, swipe(place.bearing)) if there else ():
            around.report(
                f"{words.title(new, loss.command)} is left with {words.left_with(new, loss)}."
            )
    around.report("To take it back: olive-compass undo")
    return 0


def _bearing(text: str, size: int) -> int:
    bearing = read_bearing(text.removeprefix("swipe:"))
    if bearing is None or (size and bearing not in bearings(size)):
        near = (
            " or ".join(map(bearing_name, nearest(bearing, size)))
            if bearing is not None
            else "N, NE, 030"
        )
        raise Refused(f"The rose has no “{text}”; try {near}.")
    return bearing
