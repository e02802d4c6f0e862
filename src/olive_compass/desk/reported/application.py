"""An application as ``app show`` reports it."""

from collections.abc import Mapping, Sequence

from olive_compass.core.apps.app import App
from olive_compass.desk.reported.report import Report


class RulesReport(Report, frozen=True, kw_only=True):
    """The rules that say what a key can be."""

    duplicates: str
    longest_sequence: int
    typed_sequences: bool


class CatalogueRow(Report, frozen=True, kw_only=True):
    """A command of the catalogue."""

    command: str
    title: str
    menu: Sequence[str]
    kind: str
    modes: Sequence[str]
    does: str
    factory_keys: list[str]


class AppReport(Report, frozen=True, kw_only=True):
    """An application: its rules, its modes with those around them, and its commands."""

    name: str
    title: str
    version: str
    rules: RulesReport
    parents: Mapping[str, str]
    commands: list[CatalogueRow]


def app_report(app: App) -> AppReport:
    """An application as ``app show`` reports it."""
    return AppReport(
        name=app.name,
        title=app.title,
        version=app.version,
        rules=RulesReport(
            duplicates=app.rules.duplicates,
            longest_sequence=app.rules.longest_sequence,
            typed_sequences=app.rules.typed_sequences,
        ),
        parents=app.modes.parents,
        commands=[
            CatalogueRow(
                command=command.id,
                title=command.title,
                menu=command.menu,
                kind=command.kind,
                modes=command.modes,
                does=command.does,
                factory_keys=list(map(str, command.keys)),
            )
            for command in app.catalogue.commands
        ],
    )
