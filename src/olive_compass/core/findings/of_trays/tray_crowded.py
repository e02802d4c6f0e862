"""A group of a tray with more items than one sees at a glance."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import MoveItem, SetGlance, ShowTray
from olive_compass.core.apps.trays import PARTING
from olive_compass.core.findings.advice import accepting
from olive_compass.core.findings.finding import Finding, View, tray_place
from olive_compass.core.trays.verdicts import kind_of_tray
from olive_compass.core.wording import clause

ID = "tray-crowded"
SEVERITY: Final = "note"
SAYS = (
    "A group of a tray has more items than you can see at a glance: 9, or the number that you set."
)
ADVICE = "Add separators, or make groups: {move}. To set the number: {glance}."
ACTIONS = {
    "move": MoveItem(app="APP", tray="TRAY", item="ITEM", group="GROUP"),
    "glance": SetGlance(app="APP", kind="KIND", items="N"),
}


def find(view: View) -> Iterator[Finding]:
    for tray in view.app.active_trays:
        most = kind_of_tray(view.app, tray).scan
        for group in tray.groups:
            rows = [len(row.split("\n")) for row in "\n".join(group.items).split(f"\n{PARTING}\n")]
            if max(rows) <= most:
                continue
            where = clause(" in “{}”", group.title)
            yield Finding(
                id=ID,
                severity=SEVERITY,
                app=view.app.name,
                says=f"“{tray.title}” has {max(rows)} items in a row{where}; {most} can be seen at a glance.",
                advice=accepting(view, ID, tray.id),
                places=(tray_place(tray),),
                commands=(tray.id,),
                look=ShowTray(app=view.app.name, tray=tray.name),
            )
