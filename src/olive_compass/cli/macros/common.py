"""What the verbs of ``macro`` share: finding a macro, saving one, refusing what cannot be."""

from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import Writing, keep
from olive_compass.cli.current_app import app_having, current
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import App
from olive_compass.core.apps.command_ids import slug
from olive_compass.core.macros.calling import self_start
from olive_compass.core.macros.macro import Macro
from olive_compass.core.macros.playing import World, world_of
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.desk.desk import Desk
from olive_compass.desk.paths import macro_path
from olive_compass.desk.storage.file_names import checked_name
from olive_compass.desk.storage.records import FileChange
from olive_compass.errors import UserError


def macro_named(desk: Desk, which: str, context: Surroundings) -> tuple[App, Macro]:
    """The application and the macro that ``APP/NAME`` means, or ``NAME`` where it is on the desk once."""
    given, slash, name = which.partition("/")
    if not slash:
        name = which
        plain = slug(name.removesuffix(".toml"))
        given = app_having(desk, context, plain, "macro", desk.macros)
    app = desk.app(desk.app_name(given))
    macros = desk.macros(app.name)
    wanted = slug(name.removesuffix(".toml"))
    if wanted in macros:
        return app, macros[wanted]
    by_title = [macro for macro in macros.values() if slug(macro.title) == wanted and wanted]
    if len(by_title) == 1:
        return app, by_title[0]
    from olive_compass.near import nearest

    near = nearest(wanted, macros)
    hint = "See them: olive-compass macro list"
    if near:
        hint = f"Did you mean {app.name}/{near}?"
    if not macros:
        hint = f"Record one: olive-compass macro record {app.name}/NAME"
    raise UserError(f"{app.title} has no macro “{name}”.", hint=hint)


def new_name(desk: Desk, which: str, context: Surroundings) -> tuple[App, str, str]:
    """The application, file name and title of a macro that is to be made."""
    given, slash, title = which.partition("/")
    if not slash and (used := current(desk, context)):
        given, title = used, which
    app = desk.app(desk.app_name(given))
    title = " ".join(title.split())
    name = slug(title)
    if not name:
        raise UserError(f"“{which}” names no macro.", hint=f"Write it so: {app.name}/NAME")
    checked_name(name, "a macro", desk.macros(app.name))
    if name in desk.macros(app.name):
        raise UserError(
            f"{app.title} has a macro “{name}” already; nothing was changed.",
            file=macro_path(app.name, name),
        )
    return app, name, title


def save_changes(
    how: Writing,
    context: Surroundings,
    desk: Desk,
    changes: list[FileChange],
    what: str,
    lines: list[str],
    **fields: Any,
) -> int:
    """Saves changes to macros and reports them; with ``--dry-run`` only says what would be.

    ``fields`` stand in the JSON beside what every writing command gives.
    """
    return keep(how, context, desk, changes, what, tuple(lines), **fields)


def world(desk: Desk, app: App) -> tuple[World, Keymap]:
    """What a play may use on this desk, and the keys that count."""
    keymap = Keymap(desk.stack(app.name), desk.keyboard)
    return world_of(keymap, desk.macros(app.name)), keymap


def refuse_self_call(desk: Desk, keymap: Keymap, macro: Macro) -> None:
    """Raises ``UserError`` where ``macro``, as it would be, comes to play itself."""
    macros = {**desk.macros(macro.app), macro.name: macro}
    if way := self_start(keymap, macros, macro):
        raise refuse_self_start(macro, tuple(macros[name].title for name in way))


def refuse_self_start(macro: Macro, titles: tuple[str, ...]) -> UserError:
    """What is said of a macro that would come to play itself, with the titles on the way."""
    return UserError(
        f"{macro.title} would start itself: {' > '.join(titles)}; nothing was changed.",
        file=macro_path(macro.app, macro.name),
    )


def stack_app(desk: Desk, given: str) -> App:
    """The application that a word means."""
    return pick.stacks(desk, given)[0].app
