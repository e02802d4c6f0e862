"""``app list`` and ``app show``."""

from olive_compass.cli import pick
from olive_compass.cli.options import Common
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.cli.terminal.tables import print_fields, print_table
from olive_compass.core.apps.app import DUPLICATES_SAID
from olive_compass.core.apps.modes import ROOT
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
                        "factory-keys": sum(len(c.keys) for c in app.catalogue.commands),
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
                    str(sum(len(c.keys) for c in app.catalogue.commands)),
                    " ".join(app.modes.names[1:]),
                )
                for app in apps
            ],
        )
    return 0 if apps else 1


class AppShowOptions(Common, kw_only=True):
    """The options of ``app show``."""

    app: str
    json: bool


def show_app(args: AppShowOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    stack = desk.stack(desk.app_name(args.app))
    app = stack.app
    keymap = Keymap(stack, desk.keyboard)
    menus: dict[str, list[int]] = {}
    for command in app.catalogue.commands:
        counts = menus.setdefault(command.menu[0] if command.menu else "(no menu)", [0, 0, 0])
        counts[0] += 1
        counts[1] += bool(command.keys)
        counts[2] += command.id in keymap.by_command
    rules = {
        "duplicates": app.rules.duplicates,
        "longest-sequence": app.rules.longest_run,
        "typed-sequences": app.rules.typed_runs,
    }
    if args.json:
        context.json(
            {
                "name": app.name,
                "title": app.title,
                "version": app.version,
                "rules": rules,
                "parents": app.modes.parents,
                "commands": [
                    {
                        "command": c.id,
                        "title": c.title,
                        "menu": list(c.menu),
                        "kind": c.kind,
                        "modes": list(c.modes),
                        "does": c.does,
                        "factory-keys": [str(k) for k in c.keys],
                    }
                    for c in app.catalogue.commands
                ],
            }
        )
        return 0
    context.say(f"{BOLD}{app.heading}{OFF}")
    kinds: dict[str, int] = {}
    for command in app.catalogue.commands:
        kinds[command.kind] = kinds.get(command.kind, 0) + 1
    if app.rules.longest_run == 1:
        run_rule = "no sequences"
    else:
        run_rule = f"sequences of up to {app.rules.longest_run} keys"
    print_fields(
        context,
        [
            ("commands", ", ".join(f"{count} {kind}" for kind, count in kinds.items())),
            (
                "modes",
                ", ".join(
                    mode if parent == ROOT else f"{mode} (inside {parent})"
                    for mode, parent in app.modes.parents.items()
                )
                or "everywhere only",
            ),
            ("rules", f"{DUPLICATES_SAID[app.rules.duplicates]}; {run_rule}"),
            ("schemes", " over ".join(stack.names)),
            (
                "unreadable",
                ", ".join(f"line {u.line} “{u.text}”" for u in app.catalogue.unreadable),
            ),
        ],
    )
    print_table(
        context,
        ("menu", "commands", "with a factory key", "with a key now"),
        [(menu, *map(str, counts)) for menu, counts in menus.items()],
    )
    with_key = next((c for c in app.catalogue.commands if c.keys), None)
    if with_key:
        context.say(
            f"For example, {with_key.title} has {write_cell(with_key.keys)} from the factory."
        )
    return 0
