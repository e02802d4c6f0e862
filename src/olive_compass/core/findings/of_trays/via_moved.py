"""A thing that takes no key, shown through a slot that holds something else by now."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import Action, ForgetThing, NoteSlot, ShowThrough
from olive_compass.core.apps.app import Command, Proxy
from olive_compass.core.findings.finding import Finding, Place, View

ID = "via-moved"
SEVERITY: Final = "warning"
SAYS = (
    "Something that cannot have a key is recorded under a command that shows something else "
    "by now, or is gone."
)
ADVICE = "Record the command that shows it now."


def find(view: View) -> Iterator[Finding]:
    slots = view.app.rules.slots
    for thing, proxy in view.app.proxies.items():
        known = view.app.catalogue.by_id.get(proxy.through)
        now = slots.get(proxy.through, "")
        # It shows what it showed when that was noted.
        if known is not None and not known.marks.withdrawn and proxy.held == now:
            continue
        moved = next((c for c, name in slots.items() if proxy.held and name == proxy.held), "")
        says = _says(proxy, known, now)
        where = f"; “{proxy.held}” is in “{view.title(moved)}”" if moved else ""
        fix = _fix(view, thing, proxy, moved, now)
        yield Finding(
            id=ID,
            severity=SEVERITY,
            app=view.app.name,
            says=f"“{thing}”: {says}{where}.",
            advice=fix,
            places=(Place("", "via", thing),),
            commands=(proxy.through,),
        )


def _fix(view: View, thing: str, proxy: Proxy, moved: str, now: str) -> Action:
    """To follow it to where it is now; where nobody noted what its slot holds, to note that; else what it
    shows now is noted with the proxy, or the proxy goes."""
    app = view.app.name
    known = view.app.catalogue.by_id.get(proxy.through)
    if moved:
        return ShowThrough(app=app, thing=thing, through=moved)
    if known is None or known.marks.withdrawn:
        return ForgetThing(app=app, thing=thing)
    if not now:
        return NoteSlot(app=app, slot=proxy.through, holds=proxy.held)
    return ShowThrough(app=app, thing=thing, through=proxy.through)


def _says(proxy: Proxy, known: Command | None, now: str) -> str:
    """What became of the command that showed it, and of what that one holds."""
    if known is None or known.marks.withdrawn:
        return f"“{proxy.through}”, which showed it, is gone"
    held = f" for “{proxy.held}”" if proxy.held else ""
    holds = now or "nothing that is noted"
    return f"it was shown by “{known.title}”{held}, which holds “{holds}” now"
