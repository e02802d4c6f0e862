"""``app spelling``: shows how an application writes its keys, and sets it."""

import argparse

from olive_compass.cli import pick
from olive_compass.cli.changing.saving import save
from olive_compass.cli.intake.reading import spelt
from olive_compass.cli.options import WriteOptions, app_argument, write_options
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.cli.terminal.tables import print_table
from olive_compass.core.apps.app import App
from olive_compass.core.keys.spelling import Spelling
from olive_compass.desk.formats import app_writing
from olive_compass.desk.paths import app_path
from olive_compass.errors import UserError


def options(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument(
        "--spell",
        action="append",
        default=[],
        metavar="WORD=OURS",
        help="a word of the application and what it means, such as 'C-=Ctrl+' or Sft=Shift",
    )
    parser.add_argument(
        "--remove",
        action="append",
        default=[],
        metavar="WORD",
        help="a word to remove",
    )
    write_options(parser)


class AppSpellingOptions(WriteOptions, kw_only=True):
    """The options of ``app spelling``."""

    app: str
    spell: list[str]
    remove: list[str]


def spelling(args: AppSpellingOptions, context: Surroundings) -> int:
    """Runs ``app spelling``."""

    desk = pick.desk(args, context)
    app = desk.app(desk.app_name(args.app))
    words = _spelt(app, args.spell, args.remove)
    path = app_path(app.name)
    change = desk.change_of(path, app_writing.with_spelling(desk.bytes(path), words))
    changes = change.before != change.after
    if changes and not args.dry_run:
        save(desk, context, [change], f"{app.title}: set how it writes keys")
    if args.json:
        context.json({"app": app.name, "spelling": words})
        return 0
    _print(context, app, words)
    if args.dry_run:
        context.say("Dry run: nothing was written.")
    elif changes:
        context.report("To undo: olive-compass undo")
    return 0


def _spelt(app: App, given: list[str], dropped: list[str]) -> dict[str, str]:
    """How the application writes keys, with the words that were given and without those dropped."""
    words = dict(app.spelling)
    for word in dropped:
        if word not in words:
            has = ", ".join(words) or "no word of its own"
            raise UserError(f"{app.title} does not write “{word}”.", hint=f"It has {has}.")
        del words[word]
    return words | dict(spelt(each) for each in given)


def _print(context: Surroundings, app: App, words: dict[str, str]) -> None:
    if not words:
        context.say(f"{app.title} writes keys as we do.")
        return
    context.say(f"{BOLD}{app.title}{OFF} writes")
    print_table(context, ("word", "for"), list(words.items()))
    some = next((c.keys[0] for c in app.catalogue.commands if c.keys), None)
    if some:
        context.say(f"{some} is shown as {Spelling(words).write(some)} with --keys-as app.")
