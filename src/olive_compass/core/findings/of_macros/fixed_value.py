"""A value in a macro that belongs to one document and should be asked for."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import AskInput
from olive_compass.core.findings.finding import Finding, View, step_place

ID = "fixed-value"
SEVERITY: Final = "warning"
SAYS = "A macro repeats a point, a text or an object of one document in every other document."
ADVICE = "Ask for it each time (macro ask), or mark it as intended (macro fix)."


def find(view: View) -> Iterator[Finding]:
    for macro in view.macros.values():
        # Loaded here: most applications have no macro.
        from olive_compass.core.macros.cleaning import ties

        for number, step in enumerate(macro.steps, 1):
            command = view.app.catalogue.by_id.get(step.command)
            for name, what in ties(command, step).items():
                yield Finding(
                    id=ID,
                    severity=SEVERITY,
                    app=view.app.name,
                    says=f"“{macro.title}” has {name} fixed at “{step.inputs[name]}” in step {number} "
                    f"(“{view.title(step.command)}”): a {what}.",
                    advice=AskInput(app=view.app.name, macro=macro.name, step=number, input=name),
                    places=(step_place(macro.name, number),),
                    commands=(macro.id, step.command),
                )
