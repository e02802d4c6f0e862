"""``app list`` and ``app show``."""

from collections import Counter

from olive_compass.cli import exit_status, pick
from olive_compass.cli.options import Common
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.cli.terminal.tables import print_fields, print_table
from olive_compass.core.apps.app import App
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.apps.rules import DUPLICATES_SAID
from olive_compass.core.keys.written_cells import write_cell
from olive_compass.core.schemes.deciding import Keymap


class AppListOptions(Common, kw_only=True):
    """The options of ``app list``."""

    json: bool


def list_apps(args: AppListOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    apps = [desk.app(name) for name in desk.app_names()]
    if args.json:
        context.json(
            {
                "apps": [
                    {
                        "name": app.name,
                        "title": app.title,
                        "version": app.version,
                        "commands": len(app.catalogue.commands),
                        "factory-keys": app.catalogue.key_count,
                    }
                    for app in apps
                ]
            }
        )
    elif not apps:
        context.say("No application yet. Add one: olive-compass app import NAME --from FILE")
    else:
        print_table(
            context,
            ("app", "title", "version", "commands", "factory keys", "modes"),
            [
                (
                    app.name,
                    app.title,
                    app.version,
                    str(len(app.catalogue.commands)),
                    str(app.catalogue.key_count),
                    " ".join(app.modes.names[1:]),
                )
                for app in apps
            ],
        )
    return exit_status.found(apps)


class AppShowOptions(Common, kw_only=True):
    """The options of ``app show``."""

    app: str
    json: bool


def show_app(args: AppShowOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    stack = desk.stack(desk.app_name(args.app))
    app = stack.app
    if args.json:
        from olive_compass.desk.reported.application import app_report

        context.json(app_report(app))
        return 0
    context.say(f"{BOLD}{app.heading}{OFF}")
    unreadable = (f"line {each.line} “{each.text}”" for each in app.catalogue.unreadable)
    print_fields(
        context,
        [
            ("commands", _kinds(app)),
            ("modes", _modes(app)),
            ("rules", _rules(app)),
            ("schemes", " over ".join(stack.names)),
            ("unreadable", ", ".join(unreadable)),
        ],
    )
    _print_menus(context, Keymap(stack, desk.keyboard))
    with_key = next((c for c in app.catalogue.commands if c.keys), None)
    if with_key:
        context.say(
            f"For example, {with_key.title} has {write_cell(with_key.keys)} from the factory."
        )
    return 0


def _kinds(app: App) -> str:
    """How many commands it has of each kind."""
    counts = Counter(command.kind for command in app.catalogue.commands)
    return ", ".join(f"{count} {kind}" for kind, count in counts.items())


def _modes(app: App) -> str:
    """Its modes, and which is inside which."""
    modes = [
        mode if parent == ROOT else f"{mode} (inside {parent})"
        for mode, parent in app.modes.parents.items()
    ]
    return ", ".join(modes) or "everywhere only"


def _rules(app: App) -> str:
    """What it allows, in a few words."""
    duplicates = DUPLICATES_SAID[app.rules.duplicates]
    if app.rules.longest_sequence == 1:
        return f"{duplicates}; no sequences"
    return f"{duplicates}; sequences of up to {app.rules.longest_sequence} keys"


def _print_menus(context: Surroundings, keymap: Keymap) -> None:
    """How many commands each menu has, and how many of these have a key."""
    menus: dict[str, list[int]] = {}
    for command in keymap.app.catalogue.commands:
        counts = menus.setdefault(command.menu[0] if command.menu else "(no menu)", [0, 0, 0])
        counts[0] += 1
        counts[1] += bool(command.keys)
        counts[2] += command.id in keymap.by_command
    print_table(
        context,
        ("menu", "commands", "with a factory key", "with a key now"),
        [(menu, *map(str, counts)) for menu, counts in menus.items()],
    )
