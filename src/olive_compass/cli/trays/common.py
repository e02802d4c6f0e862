"""What the verbs of ``tray`` share: finding a tray, its items, and words for what is said of them."""

from olive_compass.cli import pick
from olive_compass.cli.current_app import app_having, current
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import App
from olive_compass.core.apps.command_ids import slug
from olive_compass.core.apps.trays import PARTING, PREFIX, Tray
from olive_compass.core.plain import one_line
from olive_compass.core.schemes.layers import FACTORY
from olive_compass.core.trays import verdicts
from olive_compass.core.trays.verdicts import Remark
from olive_compass.core.wording import clause
from olive_compass.desk.desk import Desk
from olive_compass.desk.storage.file_names import checked_name
from olive_compass.errors import UserError


def tray_named(desk: Desk, which: str, context: Surroundings) -> tuple[App, Tray]:
    """The application and the tray that ``APP/NAME`` means, or ``NAME`` where it is on the desk once."""
    given, slash, name = which.partition("/")
    if not slash:
        name = which

        def names(app: str) -> list[str]:
            return [slug(name) for each in desk.app(app).trays if _is_called(each, name)]

        given = app_having(desk, context, slug(name), "tray", names)
    app = desk.app(desk.app_name(given))
    found = next((each for each in app.trays if _is_called(each, name)), None)
    if found is not None:
        return app, found
    from olive_compass.near import did_you_mean

    hint = did_you_mean(slug(name), [each.name for each in app.trays])
    if not app.trays:
        hint = f"Make one: olive-compass tray new {app.name}/NAME --kind KIND"
    raise UserError(
        f"{app.title} has no tray “{name}”.", hint=hint or "See them: olive-compass tray list"
    )


def _is_called(tray: Tray, name: str) -> bool:
    wanted = slug(name.removeprefix(PREFIX))
    return wanted in (tray.name, slug(tray.title))


def new_name(desk: Desk, which: str, context: Surroundings) -> tuple[App, str, str]:
    """The application, the name and the title of a tray that is to be made."""
    given, slash, title = which.partition("/")
    if not slash and (used := current(desk, context)):
        given, title = used, which
    app = desk.app(desk.app_name(given))
    title = one_line(title).strip()
    name = slug(title)
    if not name:
        raise UserError(f"“{which}” names no tray.", hint=f"Write it so: {app.name}/NAME")
    checked_name(name, "a tray", [each.name for each in app.trays])
    if any(each.name == name for each in app.trays):
        raise UserError(f"{app.title} has a tray “{name}” already; nothing was changed.")
    return app, name, title


def item(app: App, tray: Tray | None, given: str, context: Surroundings) -> str:
    """The item that a word means: one that stands on ``tray``, or any command; ``-``: a separator."""
    if given == PARTING:
        return PARTING
    if tray is not None:
        # What stands there may be gone from the catalogue, and is named by its id.
        wanted = given.casefold()
        on = [e for e in tray.items if wanted in (e.casefold(), app.shown(e).casefold())]
        on = on or [e for e in tray.items if wanted in app.shown(e).casefold()]
        if len(set(on)) == 1:
            return on[0]
        raise UserError(f"{given} is not on {tray.title}; nothing was changed.")
    return pick.command(app, given, context).id


def said_text(app: App, tray: Tray, said: Remark) -> str:
    """What is to be said of an item, in a sentence."""
    title = app.shown(said.item)
    texts = {
        verdicts.UNKNOWN: f"{app.title} has no command {said.item}",
        verdicts.REFUSED: f"a {tray.kind} of {app.title} does not take {title}: {said.about}",
        verdicts.ICON: f"a {tray.kind} of {app.title} takes only what has an icon, and {title} has none",
        verdicts.FULL: f"a {tray.kind} of {app.title} holds {said.about} items, and {tray.title} has them",
        verdicts.ITSELF: f"{title} would come to open itself",
        verdicts.THERE: f"{title} is on it already" + clause(", in {}", said.about),
        verdicts.ONE_PRESS: f"{title} also has a key: {said.about}",
        verdicts.WITHDRAWN: f"{app.title} no longer has {title}",
        verdicts.UNAVAILABLE: f"{title} cannot be started here: {said.about}",
    }
    return texts[said.what]


def way_out(app: App, said: Remark) -> str:
    """What to do where something stands against an item."""
    if said.what == verdicts.ICON:
        return f"If it has one: olive-compass app mark {app.name} {said.item} --add icon"
    if said.what in (verdicts.REFUSED, verdicts.FULL):
        return f"What its trays take is in apps/{app.name}/app.toml, [trays]."
    return ""


def layer_below(name: str) -> str:
    """The word for what a reset goes back to."""
    if name == FACTORY:
        return "as the application ships"
    return f"as the {name} has it"


#: What a tray that fills itself has in it, in words.
FILLED = {
    "recent": "used last",
    "most": "used most",
    "missing-key": "reached by menu most and without a key",
}


def place_text(place: str) -> str:
    """A place of a tray in words.

    >>> place_text("first"), place_text("before Edit")
    ('in first place', 'before Edit')
    """
    if place in ("first", "last"):
        return f"in {place} place"
    return place
