"""``app spelling``: shows how an application writes its keys, and sets it."""

from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.listings import spelt
from olive_compass.cli.saving import save, until_saved
from olive_compass.cli.surroundings import BOLD, OFF, Surroundings
from olive_compass.cli.tables import print_table
from olive_compass.core.apps.app import App
from olive_compass.core.keys.spelling import Spelling
from olive_compass.desk import app_writing
from olive_compass.desk.desk import app_path
from olive_compass.desk.records import FileChange
from olive_compass.errors import Refused


def spelling(args: Any, around: Surroundings) -> int:
    """Runs ``app spelling``."""

    def once() -> int:
        at = pick.desk(args, around)
        app = at.app(at.app_name(args.app))
        words = _spelt(app, args.spell, args.remove)
        path = app_path(app.name)
        change = FileChange(path, at.bytes(path), app_writing.with_spelling(at.bytes(path), words))
        changes = change.before != change.after
        if changes and not args.dry_run:
            save(at, around, [change], f"{app.title}: set how it writes keys")
        if args.json:
            around.json({"app": app.name, "spelling": words})
            return 0
        _print(around, app, words)
        if args.dry_run:
            around.say("Dry run: nothing was written.")
        elif changes:
            around.report("To undo: olive-compass undo")
        return 0

    return until_saved(once, around)


def _spelt(app: App, given: list[str], dropped: list[str]) -> dict[str, str]:
    """How the application writes keys, with the words that were given and without those dropped."""
    words = dict(app.spelling)
    for word in dropped:
        if word not in words:
            has = ", ".join(words) or "no word of its own"
            raise Refused(f"{app.title} does not write “{word}”.", hint=f"It has {has}.")
        del words[word]
    return words | dict(spelt(each) for each in given)


def _print(around: Surroundings, app: App, words: dict[str, str]) -> None:
    if not words:
        around.say(f"{app.title} writes keys as we do.")
        return
    around.say(f"{BOLD}{app.title}{OFF} writes")
    print_table(around, ("word", "for"), list(words.items()))
    some = next((c.keys[0] for c in app.catalogue.commands if c.keys), None)
    if some:
        around.say(f"{some} is shown as {Spelling(words).write(some)} with --keys-as app.")
