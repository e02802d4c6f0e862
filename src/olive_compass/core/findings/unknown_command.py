"""A decision about a command that the catalogue does not have."""

from collections.abc import Iterator

from olive_compass.core.findings.finding import Finding, Place, View

ID = "unknown-command"
SEVERITY = "error"
SAYS = "A scheme decides about a command that the catalogue does not have."
ADVICE = "Correct the id, or clear the decision if the application has lost the command."


def find(view: View) -> Iterator[Finding]:
    known = view.app.catalogue.by_id
    for scheme in view.stack.schemes:
        for table, ids in (("assign", scheme.assign), ("bare", scheme.bare)):
            for command in ids:
                if command in known:
                    continue
                # Loaded here: on most desks there is nothing to look up.
                from olive_compass.core.apps.naming import near_commands

                near = near_commands(view.app.catalogue.commands, command, 1)
                hint = f" The nearest is {near[0].id} (“{near[0].title}”)." if near else ""
                yield Finding(
                    ID,
                    SEVERITY,
                    view.app.name,
                    f"{view.app.title} has no command “{command}”.{hint}",
                    f"olive-compass clear {view.app.name} {command}",
                    (Place(scheme.name, table, command),),
                    (command,),
                )
