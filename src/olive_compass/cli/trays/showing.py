"""``tray list`` and ``tray show``: what stands on a tray, and why, now."""

from olive_compass.cli import exit_status, pick
from olive_compass.cli.looking.tallies import tally_or_logs
from olive_compass.cli.options import Common
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, DIM, OFF, YELLOW, width_of
from olive_compass.cli.terminal.tables import print_fields, print_table
from olive_compass.cli.trays.common import FILLED, place_text, said_text, tray_named
from olive_compass.core.apps.app import App
from olive_compass.core.apps.modes import joined
from olive_compass.core.apps.trays import PARTING, Tray
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.trays.filling import PINNED, Filled, filled
from olive_compass.core.trays.verdicts import Remark, kind_of_tray, of_item
from olive_compass.core.wording import capital, counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats.tray_file import table_of, tray_path
from olive_compass.desk.reported.trays import TrayReport, tray_report, tray_shown


class TrayListOptions(Common, kw_only=True):
    """The options of ``tray list``."""

    app: str | None
    json: bool


def list_trays(args: TrayListOptions, context: Surroundings) -> int:
    """Runs ``tray list``."""
    desk = pick.desk(args, context)
    rows = []
    for stack in pick.stacks(desk, args.app):
        # Most applications have no tray: their keys need not be worked out.
        keymap = None
        if stack.app.trays:
            keymap = Keymap(stack, desk.keyboard)
        for tray in stack.app.trays:
            assert keymap is not None
            rows.append(tray_report(desk, keymap, tray))
    if args.json:
        context.json({"trays": rows})
    elif not rows:
        context.say("No tray yet. Make one: olive-compass tray new APP/NAME --kind KIND")
    else:
        head = ("tray", "title", "kind", "place", "items", "layer", "keys", "")
        print_table(context, head, [_row(row) for row in rows])
    return exit_status.found(rows)


def _row(row: TrayReport) -> tuple[str, ...]:
    if row.fill:
        items = f"{row.most} {row.fill}"
    else:
        items = str(len(row.items))
    return (
        f"{row.app}/{row.name}",
        row.title,
        row.kind,
        row.place,
        items,
        row.layer,
        ", ".join(row.keys),
        "off" if row.off else "",
    )


class TrayShowOptions(Common, kw_only=True):
    """The options of ``tray show``."""

    which: str
    json: bool


def show_tray(args: TrayShowOptions, context: Surroundings) -> int:
    """Runs ``tray show``: with what has filled it, where it fills itself."""
    desk = pick.desk(args, context)
    app, tray = tray_named(desk, args.which, context)
    keymap = Keymap(desk.stack(app.name), desk.keyboard)
    now = filled(tray, tally_or_logs(desk, app, context), keymap) if tray.fill else ()
    said = [each for item in tray.items for each in of_item(keymap, tray, item)]
    if args.json:
        context.json(tray_shown(desk, keymap, tray, now, said))
        return 0
    _print(context, desk, keymap, tray)
    wide = max([width_of(app.shown(item)) for item in tray.items], default=0)
    for group in tray.groups:
        _print_group(context, keymap, tray, group.title, group.items, said, wide)
    if tray.fill:
        _print_filled(context, app, now)
    steps = kind_of_tray(app, tray).steps
    context.say(f"{DIM}{counted(steps, 'click')} to an item.{OFF}")
    return 0


def _print(context: Surroundings, desk: Desk, keymap: Keymap, tray: Tray) -> None:
    app = keymap.app
    path = tray_path(app.name)
    line = desk.line(path, table_of(tray), "")
    context.say(
        f"{BOLD}{tray.title}{OFF}, {tray.kind} of {app.title}, {place_text(tray.place)} "
        f"{DIM}({tray.layer}; {path}:{line}){OFF}"
    )
    opened = _opened_by(keymap, tray)
    fills = ""
    if tray.fill:
        fills = f"itself, with the {tray.most} {FILLED[tray.fill]}"
    print_fields(
        context,
        [
            ("command", tray.id),
            ("opened by", joined(opened)),
            ("", "" if opened else "nothing opens it"),
            ("fills", fills + (f", from {joined(tray.modes)}" if tray.modes and fills else "")),
            ("state", "turned off" if tray.off else ""),
            ("project", tray.project),
            ("why", tray.why),
        ],
    )


def _print_group(
    context: Surroundings,
    keymap: Keymap,
    tray: Tray,
    title: str,
    items: tuple[str, ...],
    said: list[Remark],
    wide: int,
) -> None:
    """The items of a group under its title: the menu and the keys that each has besides."""
    app = keymap.app
    context.say(f"\n{BOLD}{title}{OFF}" if title else "")
    if not items:
        context.say(f"  {DIM}nothing yet{OFF}")
    for item in items:
        if item == PARTING:
            context.say(f"  {DIM}{'-' * 12}{OFF}")
            continue
        known = app.catalogue.by_id.get(item)
        route = ""
        if known:
            route = " > ".join(known.menu)
        keys = ", ".join(map(str, live_triggers(keymap, item)))
        name = app.shown(item)
        gap = " " * (wide - width_of(name))
        context.say(f"  {name}{gap}  {keys or '-':<12}  {DIM}{route}{OFF}".rstrip())
        for each in said:
            # That a key does it at one press is shown already: the key stands beside the item.
            if each.item == item and each.what != "one-press":
                context.say(f"    {YELLOW}{capital(said_text(app, tray, each))}.{OFF}")


def _print_filled(context: Surroundings, app: App, now: tuple[Filled, ...]) -> None:
    context.say(f"\n{BOLD}What is in it now{OFF}")
    if not now:
        context.say("  Nothing: no log of this application has anything for it.")
        return
    why = {PINNED: "pinned", "recent": "recent", "most": "often", "missing-key": "no key"}
    rows = [
        (
            str(n),
            app.shown(each.item),
            why[each.why],
            counted(each.times, "time") if each.times else "",
            each.last[:16].replace("T", " "),
        )
        for n, each in enumerate(now, 1)
    ]
    print_table(context, ("no.", "title", "why", "used", "last"), rows)


def _opened_by(keymap: Keymap, tray: Tray) -> list[str]:
    """What opens a tray: its keys, what its kind has, its access letter."""
    opened = []
    if keys := live_triggers(keymap, tray.id):
        opened.append(joined(map(str, keys)))
    letter = ""
    if tray.letter and keymap.app.rules.letters_open_menus:
        letter = f"Alt {tray.letter}"
    opens = kind_of_tray(keymap.app, tray).opens
    if opens == "view":
        return [*opened, "always in view"]
    if opens == "click":
        return [*opened, ", ".join(filter(None, ("a click on it", letter)))]
    return list(filter(None, (*opened, letter)))
