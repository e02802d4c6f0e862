"""``app spelling``: shows how an application writes its keys, and sets it."""

from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.listings import spelt
from olive_compass.cli.saving import save, until_saved
from olive_compass.cli.surroundings import BOLD, OFF, Surroundings
from olive_compass.cli.tables import print_table
from olive_compass.core.keys.spelling import Spelling
from olive_compass.desk import app_writing
from olive_compass.desk.desk import app_path
from olive_compass.desk.records import FileChange
from olive_compass.errors import Refused


def spelling(args: Any, around: Surroundings) -> int:
    """Runs ``app spelling``."""
    return until_saved(lambda: _spelling(args, around), around)


def _spelling(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    app = at.app(at.app_name(args.app))
    words = dict(app.spelling)
    for word in args.drop:
        if word not in words:
            has = ", ".join(words) or "no word of its own"
            raise Refused(f"{app.title} does not write “{word}”.", hint=f"It has {has}.")
        del words[word]
    words |= dict(spelt(each) for each in args.spell)
    path = app_path(app.name)
    before = at.bytes(path)
    after = app_writing.with_spelling(before, words)
    if before != after and not args.dry_run:
        save(at, around, [FileChange(path, before, after)], f"{app.title}: how it writes keys")
    if args.json:
        around.json({"app": app.name, "spelling": words})
        return 0
    if not words:
        around.say(f"{app.title} writes keys as we do.")
    else:
        around.say(f"{BOLD}{app.title}{OFF} writes")
        print_table(around, ("word", "for"), list(words.items()))
        some = next((c.keys[0] for c in app.catalogue.commands if c.keys), None)
        if some:
            around.say(f"{some} is shown as {Spelling(words).write(some)} with --keys-as app.")
    if args.dry_run:
        around.say("Nothing was written.")
    elif before != after:
        around.report("To take it back: olive-compass undo")
    return 0
