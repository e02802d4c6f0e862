"""A decision about a command that the catalogue does not have."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import Action, ClearKeys, OrderChoice
from olive_compass.core.findings.finding import Finding, Place, View

ID = "unknown-command"
SEVERITY: Final = "error"
SAYS = "A scheme decides about a command that the application does not have."
ADVICE = "Correct the id, or clear the decision if the application has lost the command."


def find(view: View) -> Iterator[Finding]:
    known = view.app.catalogue.by_id
    for scheme in view.stack.schemes:
        for table, ids in (("assign", scheme.assign), ("keyless", scheme.keyless)):
            for command in ids:
                if command not in known:
                    clear = ClearKeys(app=view.app.name, command=command, scheme=scheme.name)
                    yield _finding(view, Place(scheme.name, table, command), command, clear)
        for run, order in scheme.order.items():
            for command in order:
                if command not in known:
                    without = OrderChoice(
                        app=view.app.name,
                        key=str(run),
                        commands=tuple(each for each in order if each in known),
                        scheme=scheme.name,
                    )
                    yield _finding(view, Place(scheme.name, "order", str(run)), command, without)


def _finding(view: View, where: Place, command: str, advice: Action) -> Finding:
    # Loaded here: on most desks there is nothing to look up.
    from olive_compass.core.apps.naming import near_commands

    near = near_commands(view.app.catalogue.commands, command, 1)
    hint = ""
    if near:
        hint = f" The nearest is {near[0].id} (“{near[0].title}”)."
    says = f"{view.app.title} has no command “{command}”.{hint}"
    return Finding(
        id=ID,
        severity=SEVERITY,
        app=view.app.name,
        says=says,
        advice=advice,
        places=(where,),
        commands=(command,),
    )
