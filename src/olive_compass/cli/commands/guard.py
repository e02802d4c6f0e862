"""``guard``: says that a key must keep its meaning."""

import argparse

from olive_compass.cli import pick, words
from olive_compass.cli.changing.running import Work, change_options, effects, execute, options_of
from olive_compass.cli.options import ChangeOptions, app_argument, modes_option, why_option
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.changes.change import Change
from olive_compass.core.changes.guard import Guard, Keeps, guard
from olive_compass.core.changes.view import AppView
from olive_compass.desk.desk import Desk
from olive_compass.desk.views import app_view
from olive_compass.structs import replace

GROUP = "change"
ORDER = 60
SUMMARY = "Protect what a key does from changes, and record why"
EXAMPLES = """olive-compass guard quillmap Ctrl+Z --why "every visitor expects it\""""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument("key", metavar="KEY", help="the key to guard")
    modes_option(parser)
    why_option(parser)
    change_options(parser, asks=False)


class GuardOptions(ChangeOptions, kw_only=True):
    """The options of ``guard``."""

    app: str
    key: str
    mode: list[str] | None
    why: str


def run(args: GuardOptions, context: Surroundings) -> int:
    return execute(options_of(args), context, lambda desk: _prepare(desk, args))


def _prepare(desk: Desk, args: GuardOptions) -> Work:
    view = app_view(desk, desk.app_name(args.app))
    scheme = pick.scheme_to_write(desk, view.stack, args.scheme)
    trigger = pick.trigger(view.app, args.key)
    modes = pick.modes(view.app, args.mode)
    request = Guard(trigger=trigger, modes=modes, scheme=scheme, why=args.why)
    return Work(
        view=view,
        decide=lambda answers: guard(view, replace(request, answers=answers)),
        what=lambda _change: f"{view.app.title}: {trigger} is guarded",
        report=lambda change: _report(view, change),
        why=args.why,
    )


def _report(view: AppView, change: Change) -> list[str]:
    kept: dict[str, list[str]] = {}
    for each in effects(change, Keeps):
        text = words.outcome_text(view.keymap, each.outcome)
        kept.setdefault(text, []).append(each.mode)
    if len(kept) == 1:
        return [f"It protects: {text}." for text in kept]
    return [f"It protects {view.app.modes.phrase(modes)}: {text}." for text, modes in kept.items()]
