"""A step of a macro that needs an input which it neither has nor asks for."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import AskInput
from olive_compass.core.findings.finding import Finding, View, step_place

ID = "input-never-asked"
SEVERITY: Final = "error"
SAYS = "A macro stops at an input for which it has neither a value nor a question."
ADVICE = "Turn the input into a question (macro ask), or give it a value (macro fix)."


def find(view: View) -> Iterator[Finding]:
    for macro in view.macros.values():
        from olive_compass.core.macros.inputs import declared

        for number, step in enumerate(macro.steps, 1):
            command = view.app.catalogue.by_id.get(step.command)
            if command is None or step.calls:
                continue
            for each in declared(command):
                # A selection is what is selected then, if nothing else is said.
                if each.name in step.inputs or each.name in step.ask or each.kind == "selection":
                    continue
                yield Finding(
                    id=ID,
                    severity=SEVERITY,
                    app=view.app.name,
                    says=f"“{macro.title}” waits in step {number}: “{command.title}” needs {each.name} "
                    f"({each.kind}), and nothing asks for it.",
                    advice=AskInput(
                        app=view.app.name, macro=macro.name, step=number, input=each.name
                    ),
                    places=(step_place(macro.name, number),),
                    commands=(macro.id, command.id),
                )
