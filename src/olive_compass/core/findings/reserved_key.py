"""A key of a scheme that the system or the application keeps for itself."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import ShowSystemKeys
from olive_compass.core.findings.advice import better_key, clearing
from olive_compass.core.findings.finding import Finding, View, of_command, of_schemes, place
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.traits import firm_on

ID = "reserved-key"
SEVERITY: Final = "error"
SAYS = (
    "A scheme assigns a key that the operating system or the application reserves, or a "
    "sequence that begins with one."
)
ADVICE = (
    "Choose another key; the reserved one always comes first. To see the system's keys: {keys}."
)
ACTIONS = {"keys": ShowSystemKeys()}


def find(view: View) -> Iterator[Finding]:
    locked = view.keymap.locked
    concerned: dict[Claim, None] = {}
    if locked:
        for press, bucket in view.keymap.buckets.items():
            if view.keymap.stops(press):
                concerned.update(dict.fromkeys(of_schemes(bucket)))
    for claim in concerned:
        keeps = firm_on(view.keymap, claim.trigger)[0]
        who = keeps.claim.layer.keeper or view.app.title
        what = of_command(view, claim)
        part = "it"
        if keeps.begins or keeps.inside:
            part = keeps.part
        yield Finding(
            id=ID,
            severity=SEVERITY,
            app=view.app.name,
            says=f"{claim.trigger} {what}never arrives: {who} keeps {part} ({keeps.claim.wired}).",
            advice=clearing(view, claim) if claim.mutes else better_key(view, claim),
            places=(place(claim), place(keeps.claim)),
            commands=(claim.command,),
            keys=(str(claim.trigger),),
        )
