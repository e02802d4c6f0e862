"""A step of a macro that takes a value from a step that comes after it, or that does not exist."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import AskInput
from olive_compass.core.findings.finding import Finding, View, step_place
from olive_compass.core.macros.macro import reference

ID = "later-step"
SEVERITY: Final = "error"
SAYS = "A macro takes a value from a later step, or from a step that does not exist."
ADVICE = "Ask for the value (macro ask), or move the step (macro move)."


def find(view: View) -> Iterator[Finding]:
    for macro in view.macros.values():
        for number, step in enumerate(macro.steps, 1):
            for name, value in step.inputs.items():
                found = reference(value)
                if not found or found.step < number:
                    continue
                yield Finding(
                    id=ID,
                    severity=SEVERITY,
                    app=view.app.name,
                    says=f"“{macro.title}” takes {name} in step {number} from step {found.step}, which "
                    "has not been done by then.",
                    advice=AskInput(app=view.app.name, macro=macro.name, step=number, input=name),
                    places=(step_place(macro.name, number),),
                    commands=(macro.id, step.command),
                )
