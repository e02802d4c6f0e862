"""A step of a macro whose command is unknown, withdrawn or missing on this seat."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import CutStep
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.findings.finding import Finding, View, step_place

ID = "macro-command"
SEVERITY: Final = "error"
SAYS = "A macro uses a command that is unknown, withdrawn or missing on this computer."
ADVICE = "Remove the step (macro cut) and insert another one (macro insert)."


def find(view: View) -> Iterator[Finding]:
    for macro in view.macros.values():
        from olive_compass.core.macros.simulator import unavailable

        for number, step in enumerate(macro.steps, 1):
            if step.press:
                continue
            command = view.app.catalogue.by_id.get(step.command)
            mode = ROOT
            if command and command.modes:
                mode = command.modes[0]
            why = unavailable(view.app, command, mode)
            if not why:
                continue
            yield Finding(
                id=ID,
                severity=SEVERITY,
                app=view.app.name,
                says=f"“{macro.title}” cannot do step {number}, {step.command}: {why}.",
                advice=CutStep(app=view.app.name, macro=macro.name, step=number),
                places=(step_place(macro.name, number),),
                commands=(macro.id, step.command),
            )
