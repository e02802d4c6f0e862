"""An item of a tray that a scheme has put one press away meanwhile."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import RemoveItems
from olive_compass.core.findings.finding import Finding, View, tray_place
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.trays.verdicts import one_press

ID = "tray-item-has-key"
SEVERITY: Final = "note"
SAYS = "A command on a tray now has a key that works wherever you can use it."
ADVICE = "Remove it from the tray, or keep it for the days when your hand is on the mouse."


def find(view: View) -> Iterator[Finding]:
    for tray in view.app.active_trays:
        for item in dict.fromkeys(tray.items):
            press = one_press(view.keymap, item)
            if not press or press in map(str, live_triggers(view.factory, item)):
                continue
            yield Finding(
                id=ID,
                severity=SEVERITY,
                app=view.app.name,
                says=f"“{view.title(item)}” on “{tray.title}” also has a key by now: {press}.",
                advice=RemoveItems(
                    app=view.app.name, tray=tray.name, items=(item,), layer=tray.layer
                ),
                places=(tray_place(tray, item),),
                commands=(item, tray.id),
                keys=(press,),
            )
