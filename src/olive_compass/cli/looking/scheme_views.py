"""What ``scheme`` shows: the list, one scheme at a glance, and the layers that count."""

from collections.abc import Iterator
from typing import Any

from msgspec import Struct
from msgspec.structs import asdict

from olive_compass.cli import exit_status, pick, words
from olive_compass.cli.options import Common
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, DIM, OFF
from olive_compass.cli.terminal.tables import print_fields, print_table
from olive_compass.core.apps.menu_letters import menu_openers
from olive_compass.core.schemes.claims import Stack, in_layer_order
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.schemes.layers import FACTORY, MENUS, RESERVED, SYSTEM, UNLISTED
from olive_compass.core.wording import clause, yes_or_no
from olive_compass.desk.desk import Desk
from olive_compass.desk.paths import SYSTEM_FILE, app_path, catalogue_path, scheme_path
from olive_compass.desk.time_saved import seconds_saved_by_scheme


class SchemeListOptions(Common, kw_only=True):
    """The options of ``scheme list``."""

    json: bool


def list_schemes(args: SchemeListOptions, context: Surroundings) -> int:
    """Runs ``scheme list``."""
    desk = pick.desk(args, context)
    rows = []
    for app_name in desk.app_names():
        app = desk.app(app_name)
        used = desk.stack_names(app_name)
        for name in desk.scheme_names(app_name):
            scheme = desk.scheme(app, name)
            rows.append((app, scheme, name in used))
    if args.json:
        context.json(
            {
                "schemes": [
                    {
                        "app": app.name,
                        "name": scheme.name,
                        "layer": scheme.layer,
                        "in-the-stack": counts,
                        "based-on": scheme.based_on,
                        "decisions": scheme.decisions,
                    }
                    for app, scheme, counts in rows
                ]
            }
        )
    elif not rows:
        context.say("No scheme yet. Make one: olive-compass scheme new APP/NAME")
    else:
        print_table(
            context,
            ("scheme", "layer", "counts", "decisions", "based on"),
            [
                (
                    f"{app.name}/{scheme.name}",
                    scheme.layer,
                    yes_or_no(counts),
                    str(scheme.decisions),
                    scheme.based_on,
                )
                for app, scheme, counts in rows
            ],
        )
    return exit_status.found(rows)


class SchemeShowOptions(Common, kw_only=True):
    """The options of ``scheme show``."""

    which: str
    json: bool


def show_scheme(args: SchemeShowOptions, context: Surroundings) -> int:
    """Runs ``scheme show``."""
    desk = pick.desk(args, context)
    app, name = pick.app_and_scheme(desk, args.which, context)
    if not name:
        name = pick.scheme_to_write(desk, desk.stack(app.name), None).name
    scheme = desk.scheme(app, name)
    stack = desk.stack(app.name)
    # A scheme that does not count now is shown as if it were the only one.
    if name not in stack.scheme_names:
        stack = Stack(app, (scheme,))
    keymap = Keymap(stack, desk.keyboard)
    commands = app.catalogue.commands
    counts = _Counts(
        commands=len(commands),
        keyed=sum(bool(live_triggers(keymap, command.id)) for command in commands),
        factory=app.catalogue.keyed_count,
    )
    decisions = _decisions(desk, keymap, scheme)
    saved = seconds_saved_by_scheme(desk, keymap, scheme)
    if args.json:
        context.json(_as_json(scheme, counts, saved, decisions))
        return 0
    context.say(
        f"{BOLD}{app.name}/{name}{OFF}, {scheme.layer}, based on {scheme.based_on or 'nothing'}"
    )
    _print_about(context, desk, keymap, scheme, counts, saved)
    if decisions:
        context.say(f"{DIM}What differs from the layers below:{OFF}")
        headings = ("decision", "command", "keys", "modes", "factory", "line", "why")
        print_table(context, headings, list(map(_decision_row, decisions)))
    return 0


def _decision_row(decision: dict[str, Any]) -> tuple[str, ...]:
    factory = ""
    if decision["command"]:
        factory = " or ".join(decision["factory-keys"]) or "-"
    return (
        decision["decision"],
        decision["title"] or "",
        " or ".join(decision["keys"]),
        " ".join(decision["modes"]),
        factory,
        str(decision["line"]),
        decision["why"],
    )


class _Counts(Struct, frozen=True, kw_only=True):
    """How many commands there are, how many have a key with a scheme, and how many have one from the factory."""

    commands: int
    keyed: int
    factory: int


def _as_json(
    scheme: Scheme, counts: _Counts, saved: float | None, decisions: list[dict[str, Any]]
) -> dict[str, Any]:
    """A scheme as JSON (docs/json.md)."""
    return {
        "app": scheme.app,
        "name": scheme.name,
        "layer": scheme.layer,
        "based-on": scheme.based_on,
        "file": scheme_path(scheme.app, scheme.name),
        "commands": counts.commands,
        "with-key": counts.keyed,
        "with-factory-key": counts.factory,
        **({} if saved is None else {"saves": saved}),
        "decisions": decisions,
    }


def _print_about(
    context: Surroundings,
    desk: Desk,
    keymap: Keymap,
    scheme: Scheme,
    counts: _Counts,
    saved: float | None,
) -> None:
    """Where a scheme is and counts, how many commands have a key by it, and what it saves."""
    counts_as = "does not count now"
    if scheme.name in desk.stack_names(scheme.app):
        counts_as = " over ".join(keymap.stack.names)
    of = f"{counts.commands} commands ({counts.factory} from the factory alone)"
    fields = [
        ("file", scheme_path(scheme.app, scheme.name)),
        ("counts as", counts_as),
        ("with a key", f"{counts.keyed} of {of}"),
        ("decisions", str(scheme.decisions)),
    ]
    if saved is not None:
        from olive_compass.cli.looking.tallies import saying

        could = seconds_saved_by_scheme(desk, keymap, scheme, by_key=True) or 0.0
        fields += [
            ("savings", f"{saying(saved)} as hands go now, against the layers without it"),
            ("could be", f"{saying(could)} if every key were pressed"),
        ]
    print_fields(context, fields)


def _decisions(desk: Desk, keymap: Keymap, scheme: Scheme) -> list[dict[str, Any]]:
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
            "line": desk.line(path, kind, key),
        }

    found = [
        entry("assign", command, list(map(str, each.keys)), each.modes, each.why, command)
        for command, assignments in scheme.assign.items()
        for each in assignments
    ]
    found += [
        entry("keyless", command, [], d.modes, d.why, command)
        for command, d in scheme.keyless.items()
    ]
    for kind, table in (("mute", scheme.mute), ("guard", scheme.guard)):
        found += [entry(kind, "", [str(run)], d.modes, d.why, str(run)) for run, d in table.items()]
    return found


def show_stack(as_json: bool, context: Surroundings, desk: Desk, stack: Stack) -> int:
    """Runs ``scheme stack`` without names: the layers from the top."""
    layers = list(_layers(desk, stack))
    if as_json:
        context.json({"layers": [asdict(each) for each in layers]})
        return 0
    rows = [(each.layer, each.file, str(each.decisions), each.note) for each in layers]
    print_table(context, ("layer", "file", "decisions", ""), rows)
    return 0


class _Layer(Struct, frozen=True, kw_only=True):
    """A layer of an application, as JSON has it: where it stands, and how many keys it decides on."""

    layer: str
    file: str
    decisions: int
    note: str


def _layers(desk: Desk, stack: Stack) -> Iterator[_Layer]:
    """The layers from the top, those of schemes that do not count in this project as well."""
    app, rules = stack.app, stack.app.rules
    about, catalogue = app_path(app.name), catalogue_path(app.name)
    yield _Layer(
        layer=SYSTEM,
        file=SYSTEM_FILE,
        decisions=len(stack.system),
        note="the operating system takes them",
    )
    yield _Layer(
        layer=RESERVED,
        file=about,
        decisions=len(rules.reserved),
        note="the application keeps them",
    )
    named = [desk.scheme(app, name) for name in desk.stack_names(app.name)]
    for scheme in in_layer_order(named):
        note = clause("project {}", scheme.project)
        if scheme not in stack.schemes:
            note += f" (not now: the desk's project is {desk.settings.project or 'none'})"
        yield _Layer(
            layer=scheme.layer,
            file=scheme_path(app.name, scheme.name),
            decisions=scheme.decisions,
            note=note,
        )
    keys = app.catalogue.key_count
    yield _Layer(layer=FACTORY, file=catalogue, decisions=keys, note="read-only")
    yield _Layer(
        layer=UNLISTED,
        file=about,
        decisions=len(rules.unlisted),
        note="unlisted: no list shows them",
    )
    menus = {}
    if rules.letters_open_menus:
        menus = menu_openers(app.catalogue.commands)
    if menus:
        yield _Layer(
            layer=MENUS, file=catalogue, decisions=len(menus), note="access letters open them"
        )
