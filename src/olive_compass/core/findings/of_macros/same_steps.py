"""Macros with the same steps, or the same but for values that one question could ask for."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import Action, AskInput, RemoveMacro
from olive_compass.core.findings.finding import Finding, View, step_place

ID = "same-steps"
SEVERITY: Final = "note"
SAYS = "Two macros have the same steps, or differ only in values that one of them could ask for."
ADVICE = "Keep one of them, and let it ask for the difference."


def find(view: View) -> Iterator[Finding]:
    if len(view.macros) < 2:
        return
    from olive_compass.core.macros.likeness import alike

    for pair in alike(view.macros.values()):
        first, second = pair.first, pair.second
        app = view.app.name
        if not pair.differ:
            says = f"“{second.title}” has the very steps of “{first.title}”."
            advice: Action = RemoveMacro(app=app, macro=second.name)
        else:
            names = ", ".join(f"{name} in step {number}" for number, name in pair.differ[:4])
            says = f"“{second.title}” is “{first.title}” but for {names}: asked for, they were one."
            number, name = pair.differ[0]
            advice = AskInput(app=app, macro=first.name, step=number, input=name)
        places = (step_place(second.name), step_place(first.name))
        yield Finding(
            id=ID,
            severity=SEVERITY,
            app=app,
            says=says,
            advice=advice,
            places=places,
            commands=(second.id, first.id),
        )
