"""What ``scheme`` shows: the list, one scheme at a glance, and the layers that count."""

from collections.abc import Iterator

from olive_compass.cli import exit_status, pick
from olive_compass.cli.options import Common
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, DIM, OFF
from olive_compass.cli.terminal.tables import print_fields, print_table
from olive_compass.core.apps.menu_letters import menu_openers
from olive_compass.core.schemes.claims import Stack, in_layer_order
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.layers import FACTORY, MENUS, RESERVED, SYSTEM, UNLISTED
from olive_compass.core.wording import clause, yes_or_no
from olive_compass.desk.desk import Desk
from olive_compass.desk.paths import SYSTEM_FILE, app_path, catalogue_path, scheme_path
from olive_compass.desk.reported.schemes import (
    DecisionReport,
    LayerReport,
    SchemeReport,
    scheme_report,
    scheme_row,
)


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
        context.json({"schemes": [scheme_row(*row) for row in rows]})
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
    saved = _saved(desk, keymap, scheme)
    report = scheme_report(desk, keymap, scheme, saved)
    if args.json:
        context.json(report)
        return 0
    context.say(
        f"{BOLD}{app.name}/{name}{OFF}, {scheme.layer}, based on {scheme.based_on or 'nothing'}"
    )
    _print_about(context, desk, keymap, scheme, report, saved)
    if report.decisions:
        context.say(f"{DIM}What differs from the layers below:{OFF}")
        headings = ("decision", "command", "keys", "modes", "factory", "line", "why")
        print_table(context, headings, list(map(_decision_row, report.decisions)))
    return 0


def _saved(desk: Desk, keymap: Keymap, scheme: Scheme, by_key: bool = False) -> float | None:
    # Loaded here: most desks have counted nothing yet.
    from olive_compass.desk.time_saved import seconds_saved_by_scheme

    return seconds_saved_by_scheme(desk, keymap, scheme, by_key)


def _decision_row(decision: DecisionReport) -> tuple[str, ...]:
    factory = ""
    if decision.command:
        factory = " or ".join(decision.factory_keys) or "-"
    return (
        decision.decision,
        decision.title or "",
        " or ".join(decision.keys),
        " ".join(decision.modes),
        factory,
        str(decision.line),
        decision.why,
    )


def _print_about(
    context: Surroundings,
    desk: Desk,
    keymap: Keymap,
    scheme: Scheme,
    report: SchemeReport,
    saved: float | None,
) -> None:
    """Where a scheme is and counts, how many commands have a key by it, and what it saves."""
    counts_as = "does not count now"
    if scheme.name in desk.stack_names(scheme.app):
        counts_as = " over ".join(keymap.stack.names)
    of = f"{report.commands} commands ({report.with_factory_key} from the factory alone)"
    fields = [
        ("file", scheme_path(scheme.app, scheme.name)),
        ("counts as", counts_as),
        ("with a key", f"{report.with_key} of {of}"),
        ("decisions", str(scheme.decisions)),
    ]
    if saved is not None:
        from olive_compass.cli.looking.tallies import saying

        could = _saved(desk, keymap, scheme, by_key=True) or 0.0
        fields += [
            ("savings", f"{saying(saved)} as hands go now, against the layers without it"),
            ("could be", f"{saying(could)} if every key were pressed"),
        ]
    print_fields(context, fields)


def show_stack(as_json: bool, context: Surroundings, desk: Desk, stack: Stack) -> int:
    """Runs ``scheme stack`` without names: the layers from the top."""
    layers = list(_layers(desk, stack))
    if as_json:
        context.json({"layers": layers})
        return 0
    rows = [(each.layer, each.file, str(each.decisions), each.note) for each in layers]
    print_table(context, ("layer", "file", "decisions", ""), rows)
    return 0


def _layers(desk: Desk, stack: Stack) -> Iterator[LayerReport]:
    """The layers from the top, those of schemes that do not count in this project as well."""
    app, rules = stack.app, stack.app.rules
    about, catalogue = app_path(app.name), catalogue_path(app.name)
    yield LayerReport(
        layer=SYSTEM,
        file=SYSTEM_FILE,
        decisions=len(stack.system),
        note="the operating system takes them",
    )
    yield LayerReport(
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
        yield LayerReport(
            layer=scheme.layer,
            file=scheme_path(app.name, scheme.name),
            decisions=scheme.decisions,
            note=note,
        )
    keys = app.catalogue.key_count
    yield LayerReport(layer=FACTORY, file=catalogue, decisions=keys, note="read-only")
    yield LayerReport(
        layer=UNLISTED,
        file=about,
        decisions=len(rules.unlisted),
        note="unlisted: no list shows them",
    )
    menus = {}
    if rules.letters_open_menus:
        menus = menu_openers(app.catalogue.commands)
    if menus:
        yield LayerReport(
            layer=MENUS, file=catalogue, decisions=len(menus), note="access letters open them"
        )
