"""An item that the application does not take on such a tray, or more items than it holds."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import RemoveItems, ShowTrayKinds
from olive_compass.core.findings.finding import Finding, View, tray_place
from olive_compass.core.trays.verdicts import ICON, ITSELF, REFUSED, kind_of_tray, of_item

ID = "tray-refuses"
SEVERITY: Final = "error"
SAYS = "A tray has an item that the application does not accept there, or too many items."
ADVICE = "Remove the item; {kinds} shows what each kind of tray accepts."
ACTIONS = {"kinds": ShowTrayKinds(app="APP")}


def find(view: View) -> Iterator[Finding]:
    for tray in view.app.trays:
        kind = kind_of_tray(view.app, tray)
        for item in dict.fromkeys(tray.items):
            for said in of_item(view.keymap, tray, item):
                if said.what not in (REFUSED, ICON, ITSELF):
                    continue
                why = {
                    REFUSED: said.about,
                    ICON: "only what has an icon goes there",
                    ITSELF: "it would come to open itself",
                }
                yield Finding(
                    id=ID,
                    severity=SEVERITY,
                    app=view.app.name,
                    says=f"A {tray.kind} does not accept “{view.title(item)}”, which is on “{tray.title}”: "
                    f"{why[said.what]}.",
                    advice=RemoveItems(
                        app=view.app.name, tray=tray.name, items=(item,), layer=tray.layer
                    ),
                    places=(tray_place(tray, item),),
                    commands=(item, tray.id),
                )
        if kind.items and len(tray.items) > kind.items:
            last = tray.items[kind.items :]
            yield Finding(
                id=ID,
                severity=SEVERITY,
                app=view.app.name,
                says=f"“{tray.title}” has {len(tray.items)} items, and a {tray.kind} holds {kind.items}.",
                advice=RemoveItems(app=view.app.name, tray=tray.name, items=last, layer=tray.layer),
                places=(tray_place(tray),),
                commands=(tray.id,),
            )
