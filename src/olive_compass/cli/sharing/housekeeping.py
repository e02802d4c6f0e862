"""``house``: the studio's schemes and key sets from a folder or a git repository."""

import os

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import keep, writing_of
from olive_compass.cli.options import Common, WriteOptions
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.schemes.layers import HOUSE
from olive_compass.desk import git as real_git
from olive_compass.desk.formats.desk_file import with_house
from olive_compass.desk.paths import DESK_FILE
from olive_compass.desk.storage.records import FileChange
from olive_compass.errors import UserError


class HouseFromOptions(WriteOptions, kw_only=True):
    """The options of ``house from``."""

    source: str


def house_from(args: HouseFromOptions, context: Surroundings) -> int:
    """Runs ``house from``: remembers where the house's keys come from."""
    desk = pick.desk(args, context)
    # Read before it is changed: what is wrong in it is said with its line.
    _ = desk.settings
    path = os.path.join(context.folder, os.path.expanduser(args.source))
    is_git = real_git.is_source(args.source, path)
    if not is_git and not os.path.isdir(path):
        raise UserError(
            f"There is no folder “{args.source}”, and it is no address of a repository."
        )
    # The desk may be opened from another folder next time.
    if os.path.exists(path):
        source = os.path.abspath(path)
    else:
        source = args.source
    before = desk.bytes(DESK_FILE)
    after = with_house(before, {"from": source.replace(os.sep, "/"), "pulled": ""})
    kind = "folder"
    if is_git:
        kind = "repository"
    what = f"House: set the source to the {kind} {source}"
    lines = ("To see what they change, and import them: olive-compass house pull",)
    return keep(
        writing_of(args), context, desk, [FileChange(DESK_FILE, before, after)], what, lines
    )


class HouseShowOptions(Common, kw_only=True):
    """The options of ``house show``."""

    json: bool


def show_house(args: HouseShowOptions, context: Surroundings) -> int:
    """Runs ``house show``."""
    desk = pick.desk(args, context)
    schemes = [
        f"{app}/{name}"
        for app in desk.app_names()
        for name in desk.scheme_names(app)
        if desk.scheme(desk.app(app), name).layer == HOUSE
    ]
    settings = desk.settings
    if args.json:
        context.json(
            {"from": settings.house or None, "pulled": settings.pulled or None, "schemes": schemes}
        )
        return 0
    if not settings.house:
        context.say("The house's keys come from nowhere else: olive-compass house from FOLDER")
    else:
        context.say(f"From {settings.house}, last pulled {settings.pulled or 'never'}.")
    context.say(f"Schemes of the house here: {', '.join(schemes) or 'none'}.")
    return 0


class HouseOffOptions(WriteOptions, kw_only=True):
    """The options of ``house off``."""


def house_off(args: HouseOffOptions, context: Surroundings) -> int:
    """Runs ``house off``: forgets the source; what was pulled stays."""
    desk = pick.desk(args, context)
    _ = desk.settings
    before = desk.bytes(DESK_FILE)
    after = with_house(before, {})
    what = "House: removed the source"
    lines = ("What was pulled stays.",)
    return keep(
        writing_of(args), context, desk, [FileChange(DESK_FILE, before, after)], what, lines
    )
