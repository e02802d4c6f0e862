"""A step of a macro with an input that its command does not have."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import Action, AskInput, CutStep, ShowMacro
from olive_compass.core.apps.app import Command
from olive_compass.core.findings.finding import Finding, View, step_place
from olive_compass.core.macros.macro import Step

ID = "macro-input"
SEVERITY: Final = "error"
SAYS = "A macro gives a command an input that the command does not have, or one of the wrong kind."
ADVICE = "Ask for the value each time (macro ask), or remove the step (macro cut)."


def find(view: View) -> Iterator[Finding]:
    for macro in view.macros.values():
        for number, step in enumerate(macro.steps, 1):
            command = view.app.catalogue.by_id.get(step.command)
            if command is None or step.calls:
                continue
            app = view.app.name
            for name, problem in _problems(command, step):
                advice: Action = CutStep(app=app, macro=macro.name, step=number)
                if name:
                    advice = AskInput(app=app, macro=macro.name, step=number, input=name)
                yield Finding(
                    id=ID,
                    severity=SEVERITY,
                    app=app,
                    says=f"“{macro.title}”, step {number}: {problem}.",
                    advice=advice,
                    places=(step_place(macro.name, number),),
                    commands=(macro.id, command.id),
                    look=ShowMacro(app=app, macro=macro.name),
                )


def _problems(command: Command, step: Step) -> Iterator[tuple[str, str]]:
    """What is wrong with the inputs of a step, each with the input that can be asked for instead, ``""``: the command
    has none of that name."""
    from olive_compass.core.macros.inputs import accepted, declared
    from olive_compass.core.macros.macro import reference

    known = {each.name: each for each in declared(command)}
    for name in (*step.inputs, *step.ask):
        if name not in known:
            has = ", ".join(known) or "none"
            yield "", f"“{command.title}” has no input “{name}”; it has {has}"
    for name, value in step.inputs.items():
        # What is taken from another step is not known before it is played.
        if name not in known or reference(value):
            continue
        try:
            accepted(known[name], value)
        except ValueError as error:
            yield name, f"{name} “{value}” cannot be: {error}"
