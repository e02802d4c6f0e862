"""A key on a slot that no longer holds what it held when the key was given."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import Action, AssignKey
from olive_compass.core.findings.finding import Finding, Place, View
from olive_compass.core.schemes.decisions import Assignment

ID = "slot-moved"
SEVERITY: Final = "warning"
SAYS = "A slot with a key holds something else than it did when you assigned the key."
ADVICE = "Assign the key to the slot that holds it now; or assign it again to keep the new content."


def find(view: View) -> Iterator[Finding]:
    slots = view.app.rules.slots
    for scheme in view.stack.schemes:
        for command, assignments in scheme.assign.items():
            for each in assignments:
                now = slots.get(command, "")
                if not each.slot or each.slot == now:
                    continue
                moved = next((c for c, name in slots.items() if name == each.slot), "")
                where = ""
                if moved:
                    where = f" “{each.slot}” is in “{view.title(moved)}” now."
                keys = ", ".join(map(str, each.keys))
                yield Finding(
                    id=ID,
                    severity=SEVERITY,
                    app=view.app.name,
                    says=f"{keys} was given to “{view.title(command)}” for “{each.slot}”, but the slot holds "
                    f"“{now or 'nothing known'}”.{where}",
                    advice=_advice(view, scheme.name, each, command, moved),
                    places=(Place(scheme.name, "assign", command),),
                    commands=(command,),
                    keys=tuple(map(str, each.keys)),
                )


def _advice(view: View, scheme: str, each: Assignment, command: str, moved: str) -> Action:
    """To move the key to where the thing went; else to say that the key is for what is there now."""
    app, key = view.app.name, str(each.keys[0])
    if moved:
        return AssignKey(
            app=app,
            command=moved,
            key=key,
            modes=each.modes,
            replacing=True,
            why=f"“{each.slot}” moved here",
            scheme=scheme,
        )
    now = view.app.rules.slots.get(command, "") or "whatever is there"
    return AssignKey(
        app=app, command=command, key=key, modes=each.modes, why=f"for {now} now", scheme=scheme
    )
