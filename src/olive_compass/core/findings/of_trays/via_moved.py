"""A thing that takes no key, shown through a slot that holds something else by now."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import Action, ForgetThing, NoteSlot, ShowThrough
from olive_compass.core.apps.app import Command, Via
from olive_compass.core.findings.finding import Finding, Place, View
from olive_compass.core.wording import clause

ID = "via-moved"
SEVERITY: Final = "warning"
SAYS = (
    "Something that cannot have a key is recorded under a command that shows something else "
    "by now, or is gone."
)
ADVICE = "Record the command that shows it now."


def find(view: View) -> Iterator[Finding]:
    slots = view.app.rules.slots
    for thing, via in view.app.vias.items():
        known = view.app.catalogue.by_id.get(via.through)
        now = slots.get(via.through, "")
        # It shows what it showed when that was noted.
        if known is not None and not known.marks.withdrawn and via.held == now:
            continue
        moved = next((c for c, name in slots.items() if via.held and name == via.held), "")
        says = _says(via, known, now)
        where = ""
        if moved:
            where = f"; “{via.held}” is in “{view.title(moved)}”"
        fix = _fix(view, thing, via, moved, now)
        yield Finding(
            id=ID,
            severity=SEVERITY,
            app=view.app.name,
            says=f"“{thing}”: {says}{where}.",
            advice=fix,
            places=(Place("", "via", thing),),
            commands=(via.through,),
        )


def _fix(view: View, thing: str, via: Via, moved: str, now: str) -> Action:
    """To follow it to where it is now; where nobody noted what its slot holds, to note that; else what it
    shows now is noted with the via, or the via goes."""
    app = view.app.name
    known = view.app.catalogue.by_id.get(via.through)
    if moved:
        return ShowThrough(app=app, thing=thing, through=moved)
    if known is None or known.marks.withdrawn:
        return ForgetThing(app=app, thing=thing)
    if not now:
        return NoteSlot(app=app, slot=via.through, holds=via.held)
    return ShowThrough(app=app, thing=thing, through=via.through)


def _says(via: Via, known: Command | None, now: str) -> str:
    """What became of the command that showed it, and of what that one holds."""
    if known is None or known.marks.withdrawn:
        return f"“{via.through}”, which showed it, is gone"
    held = clause(" for “{}”", via.held)
    holds = now or "nothing that is noted"
    return f"it was shown by “{known.title}”{held}, which holds “{holds}” now"
