"""A row of the catalogue whose inputs cannot be read."""

from collections.abc import Iterator

from olive_compass.core.schemes.findings.finding import Finding, Place, View

ID = "unreadable-inputs"
SEVERITY = "error"
SAYS = "What a command asks for cannot be read in the catalogue."
ADVICE = "Write each input as name:kind, such as at:point or ink:choice=black/blue."


def find(view: View) -> Iterator[Finding]:
    for command in view.app.catalogue.commands:
        if not command.inputs:
            continue
        from olive_compass.core.macros.inputs import read_inputs

        try:
            read_inputs(command.inputs)
        except ValueError as error:
            yield Finding(
                ID,
                SEVERITY,
                view.app.name,
                f"The inputs of “{command.title}” cannot be read: {error}.",
                f"correct the column inputs of apps/{view.app.name}/commands.csv",
                (Place("", "catalogue", command.id),),
                (command.id,),
            )
