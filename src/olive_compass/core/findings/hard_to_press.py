"""A trigger of a scheme that costs the hand much on the desk's keyboard."""

from collections.abc import Iterator

from olive_compass.core.effort.reach import effort
from olive_compass.core.findings.finding import Finding, View, place
from olive_compass.core.keys.keyboards import Physical

ID = "hard-to-press"
SEVERITY = "warning"
SAYS = "A trigger costs the hand more home strokes than the desk's threshold allows."
ADVICE = (
    "Give it an easier key: olive-compass free APP --for COMMAND. The threshold is “hard” under "
    "[effort] in desk.toml."
)


def find(view: View) -> Iterator[Finding]:
    keyboard = view.keymap.keyboard
    costs: dict[Physical, float] = {}
    for claim in view.decisions:
        press = keyboard.press_of(claim.trigger)
        for physical in press:
            if physical not in costs:
                cost = effort(keyboard.form, physical, view.weights) if keyboard.form else None
                costs[physical] = cost.strokes if cost else 0.0
        total = sum([costs[physical] for physical in press])
        if total < view.weights.hard or claim.mutes:
            continue
        yield Finding(
            ID,
            SEVERITY,
            view.app.name,
            f"{claim.trigger} of “{view.title(claim.command)}” costs {total:.1f} home "
            f"strokes; {view.weights.hard:g} and more are hard to press.",
            f"olive-compass free {view.app.name} --for {claim.command}",
            (place(claim),),
            (claim.command,),
            (str(claim.trigger),),
        )
