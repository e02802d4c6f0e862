"""A guarded key that no longer means what it meant where the guard was set."""

from collections.abc import Iterator

from olive_compass.core.findings.finding import Finding, Place, View, place
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.deciding import Keymap

ID = "guarded-key"
SEVERITY = "error"
SAYS = "A nearer scheme changes a key that is guarded."
ADVICE = "Take that decision back, or take the guard off if its reason no longer holds."


def find(view: View) -> Iterator[Finding]:
    schemes = view.stack.schemes
    for rank, scheme in enumerate(schemes):
        if not scheme.guard or rank == 0:
            continue
        below = Keymap(Stack(view.app, schemes[rank:], view.stack.system), view.keyboard)
        for run, decision in scheme.guard.items():
            press = view.keymap.keyboard.press_of(run)
            for mode in view.app.modes.inside(decision.modes):
                kept = [claim.does for claim in below.winners(press, mode)]
                now = view.keymap.winners(press, mode)
                if [claim.does for claim in now] == kept or not now:
                    continue
                was = view.meaning(kept[0]) if kept else "nothing"
                does = view.meaning(now[0].does) or "nothing"
                yield Finding(
                    ID,
                    SEVERITY,
                    view.app.name,
                    f"{run} is guarded by {scheme.name} ({decision.why or 'no reason given'}) and was "
                    f"“{was}”, but does “{does}” {view.app.modes.phrase(view.app.modes.inside([mode]))}.",
                    f"olive-compass clear {view.app.name} '{run}' --scheme {now[0].origin}",
                    (place(now[0]), Place(scheme.name, "guard", str(run))),
                    tuple(claim.command for claim in now),
                    (str(run),),
                    (mode,),
                )
                break
