"""``swipes``: the swipes of an application, mode by mode; copies them from mode to mode."""

import argparse
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.changing import saying
from olive_compass.cli.changing.running import Work, change_options, effects, execute, options_of
from olive_compass.cli.options import ChangeOptions, Common, app_argument, json_option, mode_option
from olive_compass.cli.output.new_file import Into, into_of, picture_options
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, DIM, OFF
from olive_compass.cli.terminal.tables import print_table
from olive_compass.cli.verbs import Verb
from olive_compass.core.changes.change import Change
from olive_compass.core.changes.copy_rose import NO_BEARING, Copied, CopyRose, copy_rose
from olive_compass.core.changes.view import AppView
from olive_compass.core.keys.kinds.swipe import swipe
from olive_compass.core.keys.roses import bearing_name, bearings, nearest, read_bearing
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.meanings import source_of, title_of
from olive_compass.core.schemes.roses import RosePlace, differing, places
from olive_compass.core.wording import counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.views import app_view
from olive_compass.errors import UserError
from olive_compass.structs import replace

GROUP = "look, check"
ORDER = 50
SUMMARY = "List, draw or copy the swipes of each mode"
EXAMPLES = """olive-compass swipes quillmap
olive-compass swipes quillmap --as svg --out roses.svg
olive-compass swipes copy quillmap draw vertex --direction 060 --if-taken replace
olive-compass swipes copy quillmap draw label --if-taken replace --dry-run"""


DEFAULT_VERB = "show"


def _show_options(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    mode_option(parser, "only this mode")
    picture_options(parser, "compass rose for each mode")
    json_option(parser)


def _copy_options(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument("origin", metavar="FROM", help="the mode to copy from")
    parser.add_argument("goal", metavar="TO", help="the mode to copy to")
    parser.add_argument(
        "--direction",
        dest="bearing",
        metavar="D",
        help="copy only this direction, such as NE or 030",
    )
    parser.add_argument(
        "--if-taken", choices=("replace", "stop"), help="what to do if a direction is taken"
    )
    change_options(parser)


VERBS = (
    Verb(
        name="show",
        help="list or draw the swipes, mode beside mode",
        options=_show_options,
        work="commands.swipes.show",
        retries=False,
    ),
    Verb(
        name="copy",
        help="copy the swipes of one mode into another",
        options=_copy_options,
        work="commands.swipes.copy",
        retries=False,
    ),
)


class SwipesOptions(Common, kw_only=True):
    """The options of ``swipes``."""

    app: str
    mode: str | None
    form: str
    out: str | None
    json: bool


class SwipesCopyOptions(ChangeOptions, kw_only=True):
    """The options of ``swipes copy``."""

    app: str
    origin: str
    goal: str
    bearing: str | None


def show(args: SwipesOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    return _list(desk, args.app, args.mode, args.json, into_of(args), context)


def copy(args: SwipesCopyOptions, context: Surroundings) -> int:
    stop = args.if_taken == "stop"
    return execute(options_of(args), context, lambda desk: _prepare(desk, args), stop)


def _list(
    desk: Desk, app: str, only: str | None, as_json: bool, into: Into, context: Surroundings
) -> int:
    stack = desk.stack(desk.app_name(app))
    keymap = Keymap(stack, desk.keyboard)
    modes = [mode for mode in pick.mode_or_all(stack.app, only) if stack.app.rose(mode)]
    if not modes:
        raise UserError(
            f"{stack.app.title} takes no swipes.",
            file=f"apps/{stack.app.name}/app.toml",
            hint=f"To set how many directions a mode has: olive-compass app rules {stack.app.name} --swipes MODE=8",
        )
    found = {mode: places(keymap, mode) for mode in modes}
    if not into.is_plain:
        from olive_compass.cli.output.pictures import asked_for
        from olive_compass.cli.output.rose_pictures import picture

        asked_for(into, as_json, context)
        return picture(into, context, desk, keymap, found)
    if as_json:
        roses = {mode: [_as_json(keymap, each) for each in rose] for mode, rose in found.items()}
        context.json({"app": stack.app.name, "swipes": roses})
    else:
        _print(context, keymap, found)
    return 0


def _as_json(keymap: Keymap, place: RosePlace) -> dict[str, Any]:
    """A place of a rose as JSON (docs/json.md)."""
    return {
        "direction": bearing_name(place.bearing),
        "command": place.command or None,
        "title": title_of(keymap, place.command) if place.command else None,
        "from": source_of(place.claim) if place.claim else None,
    }


def _print(context: Surroundings, keymap: Keymap, found: dict[str, list[RosePlace]]) -> None:
    """The roses side by side, a bearing a line."""
    app = keymap.app
    empty = sum(not place.command for rose in found.values() for place in rose)
    whole = sum(len(rose) for rose in found.values())
    context.say(
        f"{BOLD}{app.title}{OFF}: {counted(whole, 'direction')} in {counted(len(found), 'mode')}, {empty} empty."
    )
    sizes = {app.rose(mode) for mode in found}
    unlike = differing(found)
    rows = []
    for bearing in sorted({bearing for size in sizes for bearing in bearings(size)}):
        cells = [_cell(keymap, rose, bearing) for rose in found.values()]
        rows.append((bearing_name(bearing), *cells, "differs" if bearing in unlike else ""))
    print_table(context, ("", *found, ""), rows)
    context.say(
        f"{DIM}-: empty. To fill a place: olive-compass assign {app.name} COMMAND swipe:BEARING --mode MODE{OFF}"
    )


def _cell(keymap: Keymap, rose: list[RosePlace], bearing: int) -> str:
    for place in rose:
        if place.bearing == bearing:
            if place.command:
                return title_of(keymap, place.command)
            return "-"
    return ""


def _prepare(desk: Desk, args: SwipesCopyOptions) -> Work:
    view = app_view(desk, desk.app_name(args.app))
    app = view.app
    origin, goal = pick.mode(app, args.origin), pick.mode(app, args.goal)
    scheme = pick.scheme_to_write(desk, view.stack, args.scheme)
    only = None
    if args.bearing:
        only = _bearing(args.bearing, app.rose(origin))
    request = CopyRose(origin=origin, goal=goal, scheme=scheme, bearing=only)
    return Work(
        view=view,
        decide=lambda answers: copy_rose(view, replace(request, answers=answers)),
        what=lambda change: (
            f"{app.title}: copied {counted(len(effects(change, Copied)), 'swipe')} from {origin} "
            f"to {goal}"
        ),
        report=lambda change: _report(view, goal, change),
        refused=lambda change: _refused(view, goal, change),
    )


def _report(view: AppView, goal: str, change: Change) -> list[str]:
    lines = [
        f"{swipe(each.place.bearing)} in {goal}: {view.title(each.place.command)}"
        + (f", was {view.title(each.had)}" if each.had else "")
        + (f"; it cannot be used in {goal}" if each.useless else "")
        + "."
        for each in effects(change, Copied)
    ]
    return [*lines, *saying.plain_effects(view, change)]


def _refused(view: AppView, goal: str, change: Change) -> UserError | None:
    refusal = change.refusals[0]
    if refusal.what != NO_BEARING or not isinstance(refusal.about, RosePlace):
        return None
    size = view.app.rose(goal)
    bearing = refusal.about.bearing
    near = ""
    if size:
        near = " or ".join(map(bearing_name, nearest(bearing, size)))
    return UserError(
        f"Swipes in {goal} have no {bearing_name(bearing)}"
        + (f"; the nearest are {near}." if size else ": it takes none."),
        hint="Copy single places with --direction." if size else "",
    )


def _bearing(text: str, size: int) -> int:
    bearing = read_bearing(text.removeprefix("swipe:"))
    if bearing is None or (size and bearing not in bearings(size)):
        near = "N, NE, 030"
        if bearing is not None:
            near = " or ".join(map(bearing_name, nearest(bearing, size)))
        raise UserError(f"There is no direction “{text}”; try {near}.")
    return bearing
