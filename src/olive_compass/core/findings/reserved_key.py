"""A key of a scheme that the system or the application keeps for itself."""

from collections.abc import Iterator

from olive_compass.core.findings.finding import Finding, View, of_schemes, place
from olive_compass.core.schemes.layers import SYSTEM

ID = "reserved-key"
SEVERITY = "error"
SAYS = "A scheme gives a key that the operating system or the application keeps for itself."
ADVICE = "Choose another key; the firm one comes first in any case. System keys are in system.toml."


def find(view: View) -> Iterator[Finding]:
    for bucket in view.keymap.buckets.values():
        firm = [claim for claim in bucket if claim.layer.firm]
        for claim in of_schemes(bucket) if firm else ():
            who = "the operating system" if firm[0].layer == SYSTEM else view.app.title
            yield Finding(
                ID,
                SEVERITY,
                view.app.name,
                f"{claim.trigger} of “{view.title(claim.command)}” never arrives: {who} keeps it "
                f"({firm[0].wired}).",
                f"olive-compass clear {view.app.name} '{claim.trigger}' --scheme {claim.origin}",
                (place(claim), place(firm[0])),
                (claim.command,),
                (str(claim.trigger),),
            )
