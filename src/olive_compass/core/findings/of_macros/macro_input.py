"""A step of a macro with an input that its command does not have."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import Action, AskInput, CutStep, ShowMacro
from olive_compass.core.findings.finding import Finding, View, step_place

ID = "macro-input"
SEVERITY: Final = "error"
SAYS = "A macro gives a command an input that the command does not have, or one of the wrong kind."
ADVICE = "Ask for the value each time (macro ask), or remove the step (macro cut)."


def find(view: View) -> Iterator[Finding]:
    for macro in view.macros.values():
        # Only here: most desks that are checked have no macros.
        from olive_compass.core.macros.inputs import accepted, declared
        from olive_compass.core.macros.macro import reference

        for number, step in enumerate(macro.steps, 1):
            command = view.app.catalogue.by_id.get(step.command)
            if command is None or step.calls:
                continue
            known = {each.name: each for each in declared(command)}
            app = view.app.name
            drop = CutStep(app=app, macro=macro.name, step=number)
            problems: list[tuple[str, Action]] = [
                (
                    f"“{command.title}” has no input “{name}”; it has {', '.join(known) or 'none'}",
                    drop,
                )
                for name in (*step.inputs, *step.ask)
                if name not in known
            ]
            for name, value in step.inputs.items():
                # What is taken from another step is not known before it is played.
                if name in known and not reference(value):
                    try:
                        accepted(known[name], value)
                    except ValueError as error:
                        ask = AskInput(app=app, macro=macro.name, step=number, input=name)
                        problems.append((f"{name} “{value}” cannot be: {error}", ask))
            for problem, advice in problems:
                yield Finding(
                    id=ID,
                    severity=SEVERITY,
                    app=view.app.name,
                    says=f"“{macro.title}”, step {number}: {problem}.",
                    advice=advice,
                    places=(step_place(macro.name, number),),
                    commands=(macro.id, command.id),
                    look=ShowMacro(app=app, macro=macro.name),
                )
