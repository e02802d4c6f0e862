"""A macro that no key starts and no other macro plays."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import RemoveMacro
from olive_compass.core.changes.view import AppView
from olive_compass.core.findings.advice import new_key
from olive_compass.core.findings.finding import Finding, View, step_place
from olive_compass.core.macros.macro import Macro
from olive_compass.core.schemes.holdings import live_triggers

ID = "unused-macro"
SEVERITY: Final = "note"
SAYS = "No key starts the macro, and no other macro plays it."
ADVICE = "Assign a key to it, or remove it."


def find(view: View) -> Iterator[Finding]:
    played = {step.command for macro in view.macros.values() for step in macro.steps}
    keyless = view.stack.keyless
    for macro in view.macros.values():
        if _is_used(macro, played, keyless, view):
            continue
        yield Finding(
            id=ID,
            severity=SEVERITY,
            app=view.app.name,
            says=f"No key starts “{macro.title}”, and no other macro plays it.",
            advice=new_key(view, macro.id),
            places=(step_place(macro.name),),
            commands=(macro.id,),
            instead=(RemoveMacro(app=view.app.name, macro=macro.name),),
        )


def _is_used(macro: Macro, played: set[str], keyless: frozenset[str], view: AppView) -> bool:
    return bool(macro.id in played or macro.id in keyless or live_triggers(view.keymap, macro.id))
