"""Schemes as they are reported: by ``scheme list``, ``scheme show`` and ``scheme stack``."""

from msgspec import UNSET, UnsetType

from olive_compass.core.apps.app import App
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.desk.desk import Desk
from olive_compass.desk.paths import scheme_path
from olive_compass.desk.reported.report import Report


class SchemeRow(Report, frozen=True, kw_only=True):
    """A scheme in a list."""

    app: str
    name: str
    layer: str
    in_the_stack: bool
    based_on: str
    decisions: int


class DecisionReport(Report, frozen=True, kw_only=True):
    """A decision: of what kind, on which command, and the line of the file in which it stands."""

    decision: str
    command: str | None
    title: str | None
    keys: list[str]
    modes: tuple[str, ...]
    factory_keys: list[str]
    why: str
    line: int


class SchemeReport(Report, frozen=True, kw_only=True):
    """A scheme: how many commands have a key with it and without, the seconds that it saves a week where something was
    counted, and its decisions."""

    app: str
    name: str
    layer: str
    based_on: str
    file: str
    commands: int
    with_key: int
    with_factory_key: int
    saves: float | UnsetType = UNSET
    decisions: list[DecisionReport]


class LayerReport(Report, frozen=True, kw_only=True):
    """A layer of an application: where it stands, and how many keys it decides on."""

    layer: str
    file: str
    decisions: int
    note: str


def scheme_row(app: App, scheme: Scheme, counts: bool) -> SchemeRow:
    """A scheme in a list; ``counts``: it is in the stack."""
    return SchemeRow(
        app=app.name,
        name=scheme.name,
        layer=scheme.layer,
        in_the_stack=counts,
        based_on=scheme.based_on,
        decisions=scheme.decisions,
    )


def scheme_report(desk: Desk, keymap: Keymap, scheme: Scheme, saves: float | None) -> SchemeReport:
    """A scheme with its decisions; ``saves`` are the seconds a week that it saves, None: nothing was counted."""
    commands = keymap.app.catalogue.commands
    return SchemeReport(
        app=scheme.app,
        name=scheme.name,
        layer=scheme.layer,
        based_on=scheme.based_on,
        file=scheme_path(scheme.app, scheme.name),
        commands=len(commands),
        with_key=sum(bool(live_triggers(keymap, command.id)) for command in commands),
        with_factory_key=keymap.app.catalogue.keyed_count,
        saves=UNSET if saves is None else saves,
        decisions=decisions_of(desk, keymap, scheme),
    )


def decisions_of(desk: Desk, keymap: Keymap, scheme: Scheme) -> list[DecisionReport]:
    """Every decision of the scheme, in the file's order within each kind."""
    path = scheme_path(keymap.app.name, scheme.name)

    def report(
        kind: str, command: str, keys: list[str], modes: tuple[str, ...], why: str, key: str
    ) -> DecisionReport:
        title, factory = None, []
        if command:
            title = keymap.app.shown(command)
        if known := keymap.app.catalogue.by_id.get(command):
            factory = list(map(str, known.keys))
        return DecisionReport(
            decision=kind,
            command=command or None,
            title=title,
            keys=keys,
            modes=modes,
            factory_keys=factory,
            why=why,
            line=desk.line(path, kind, key),
        )

    found = [
        report("assign", command, list(map(str, each.keys)), each.modes, each.why, command)
        for command, assignments in scheme.assign.items()
        for each in assignments
    ]
    found += [
        report("keyless", command, [], d.modes, d.why, command)
        for command, d in scheme.keyless.items()
    ]
    for kind, table in (("mute", scheme.mute), ("guard", scheme.guard)):
        found += [
            report(kind, "", [str(run)], d.modes, d.why, str(run)) for run, d in table.items()
        ]
    return found
