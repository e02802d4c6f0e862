"""``tray copy``: a tray in another application, by the purposes of what is on it."""

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import keep, writing_of
from olive_compass.cli.options import WriteOptions
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.trays.common import new_name, said_text, tray_named
from olive_compass.core.apps.app import App
from olive_compass.core.apps.modes import joined
from olive_compass.core.apps.trays import Tray
from olive_compass.core.changes.change import TrayEdit
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.sharing.trays import NO_PURPOSE, NOBODY, StaysBehind, carried
from olive_compass.core.wording import capital, counted
from olive_compass.desk.writing.changed_files import changed_trays
from olive_compass.errors import UserError
from olive_compass.structs import replace


class TrayCopyOptions(WriteOptions, kw_only=True):
    """The options of ``tray copy``."""

    which: str
    layer: str | None
    other: str
    kind: str | None


def copy(args: TrayCopyOptions, context: Surroundings) -> int:
    """Runs ``tray copy``."""
    desk = pick.desk(args, context)
    app, tray = tray_named(desk, args.which, context)
    given, slash, title = args.other.partition("/")
    other, name, title = new_name(desk, f"{given}/{title if slash else tray.title}", context)
    if other.name == app.name:
        raise UserError(f"{tray.title} is a tray of {app.title} already; nothing was changed.")
    kind = _kind(other, tray, args.kind)
    there = Keymap(desk.stack(other.name), desk.keyboard)
    found = carried(tray, desk.purposes, there, kind)
    after, left = found.tray, found.left
    if not after.items:
        raise UserError(
            f"Nothing on {tray.title} has a counterpart in {other.title}; nothing was changed.",
            hint=f"Link commands to purposes: olive-compass purpose guess {other.name}",
        )
    after = replace(
        after, name=name, title=title, layer=args.layer or "personal", letter="", project=""
    )
    lines = [f"{capital(_left_text(app, other, after, each))}." for each in left]
    what = (
        f"{other.title}: {kind} {title} with {counted(len(after.items), 'item')}, from {app.title}"
    )
    files = [changed_trays(desk, other.name, [TrayEdit(None, after)])]
    gone = [{"command": each.item, "why": each.why, "about": each.about} for each in left]
    fields = {"app": other.name, "name": name, "items": list(after.items), "left-out": gone}
    return keep(writing_of(args), context, desk, files, what, tuple(lines), **fields)


def _kind(other: App, tray: Tray, given: str | None) -> str:
    kinds = tuple(other.rules.trays)
    kind = given or (tray.kind if tray.kind in kinds else kinds[0] if len(kinds) == 1 else "")
    if kind in kinds:
        return kind
    has = "It has none."
    if kinds:
        has = f"It has {joined(kinds)}."
    raise UserError(
        f"{other.title} has no trays of the kind “{given or tray.kind}”. {has} Use --kind."
    )


def _left_text(app: App, other: App, tray: Tray, left: StaysBehind) -> str:
    title = app.shown(left.item)
    if left.why == NO_PURPOSE:
        return f"{title} stays behind: no purpose says what it is for"
    if left.why == NOBODY:
        return f"{title} stays behind: nothing in {other.title} serves “{left.about}”"
    assert left.said is not None
    return f"{title} stays behind: {said_text(other, tray, left.said)}"
