"""A macro that comes to play itself, by name or through a key that it presses."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import CutStep, RemoveMacro, ShowMacro
from olive_compass.core.findings.finding import Finding, View, step_place
from olive_compass.core.macros.macro import Macro
from olive_compass.structs import replace

ID = "macro-loop"
SEVERITY: Final = "error"
SAYS = "A macro plays itself, by name or through a key that it presses."
ADVICE = "Remove that step (macro cut), or assign the key to something else."


def find(view: View) -> Iterator[Finding]:
    for macro in view.macros.values():
        # Loaded here: most applications have no macro.
        from olive_compass.core.macros.calling import self_start

        way = self_start(view.keymap, view.macros, macro)
        if way:
            titles = " > ".join(view.macros[name].title for name in way)
            number = _step(view, macro)
            yield Finding(
                id=ID,
                severity=SEVERITY,
                app=view.app.name,
                says=f"“{macro.title}” comes to play itself: {titles}.",
                advice=CutStep(app=view.app.name, macro=macro.name, step=number)
                if len(macro.steps) > 1
                else RemoveMacro(app=view.app.name, macro=macro.name),
                places=(step_place(macro.name, number),),
                commands=(macro.id,),
                look=ShowMacro(app=view.app.name, macro=macro.name),
            )


def _step(view: View, macro: Macro) -> int:
    """The first step without which the macro would not come to play itself; 1 where none alone."""
    from olive_compass.core.macros.calling import self_start

    for number in range(1, len(macro.steps) + 1):
        rest = replace(macro, steps=(*macro.steps[: number - 1], *macro.steps[number:]))
        if not self_start(view.keymap, view.macros, rest):
            return number
    return 1
