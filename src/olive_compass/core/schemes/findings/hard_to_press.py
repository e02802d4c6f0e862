"""A trigger of a scheme that costs the hand much on the desk's keyboard."""

from collections.abc import Iterator

from olive_compass.core.effort.reach import run_effort
from olive_compass.core.schemes.findings.finding import Finding, View, of_schemes, place

ID = "hard-to-press"
SEVERITY = "warning"
SAYS = "A trigger costs the hand more home strokes than the desk's threshold allows."
ADVICE = (
    "Give it an easier key: olive-compass free APP --for COMMAND. The threshold is “hard” under "
    "[effort] in desk.toml."
)


def find(view: View) -> Iterator[Finding]:
    claims = [claim for bucket in view.keymap.buckets.values() for claim in bucket if claim.command]
    for claim in of_schemes(claims):
        effort = run_effort(view.keymap.keyboard, claim.trigger, view.weights)
        if effort is None or effort.strokes < view.weights.hard:
            continue
        yield Finding(
            ID,
            SEVERITY,
            view.app.name,
            f"{claim.trigger} of “{view.title(claim.command)}” costs {effort.strokes:.1f} home "
            f"strokes; {view.weights.hard:g} and more are hard to press.",
            f"olive-compass free {view.app.name} --for {claim.command}",
            (place(claim),),
            (claim.command,),
            (str(claim.trigger),),
        )
