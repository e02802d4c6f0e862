"""A lasting command inside a macro, before which nothing is asked."""

from collections.abc import Iterator

from olive_compass.core.findings.finding import Finding, View, step_place

ID = "lasting-inside"
SEVERITY = "warning"
SAYS = "A macro starts something that lasts and cannot be taken back, and asks nothing before it."
ADVICE = "Let an earlier step ask something, or start the lasting command by hand."


def find(view: View) -> Iterator[Finding]:
    known = view.app.catalogue.by_id
    for macro in view.macros.values():
        asked = False
        for number, step in enumerate(macro.steps, 1):
            command = known.get(step.command)
            asked = asked or bool(step.ask)
            if command is None or not command.marks.lasting or asked:
                continue
            yield Finding(
                ID,
                SEVERITY,
                view.app.name,
                f"“{macro.title}” starts “{command.title}” in step {number}, which lasts, and asks "
                "nothing before it.",
                f"olive-compass macro drop {view.app.name}/{macro.name} {number}",
                (step_place(macro.name, number),),
                (macro.id, command.id),
            )
