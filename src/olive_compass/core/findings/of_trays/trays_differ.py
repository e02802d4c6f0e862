"""Trays of one name in two applications, of which one lacks a purpose that its application serves."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import AddItems
from olive_compass.core.apps.modes import joined
from olive_compass.core.apps.trays import Tray
from olive_compass.core.findings.finding import Finding, View, tray_place
from olive_compass.core.sharing.cross_app import Across

ID = "trays-differ"
SEVERITY: Final = "note"
SAYS = (
    "A tray lacks a command that the tray of the same name has in another application, "
    "although the application has it."
)
ADVICE = "Add it, or rename one of the trays."


def find(view: View) -> Iterator[Finding]:
    across = view.across
    if across is None:
        return
    for tray in view.app.active_trays:
        lacking = _lacking(tray, across)
        if lacking:
            titles = joined(f"“{view.title(command)}”" for command in lacking)
            apps = joined(sorted(set(lacking.values())))
            yield Finding(
                id=ID,
                severity=SEVERITY,
                app=view.app.name,
                says=f"“{tray.title}” has no {titles}, which the one of {apps} has.",
                advice=AddItems(
                    app=view.app.name, tray=tray.name, items=tuple(lacking), layer=tray.layer
                ),
                places=(tray_place(tray),),
                commands=(tray.id, *lacking),
            )


def _lacking(tray: Tray, across: Across) -> dict[str, str]:
    """The commands that the trays of the same name have in other applications, each with one of these."""
    of = across.purposes.by_command
    own = {of[tray.app, item].id for item in tray.items if (tray.app, item) in of}
    found: dict[str, str] = {}
    for other in _of_same_name(tray, across):
        for item in other.items:
            # By purpose, not by title: what the other application calls otherwise is the same favourite.
            purpose = of.get((other.app, item))
            if purpose and purpose.id not in own:
                for command in purpose.commands(tray.app)[:1]:
                    found[command] = other.app
    return found


def _of_same_name(tray: Tray, across: Across) -> list[Tray]:
    """The active trays of that name in other applications."""
    return [
        other
        for keymap in across.keymaps.values()
        for other in keymap.app.active_trays
        if other.app != tray.app and other.name == tray.name
    ]
