"""A group of a tray with more items than are taken in at a glance."""

from collections.abc import Iterator

from olive_compass.core.apps.trays import PARTING
from olive_compass.core.command_line import line
from olive_compass.core.findings.advice import accepting
from olive_compass.core.findings.finding import Finding, View, tray_place
from olive_compass.core.trays.verdicts import kind_of_tray

ID = "tray-crowded"
SEVERITY = "note"
SAYS = (
    "A group of a tray has more items than you can see at a glance (app trays APP --scan, 9 "
    "by default)."
)
ADVICE = "Add separators, or make groups: tray move APP/TRAY ITEM --group GROUP."


def find(view: View) -> Iterator[Finding]:
    for tray in view.app.trays:
        most = kind_of_tray(view.app, tray).scan
        for group in tray.groups if not tray.off else ():
            rows = [len(row.split("\n")) for row in "\n".join(group.items).split(f"\n{PARTING}\n")]
            if max(rows) <= most:
                continue
            where = f" in “{group.title}”" if group.title else ""
            yield Finding(
                id=ID,
                severity=SEVERITY,
                app=view.app.name,
                says=f"“{tray.title}” has {max(rows)} items in a row{where}; {most} can be seen at a glance.",
                advice=accepting(view, ID, tray.id),
                places=(tray_place(tray),),
                commands=(tray.id,),
                look=line("tray", "show", f"{view.app.name}/{tray.name}"),
            )
