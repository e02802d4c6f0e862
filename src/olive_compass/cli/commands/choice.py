"""``choice``: the order in which an application offers the commands that share a key."""

import argparse

from olive_compass.cli import exit_status, pick
from olive_compass.cli.changing.running import Work, change_options, effects, execute, options_of
from olive_compass.cli.options import ChangeOptions, app_argument
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.tables import print_table
from olive_compass.core.answers.choices import offered
from olive_compass.core.changes.change import Change
from olive_compass.core.changes.choice import Choice, Offers, Stranger, choice
from olive_compass.core.changes.view import AppView
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.meanings import title_of
from olive_compass.core.wording import clause
from olive_compass.desk.desk import Desk
from olive_compass.desk.views import app_view
from olive_compass.errors import UserError
from olive_compass.structs import replace

GROUP = "change"
ORDER = 80
SUMMARY = "List shared keys, or set the order in which an app offers commands"
EXAMPLES = """olive-compass choice quillmap
olive-compass choice quillmap F9 lines.join plate.preview"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument("key", nargs="?", metavar="KEY", help="the key that is shared")
    parser.add_argument(
        "order",
        nargs="*",
        metavar="COMMAND",
        help="the commands, in the order in which they are offered",
    )
    change_options(parser, asks=False)


class ChoiceOptions(ChangeOptions, kw_only=True):
    """The options of ``choice``."""

    app: str
    key: str | None
    order: list[str]


def run(args: ChoiceOptions, context: Surroundings) -> int:
    if not args.order:
        desk = pick.desk(args, context)
        return _list(
            args.key, args.json, context, Keymap(desk.stack(desk.app_name(args.app)), desk.keyboard)
        )
    app, key, order, scheme = args.app, args.key or "", tuple(args.order), args.scheme
    return execute(
        options_of(args), context, lambda desk: _prepare(desk, context, app, key, order, scheme)
    )


def _prepare(
    desk: Desk, context: Surroundings, app: str, key: str, order: tuple[str, ...], named: str | None
) -> Work:
    view = app_view(desk, desk.app_name(app))
    scheme = pick.scheme_to_write(desk, view.stack, named)
    trigger = pick.trigger(view.app, key)
    wanted = tuple(pick.command(view.app, name, context).id for name in order)
    request = Choice(trigger=trigger, commands=wanted, scheme=scheme)
    return Work(
        view=view,
        decide=lambda answers: choice(view, replace(request, answers=answers)),
        what=lambda change: _what(view, change),
        report=lambda _change: [],
        refused=lambda change: _refused(view, trigger, change),
    )


def _what(view: AppView, change: Change) -> str:
    (offers,) = effects(change, Offers)
    titles = " > ".join(view.title(command) for command in offers.commands)
    return f"{view.app.title}: {offers.trigger} offers {titles} now"


def _refused(view: AppView, trigger: Run, change: Change) -> UserError:
    stranger = change.refusals[0].about
    assert isinstance(stranger, Stranger)
    return UserError(
        f"{trigger} does not offer {view.title(stranger.command)}; nothing was changed.",
        hint="It offers " + ", ".join(stranger.offered) + "."
        if stranger.offered
        else "Share it first: olive-compass assign ... --if-taken share",
    )


def _list(text: str | None, as_json: bool, context: Surroundings, keymap: Keymap) -> int:
    wanted = None
    if text:
        wanted = keymap.keyboard.press_of(pick.trigger(keymap.app, text))
    rows = []
    for press in keymap.buckets:
        if wanted in (None, press):
            key = str(keymap.buckets[press][0].trigger)
            rows += [(key, ids, modes) for ids, modes in offered(keymap, press).items()]
    if as_json:
        choices = [{"key": key, "modes": modes, "commands": list(ids)} for key, ids, modes in rows]
        context.json({"choices": choices})
    elif not rows:
        context.say(f"No key of {keymap.app.title} is shared{clause(' by {}', text)}.")
    else:
        lines = []
        for key, ids, modes in rows:
            titles = ", ".join(title_of(keymap, command) for command in ids)
            lines.append((key, keymap.app.modes.phrase(modes), titles))
        print_table(context, ("key", "where", "offers, in this order"), lines)
    return exit_status.found(rows)
