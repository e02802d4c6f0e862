"""The verbs of ``tray`` that change one: each a request of the core's ``edit_tray``."""

from collections.abc import Callable
from typing import Any, Literal

from msgspec import field

from olive_compass.cli import pick
from olive_compass.cli.changing.running import Work, execute, options_of
from olive_compass.cli.options import ChangeOptions
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.trays.common import item, new_name, tray_named
from olive_compass.cli.trays.saying import make_kind, refused, report, there, what_was_done
from olive_compass.core.apps.app import App
from olive_compass.core.apps.modes import joined
from olive_compass.core.apps.trays import FILLS, Fill, Tray
from olive_compass.core.changes import edit_tray as core
from olive_compass.core.plain import one_line
from olive_compass.core.schemes.layers import PROJECT
from olive_compass.core.wording import capital
from olive_compass.desk.desk import Desk
from olive_compass.desk.views import app_view
from olive_compass.errors import UserError
from olive_compass.structs import replace


class TrayEditOptions(ChangeOptions, kw_only=True):
    """The options of the verbs that edit a tray."""

    which: str
    layer: str | None = None
    kind: str | None = None
    place: str | list[str] = field(default_factory=list)
    fill: list[str] | None = None
    mode: list[str] | None = None
    letter: str | None = None
    project: str = ""
    why: str = ""
    items: list[str] = field(default_factory=list)
    group: str | None = None
    before: str = ""
    after: str = ""
    item: str = ""
    title: str = ""
    title_new: str | None = None
    gone: bool = False
    as_in: str = ""


def edit(args: TrayEditOptions, context: Surroundings) -> int:
    """Runs a verb that makes or edits one tray."""
    return execute(options_of(args), context, lambda desk: _prepare(args, context, desk))


def _prepare(args: TrayEditOptions, context: Surroundings, desk: Desk) -> Work:
    if args.verb == "new":
        app, tray = _new(args, context, desk)
        wanted: core.Edit = core.New()
    else:
        app, tray = tray_named(desk, args.which, context)
        wanted = _WISHES[args.verb](app, tray, args, context)
    layer = args.layer or (tray.layer if args.verb in _OF_ITS_LAYER else "personal")
    if layer == PROJECT and not tray.project:
        tray = replace(tray, project=desk.settings.project)
    view = app_view(desk, app.name)
    request = core.EditTray(
        tray=tray,
        layer=layer,
        edit=wanted,
        all=tuple(desk.trays(app.name)),
        project=desk.settings.project,
    )
    return Work(
        view=view,
        decide=lambda _answers: core.edit_tray(view, request),
        what=lambda change: (
            f"{app.title}: {there(app, tray, change) or what_was_done(app, tray, wanted)}"
        ),
        report=lambda change: report(view, tray, change),
        why=args.why,
        refused=lambda change: refused(view, tray, change.refusals[0]),
    )


#: What is done to the tray of the layer that has it now; other edits go into one's own.
_OF_ITS_LAYER = ("rename",)


def _new(args: TrayEditOptions, context: Surroundings, desk: Desk) -> tuple[App, Tray]:
    app, name, title = new_name(desk, args.which, context)
    kinds = tuple(app.rules.trays)
    # Where there is one kind only, nobody need name it.
    kind = args.kind or (kinds[0] if len(kinds) == 1 else "")
    if not kind:
        has = "It has none yet."
        if kinds:
            has = f"It has {joined(kinds)}."
        raise UserError(
            f"Kind of tray missing: --kind. {has}",
            hint=make_kind(app.name) if not kinds else "",
        )
    fill, most = _fill(args.fill)
    modes = pick.modes_for(app, next(iter(app.catalogue.commands)), args.mode) if args.mode else ()
    letter = _letter(args.letter or "none")
    tray = Tray(
        app=app.name,
        name=name,
        title=title,
        layer=args.layer or "personal",
        kind=kind,
        why=args.why,
        project=args.project,
        fill=fill,
        most=most,
        modes=modes,
        letter=letter,
    )
    return app, replace(tray, place=_place(app, str(args.place)))


def _letter(given: str) -> str:
    """An access letter; ``none``: none."""
    if given.casefold() == "none":
        return ""
    if len(given) != 1:
        raise UserError(f"“{given}” is no access letter: it is one letter, or none.")
    return given.upper()


def _place(app: App, given: str) -> str:
    from olive_compass.core.trays.counting import read_place

    menus = dict.fromkeys(c.menu[0] for c in app.catalogue.listed if c.menu)
    try:
        return read_place(given, menus)
    except ValueError as error:
        raise UserError(f"{capital(error)}.") from error


def _fill(given: list[str] | None) -> tuple[Fill | Literal[""], int]:
    from olive_compass.counts import parse_count

    if not given:
        return "", 0
    what, number = given
    fill = next((each for each in FILLS if each == what), None)
    if fill is None:
        raise UserError(
            f"A tray does not fill itself with “{what}”.", hint=f"{joined(FILLS)} it may."
        )
    if parse_count(number) < 1:
        raise UserError(f"“{number}” is no number of items.", hint="For example: --fill recent 10")
    return fill, parse_count(number)


def _add(app: App, tray: Tray, args: TrayEditOptions, context: Surroundings) -> core.Edit:
    items = tuple(item(app, None, each, context) for each in args.items)
    before, after = _beside(app, tray, args.before, args.after, context)
    return core.Add(items=items, group=args.group, before=before, after=after)


def _drop(app: App, tray: Tray, args: TrayEditOptions, context: Surroundings) -> core.Edit:
    return core.DropItems(tuple(item(app, tray, each, context) for each in args.items))


def _move(app: App, tray: Tray, args: TrayEditOptions, context: Surroundings) -> core.Edit:
    moved = item(app, tray, args.item, context)
    before, after = _beside(app, tray, args.before, args.after, context)
    return core.MoveItem(item=moved, group=args.group, before=before, after=after)


def _beside(
    app: App, tray: Tray, asked_before: str | None, asked_after: str | None, context: Surroundings
) -> tuple[str, str]:
    before = ""
    if asked_before:
        before = item(app, tray, asked_before, context)
    after = ""
    if asked_after:
        after = item(app, tray, asked_after, context)
    return before, after


def _group(_app: App, _tray: Tray, args: TrayEditOptions, _context: Surroundings) -> core.Edit:
    new = ""
    if args.title_new is not None:
        new = _named(args.title_new)
    return core.Regroup(
        title=_named(args.title), new=new, before=args.before, after=args.after, gone=args.gone
    )


def _named(given: str) -> str:
    """A title in one line, without what a terminal might act on. Raises ``UserError`` where it is empty."""
    title = one_line(given).strip()
    if not title:
        raise UserError(f"“{given}” is no title; nothing was changed.")
    return title


#: What each verb asks of the core.
_WISHES: dict[str, Callable[[App, Tray, Any, Surroundings], core.Edit]] = {
    "add": _add,
    "remove": _drop,
    "move": _move,
    "group": _group,
    "rename": lambda _app, _tray, args, _context: core.Rename(_named(args.title)),
    "place": lambda _app, _tray, args, _context: core.Stand(" ".join(args.place)),
    "letter": lambda _app, _tray, args, _context: core.Letter(_letter(args.letter)),
    "off": lambda _app, _tray, _args, _context: core.SwitchTray(True),
    "on": lambda _app, _tray, _args, _context: core.SwitchTray(False),
    "reset": lambda _app, _tray, args, _context: core.ResetTray(args.as_in, args.group or ""),
}
