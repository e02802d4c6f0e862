"""Trays of one name in two applications, of which one lacks a purpose that its application serves."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import AddItems
from olive_compass.core.apps.modes import joined
from olive_compass.core.findings.finding import Finding, View, tray_place

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
    for tray in view.app.trays:
        others = [
            other
            for keymap in across.keymaps.values()
            for other in keymap.app.trays
            if keymap.app.name != view.app.name and other.name == tray.name and not other.off
        ]
        of = across.purposes.by_command
        own = {of[tray.app, item].id for item in tray.items if (tray.app, item) in of}
        lacking: dict[str, str] = {}
        for other in others if not tray.off else ():
            for item in other.items:
                purpose = of.get((other.app, item))
                there = purpose.commands(view.app.name) if purpose else ()
                if purpose and purpose.id not in own and there:
                    # By purpose, not by title: what the other application calls otherwise is the same
                    # favourite.
                    lacking[there[0]] = other.app
        if lacking:
            titles = joined(f"“{view.title(command)}”" for command in lacking)
            yield Finding(
                id=ID,
                severity=SEVERITY,
                app=view.app.name,
                says=f"“{tray.title}” has no {titles}, which the one of {joined(sorted(set(lacking.values())))} "
                "has.",
                advice=AddItems(
                    app=view.app.name, tray=tray.name, items=tuple(lacking), layer=tray.layer
                ),
                places=(tray_place(tray),),
                commands=(tray.id, *lacking),
            )
