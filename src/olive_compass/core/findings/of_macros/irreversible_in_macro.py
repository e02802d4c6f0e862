"""A command that takes long or cannot be undone inside a macro, before which nothing is asked."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import CutStep
from olive_compass.core.findings.finding import Finding, View, step_place

ID = "irreversible-in-macro"
SEVERITY: Final = "warning"
SAYS = (
    "A macro starts something that takes a long time or cannot be undone, and asks nothing before."
)
ADVICE = (
    "Ask for something in an earlier step, or remove the step and start the command from the menu."
)


def find(view: View) -> Iterator[Finding]:
    known = view.app.catalogue.by_id
    for macro in view.macros.values():
        asked = False
        for number, step in enumerate(macro.steps, 1):
            command = known.get(step.command)
            asked = asked or bool(step.ask)
            if command is None or not command.marks.disruptive or asked:
                continue
            yield Finding(
                id=ID,
                severity=SEVERITY,
                app=view.app.name,
                says=f"“{macro.title}” starts “{command.title}” in step {number}, which {command.marks.warning}, "
                "and asks nothing before.",
                advice=CutStep(app=view.app.name, macro=macro.name, step=number),
                places=(step_place(macro.name, number),),
                commands=(macro.id, command.id),
            )
