"""A key on a command that this seat cannot use, or that the application gives no key."""

from collections.abc import Iterator

from olive_compass.core.command_line import line
from olive_compass.core.findings.finding import Finding, Place, View
from olive_compass.core.schemes.standing import not_assignable, not_assignable_says

ID = "not-available"
SEVERITY = "error"
SAYS = "A key is on a command that was withdrawn, needs what this seat lacks, or can have no key."
ADVICE = "Clear it, or note the licence if this seat has it: olive-compass app rules APP --licence."


def find(view: View) -> Iterator[Finding]:
    for scheme in view.stack.schemes:
        for command in scheme.assign:
            known = view.app.catalogue.by_id.get(command)
            why = not_assignable(view.app.rules, known) if known else ""
            if known and why:
                yield Finding(
                    ID,
                    SEVERITY,
                    view.app.name,
                    f"“{known.title}” has a key, but {not_assignable_says(known, why)}.",
                    line("clear", view.app.name, command, "--scheme", scheme.name),
                    (Place(scheme.name, "assign", command),),
                    (command,),
                )
