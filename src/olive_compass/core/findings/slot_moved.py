"""A key on a slot that no longer holds what it held when the key was given."""

from collections.abc import Iterator

from olive_compass.core.findings.finding import Finding, Place, View

ID = "slot-moved"
SEVERITY = "warning"
SAYS = "A slot that has a key holds something else than when the key was given."
ADVICE = "Give the key to the slot that holds it now, or assign it again to take the new one."


def find(view: View) -> Iterator[Finding]:
    slots = view.app.rules.slots
    for scheme in view.stack.schemes:
        for command, assignments in scheme.assign.items():
            for each in assignments:
                now = slots.get(command, "")
                if not each.slot or each.slot == now:
                    continue
                moved = next((view.title(c) for c, name in slots.items() if name == each.slot), "")
                where = f" “{each.slot}” is in “{moved}” now." if moved else ""
                keys = ", ".join(map(str, each.keys))
                yield Finding(
                    ID,
                    SEVERITY,
                    view.app.name,
                    f"{keys} was given to “{view.title(command)}” for “{each.slot}”, but the slot holds "
                    f"“{now or 'nothing known'}”.{where}",
                    f"olive-compass assign {view.app.name} {command} '{each.keys[0]}' --why ...",
                    (Place(scheme.name, "assign", command),),
                    (command,),
                    tuple(map(str, each.keys)),
                )
