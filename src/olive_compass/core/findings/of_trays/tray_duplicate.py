"""The same command twice on one tray."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import MoveItem
from olive_compass.core.findings.finding import Finding, View, tray_place

ID = "tray-duplicate"
SEVERITY: Final = "warning"
SAYS = "A tray has the same command twice."
ADVICE = "Keep one; moving it there removes the other."


def find(view: View) -> Iterator[Finding]:
    for tray in view.app.trays:
        for item in sorted({each for each in tray.items if tray.items.count(each) > 1}):
            group = tray.group_of(item) or ""
            yield Finding(
                id=ID,
                severity=SEVERITY,
                app=view.app.name,
                says=f"“{view.title(item)}” is {tray.items.count(item)} times on “{tray.title}”.",
                advice=MoveItem(
                    app=view.app.name, tray=tray.name, item=item, group=group, layer=tray.layer
                ),
                places=(tray_place(tray, item),),
                commands=(item, tray.id),
            )
