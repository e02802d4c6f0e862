"""Commands with the same title, which are easily mixed up."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import FindCommands
from olive_compass.core.apps.modes import joined
from olive_compass.core.apps.naming import plain_title
from olive_compass.core.findings.advice import accepting
from olive_compass.core.findings.finding import Finding, View, catalogue_place

ID = "same-title"
SEVERITY: Final = "note"
SAYS = "Several commands have the same title, and may do different things."
ADVICE = "Check how they differ before you assign a key: {find}."
ACTIONS = {"find": FindCommands(words="TITLE")}


def find(view: View) -> Iterator[Finding]:
    by_title: dict[str, list[str]] = {}
    for command in view.app.catalogue.commands:
        by_title.setdefault(plain_title(command.title), []).append(command.id)
    twins = {title: ids for title, ids in by_title.items() if len(ids) > 1}
    if not twins:
        return
    names = [f"“{view.title(ids[0])}” ({', '.join(ids)})" for ids in twins.values()]
    ids = [command for each in twins.values() for command in each]
    yield Finding(
        id=ID,
        severity=SEVERITY,
        app=view.app.name,
        says=f"Several commands have the same title: {joined(names, 6)}.",
        advice=accepting(view, ID, ids[0], "told apart by their menus"),
        places=tuple(catalogue_place(command) for command in ids[:4]),
        commands=tuple(ids),
        look=FindCommands(words=view.title(ids[0]), app=view.app.name),
    )
