"""A run with more strokes than the application takes."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import ShowRules
from olive_compass.core.apps.guesses import guessed
from olive_compass.core.findings.advice import better_key, clearing
from olive_compass.core.findings.finding import Finding, View, of_command, of_schemes, place
from olive_compass.core.wording import sequences_of

ID = "sequence-too-long"
SEVERITY: Final = "error"
SAYS = "A sequence has more keys than the application accepts."
ADVICE = "Shorten it; {rules} shows the longest sequence."
ACTIONS = {"rules": ShowRules(app="APP")}


def find(view: View) -> Iterator[Finding]:
    longest = view.app.rules.longest_sequence
    claims = [
        claim
        for press, bucket in view.keymap.buckets.items()
        if len(press) > longest
        for claim in bucket
    ]
    for claim in of_schemes(claims):
        what = of_command(view, claim)
        yield Finding(
            id=ID,
            severity=SEVERITY,
            app=view.app.name,
            says=f"{claim.trigger} {what}has {len(claim.trigger.strokes)} keys; "
            f"{view.app.title} takes {sequences_of(longest)}{guessed(view.app, 'longest-sequence')}.",
            advice=clearing(view, claim) if claim.mutes else better_key(view, claim),
            places=(place(claim),),
            commands=(claim.command,),
            keys=(str(claim.trigger),),
        )
