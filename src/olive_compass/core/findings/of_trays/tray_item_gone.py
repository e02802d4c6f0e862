"""An item of a tray that the application does not have, or no longer, or not at this seat."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import RemoveItems
from olive_compass.core.findings.finding import Finding, View, tray_place
from olive_compass.core.trays.verdicts import UNAVAILABLE, UNKNOWN, WITHDRAWN, of_item

ID = "tray-item-gone"
SEVERITY: Final = "warning"
SAYS = (
    "A tray has an item that the application does not have, that was withdrawn, or that this "
    "computer cannot start."
)
ADVICE = "Remove it from the tray, or add its replacement."


def find(view: View) -> Iterator[Finding]:
    for tray in view.app.active_trays:
        for item in tray.items:
            for said in of_item(view.keymap, tray, item):
                if said.what not in (UNKNOWN, WITHDRAWN, UNAVAILABLE):
                    continue
                title = view.title(item)
                says = {
                    UNKNOWN: f"{view.app.title} has no such command",
                    WITHDRAWN: f"{view.app.title} no longer has it",
                    UNAVAILABLE: f"it cannot be started here: {said.about}",
                }
                yield Finding(
                    id=ID,
                    severity="note" if said.what == UNAVAILABLE else SEVERITY,
                    app=view.app.name,
                    says=f"“{title}” is on the {tray.kind} “{tray.title}”, but {says[said.what]}.",
                    advice=RemoveItems(
                        app=view.app.name, tray=tray.name, items=(item,), layer=tray.layer
                    ),
                    places=(tray_place(tray, item),),
                    commands=(item, tray.id),
                )
