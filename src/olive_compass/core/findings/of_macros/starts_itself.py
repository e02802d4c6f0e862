"""A macro that comes to play itself, by name or through a key that it presses."""

from collections.abc import Iterator

from olive_compass.core.findings.finding import Finding, View, step_place

ID = "starts-itself"
SEVERITY = "error"
SAYS = "A macro comes to play itself, by name or through a key that it presses."
ADVICE = "Take the step out that plays it, or give that key another meaning."


def find(view: View) -> Iterator[Finding]:
    if not view.macros:
        return
    from olive_compass.core.keys.reading import TriggerError, read_trigger
    from olive_compass.core.macros.playing import called_macros

    def started(press: str) -> tuple[str, ...]:
        try:
            run = read_trigger(press, view.app.rules.typed)
        except TriggerError:
            return ()
        outcomes = (view.keymap.decide(run, mode) for mode in view.app.modes.names)
        return tuple({claim.command: None for each in outcomes for claim in each.winners})

    for macro in view.macros.values():
        way = called_macros(macro, view.macros, started)
        if way:
            titles = " > ".join(view.macros[name].title for name in way)
            yield Finding(
                ID,
                SEVERITY,
                view.app.name,
                f"“{macro.title}” comes to play itself: {titles}.",
                f"olive-compass macro show {view.app.name}/{macro.name}",
                (step_place(macro.name),),
                (macro.id,),
            )
