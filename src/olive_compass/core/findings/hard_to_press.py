"""A trigger that costs the hand much on the desk's keyboard."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import ShowFree
from olive_compass.core.effort.reach import press_effort
from olive_compass.core.findings.advice import better_key
from olive_compass.core.findings.finding import Finding, View, factory_note, of_schemes, place
from olive_compass.core.keys.presses import Physical
from olive_compass.core.schemes.claims import Claim

ID = "hard-to-press"
SEVERITY: Final = "warning"
SAYS = "The key takes more effort than this desk's threshold allows."
ADVICE = "Assign an easier key: {free}. The threshold is “hard” under [effort] in desk.toml."
ACTIONS = {"free": ShowFree(app="APP", command="COMMAND")}


def _strokes(view: View, physical: Physical) -> float:
    """The effort of a press in home strokes; 0 where nobody knows it."""
    found = press_effort(view.keymap.keyboard, physical, view.weights)
    if found:
        return found.strokes
    return 0.0


def find(view: View) -> Iterator[Finding]:
    keyboard = view.keymap.keyboard
    costs: dict[Physical, float] = {}

    def cost(claim: Claim) -> float:
        total = 0.0
        # A key by itself is never that hard: what costs is to hold others with it, or several.
        if len(claim.trigger.strokes) == 1 and not claim.trigger.strokes[0].modifiers:
            return total
        for physical in keyboard.press_of(claim.trigger):
            if physical not in costs:
                costs[physical] = _strokes(view, physical)
            total += costs[physical]
        return total

    hard = [
        claim
        for bucket in view.keymap.buckets.values()
        for claim in (bucket if cost(bucket[0]) >= view.weights.hard else ())
        if claim.command
    ]
    for claim in of_schemes(hard):
        yield Finding(
            id=ID,
            severity=SEVERITY,
            app=view.app.name,
            says=f"{claim.trigger} of “{view.title(claim.command)}” costs {cost(claim):.1f} home "
            f"strokes; {view.weights.hard:g} and more are hard to press.",
            advice=better_key(view, claim),
            places=(place(claim),),
            commands=(claim.command,),
            keys=(str(claim.trigger),),
        )
    says = f"These factory keys cost {view.weights.hard:g} home strokes and more: {{keys}}."
    yield from factory_note(view, ID, says, hard)
