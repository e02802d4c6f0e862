"""``scheme``: makes, lists, shows and chooses schemes."""

import argparse
import re
from typing import Any

from olive_compass.cli import pick, words
from olive_compass.cli.completion import app_and_scheme
from olive_compass.cli.parsing import app_argument, dry_run_option, json_option
from olive_compass.cli.saving import save, until_saved
from olive_compass.cli.surroundings import BOLD, DIM, OFF, Surroundings
from olive_compass.cli.tables import print_fields, print_table
from olive_compass.core.apps.app import App
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import SCHEME_LAYERS, Scheme
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.schemes.layers import FACTORY, Stack, in_layer_order
from olive_compass.desk import scheme_file
from olive_compass.desk.desk import DESK_FILE, Desk, app_path, scheme_path
from olive_compass.desk.desk_file import with_stack
from olive_compass.desk.history import FileChange
from olive_compass.errors import Refused

GROUP = "start"
ORDER = 40
SUMMARY = "Make a scheme on top of the factory keys; list, show and choose schemes"
EXAMPLES = """olive-compass scheme new quillmap/mine
olive-compass scheme new quillmap/night --from mine
olive-compass scheme list
olive-compass scheme use quillmap/night
olive-compass scheme stack quillmap mine house
olive-compass scheme show quillmap/mine"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    verbs = parser.add_subparsers(dest="verb", metavar="new|list|show|use|stack", required=True)
    new = verbs.add_parser("new", help="make a scheme")
    new.add_argument("which", metavar="APP/NAME")
    new.add_argument(
        "--from",
        dest="origin",
        default=FACTORY,
        metavar="NAME",
        help="start with the decisions of this scheme (factory: with none)",
    )
    new.add_argument("--layer", choices=SCHEME_LAYERS, help="the layer it belongs to (personal)")
    new.add_argument(
        "--project", default="", metavar="NAME", help="for this project only (layer project)"
    )
    dry_run_option(new)
    listing = verbs.add_parser("list", help="the schemes on this desk")
    json_option(listing)
    show = verbs.add_parser("show", help="a scheme at a glance: what differs from factory, and why")
    _which(show)
    json_option(show)
    use = verbs.add_parser("use", help="let a scheme count, in place of others of its layer")
    _which(use)
    dry_run_option(use)
    stack = verbs.add_parser("stack", help="the schemes that count, in order; named ones are set")
    app_argument(stack)
    stack.add_argument("names", nargs="*", metavar="SCHEME", help="the schemes that are to count")
    dry_run_option(stack)
    json_option(stack)


def _which(parser: argparse.ArgumentParser) -> None:
    argument = parser.add_argument("which", metavar="APP/NAME")
    argument.completer = app_and_scheme  # type: ignore[attr-defined]


def run(args: Any, around: Surroundings) -> int:
    verbs = {"new": _new, "list": _list, "show": _show, "use": _use, "stack": _stack}
    return until_saved(lambda: verbs[args.verb](args, around))


def _new(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    app, name = _app_and_name(at, args.which)
    if not re.fullmatch(r"\w[\w-]*", name) or name == FACTORY:
        raise Refused(
            f"“{name}” cannot be the name of a scheme.",
            hint="Use letters, digits, - and _; factory is taken.",
        )
    if name in at.scheme_names(app.name):
        raise Refused(f"{app.title} has a scheme “{name}” already; nothing was changed.")
    path = scheme_path(app.name, name)
    stack = at.stack(app.name)
    if args.origin == FACTORY:
        layer = args.layer or ("project" if args.project else "personal")
        based_on = f"factory {app.version}".strip()
        scheme = Scheme(app.name, name, layer, based_on, project=args.project)
        data = scheme_file.new_text(scheme)
    else:
        scheme, data = _copied(at, app, args, name)
    files = [FileChange(path, None, data)]
    counts = all(each.layer != scheme.layer for each in stack.schemes)
    if counts:
        files.append(_stack_change(at, stack, scheme))
    summary = f"{app.title}: new scheme {name}, {scheme.layer}, based on {scheme.based_on}"
    if args.dry_run:
        around.say(f"Would make {path} ({summary}). Nothing was written.")
        return 0
    save(at, around, files, summary)
    around.report(f"Made {app.name}/{name} ({path}), {scheme.layer}, based on {scheme.based_on}.")
    if counts:
        order = " over ".join([*(s.name for s in _joined(stack, scheme)), "factory"])
        around.report(f"It counts from now on: {order}.")
    else:
        around.report(f"To let it count: olive-compass scheme use {app.name}/{name}")
    return 0


def _copied(at: Desk, app: App, args: Any, name: str) -> tuple[Scheme, bytes]:
    """A copy of another scheme's file, comments and all, with its own name and layer."""
    import tomlkit

    origin = at.scheme(app, args.origin.rpartition("/")[2])
    layer = args.layer or origin.layer
    document: Any = tomlkit.parse(at.bytes(scheme_path(app.name, origin.name)).decode("utf-8-sig"))
    document["layer"] = layer
    document["based-on"] = origin.name
    scheme = origin._replace(name=name, layer=layer, based_on=origin.name)
    return scheme, tomlkit.dumps(document).encode()


def _list(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    rows = []
    for app_name in at.app_names():
        app = at.app(app_name)
        used = at.stack_names(app_name)
        for name in at.scheme_names(app_name):
            scheme = at.scheme(app, name)
            rows.append((app, scheme, name in used))
    if args.json:
        around.json(
            [
                {
                    "app": app.name,
                    "name": scheme.name,
                    "layer": scheme.layer,
                    "counts": counts,
                    "based-on": scheme.based_on,
                    "decisions": scheme.decisions,
                }
                for app, scheme, counts in rows
            ]
        )
    elif not rows:
        around.say("No scheme yet. Make one: olive-compass scheme new APP/NAME")
    else:
        print_table(
            around,
            ("scheme", "layer", "counts", "decisions", "based on"),
            [
                (
                    f"{app.name}/{scheme.name}",
                    scheme.layer,
                    "yes" if counts else "no",
                    str(scheme.decisions),
                    scheme.based_on,
                )
                for app, scheme, counts in rows
            ],
        )
    return 0 if rows else 1


def _show(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    app, name = _app_and_name(at, args.which)
    if not name:
        name = pick.scheme_to_write(at, at.stack(app.name), None).name
    scheme = at.scheme(app, name)
    stack = at.stack(app.name)
    if name not in [each.name for each in stack.schemes]:
        stack = Stack(app, (scheme,))
    keymap = Keymap(stack, at.keyboard)
    keyed = sum(bool(live_triggers(keymap, command.id)) for command in app.catalogue.commands)
    factory = sum(bool(command.keys) for command in app.catalogue.commands)
    decisions = _decisions(at, keymap, scheme)
    if args.json:
        around.json(
            {
                "app": app.name,
                "name": name,
                "layer": scheme.layer,
                "based-on": scheme.based_on,
                "file": scheme_path(app.name, name),
                "commands": len(app.catalogue.commands),
                "with-key": keyed,
                "with-factory-key": factory,
                "decisions": decisions,
            }
        )
        return 0
    around.say(
        f"{BOLD}{app.name}/{name}{OFF}, {scheme.layer}, based on {scheme.based_on or 'nothing'}"
    )
    order = " over ".join([*(each.name for each in stack.schemes), "factory"])
    count = len(app.catalogue.commands)
    print_fields(
        around,
        [
            ("file", scheme_path(app.name, name)),
            ("counts as", order if name in at.stack_names(app.name) else "does not count now"),
            ("with a key", f"{keyed} of {count} commands ({factory} from the factory alone)"),
            ("decisions", str(scheme.decisions)),
        ],
    )
    if decisions:
        around.say(f"{DIM}What differs from the layers below:{OFF}")
        print_table(
            around,
            ("decision", "command", "keys", "modes", "factory", "line", "why"),
            [
                (
                    d["decision"],
                    d["title"] or "",
                    " or ".join(d["keys"]),
                    " ".join(d["modes"]),
                    " or ".join(d["factory-keys"]) or "-" if d["command"] else "",
                    str(d["line"]),
                    d["why"],
                )
                for d in decisions
            ],
        )
    return 0


def _decisions(at: Desk, keymap: Keymap, scheme: Scheme) -> list[dict[str, Any]]:
    """Every decision of the scheme, in the file's order within each kind."""
    path = scheme_path(keymap.app.name, scheme.name)

    def entry(
        kind: str, command: str, keys: list[str], modes: tuple[str, ...], why: str, key: str
    ) -> dict[str, Any]:
        known = keymap.app.catalogue.by_id.get(command)
        return {
            "decision": kind,
            "command": command or None,
            "title": words.title(keymap, command) if command else None,
            "keys": keys,
            "modes": list(modes),
            "factory-keys": [str(run) for run in known.keys] if known else [],
            "why": why,
            "line": at.line(path, kind, key),
        }

    found = [
        entry("assign", command, [str(key) for key in each.keys], each.modes, each.why, command)
        for command, assignments in scheme.assign.items()
        for each in assignments
    ]
    found += [
        entry("bare", command, [], d.modes, d.why, command) for command, d in scheme.bare.items()
    ]
    for kind, table in (("mute", scheme.mute), ("guard", scheme.guard)):
        found += [entry(kind, "", [str(run)], d.modes, d.why, str(run)) for run, d in table.items()]
    return found


def _use(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    app, name = _app_and_name(at, args.which)
    scheme = at.scheme(app, name)
    stack = at.stack(app.name)
    change = _stack_change(at, stack, scheme)
    order = " over ".join([*(each.name for each in _joined(stack, scheme)), "factory"])
    if args.dry_run:
        around.say(f"{app.title} would go by {order}. Nothing was written.")
        return 0
    save(at, around, [change], f"{app.title}: goes by {order}")
    around.report(f"{app.title} now goes by {order}. To take it back: olive-compass undo")
    return 0


def _joined(stack: Stack, scheme: Scheme) -> tuple[Scheme, ...]:
    """The schemes that count when ``scheme`` takes the place of the others of its layer."""
    return in_layer_order([scheme, *(s for s in stack.schemes if s.layer != scheme.layer)])


def _stack_change(at: Desk, stack: Stack, scheme: Scheme) -> FileChange:
    names = tuple(each.name for each in _joined(stack, scheme))
    before = at.bytes(DESK_FILE)
    return FileChange(DESK_FILE, before, with_stack(before, stack.app.name, names))


def _app_and_name(at: Desk, which: str) -> tuple[App, str]:
    app, _, name = which.partition("/")
    found = at.app(at.app_name(app))
    return found, name.removesuffix(".toml")


def _stack(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    stack = at.stack(at.app_name(args.app))
    app = stack.app
    if args.names:
        schemes = in_layer_order([at.scheme(app, name) for name in args.names])
        before = at.bytes(DESK_FILE)
        names = tuple(scheme.name for scheme in schemes)
        change = FileChange(DESK_FILE, before, with_stack(before, app.name, names))
        order = " over ".join([*names, "factory"])
        if args.dry_run:
            around.say(f"{app.title} would go by {order}. Nothing was written.")
            return 0
        save(at, around, [change], f"{app.title}: goes by {order}")
        around.report(f"{app.title} now goes by {order}. To take it back: olive-compass undo")
        return 0
    rules = app.rules
    named = [at.scheme(app, name) for name in at.stack_names(app.name)]
    rows = [("system", "system.toml", str(len(stack.system)), "the operating system takes them")]
    rows.append(
        ("reserved", app_path(app.name), str(len(rules.reserved)), "the application keeps them")
    )
    for scheme in in_layer_order(named):
        here = scheme in stack.schemes
        note = f"project {scheme.project}" if scheme.project else ""
        note += "" if here else f" (not now: the desk's project is {at.settings.project or 'none'})"
        rows.append((scheme.layer, scheme_path(app.name, scheme.name), str(scheme.decisions), note))
    keys = sum(len(command.keys) for command in app.catalogue.commands)
    rows.append(("factory", f"apps/{app.name}/commands.csv", str(keys), "read-only"))
    rows.append(
        ("built-in", app_path(app.name), str(len(rules.built_in)), "wired, no list shows them")
    )
    if args.json:
        around.json(
            [{"layer": r[0], "file": r[1], "decisions": int(r[2]), "note": r[3]} for r in rows]
        )
        return 0
    print_table(around, ("layer", "file", "decisions", ""), rows)
    return 0
