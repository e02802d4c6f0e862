"""A trigger that the desk's keyboard cannot make."""

from collections.abc import Iterator

from olive_compass.core.schemes.findings.finding import (
    Finding,
    View,
    claims_by_stroke,
    factory_note,
    of_schemes,
    place,
)
from olive_compass.core.schemes.layers import Claim

ID = "not-on-keyboard"
SEVERITY = "error"
SAYS = "A trigger needs a key or a character that the desk's keyboard does not have."
ADVICE = (
    "Give the command another key, or tell the desk which keyboard it has: olive-compass desk "
    "keyboard. To ask about another keyboard: olive-compass check --keyboard FORM/LAYOUT."
)


def find(view: View) -> Iterator[Finding]:
    of_factory: list[Claim] = []
    for stroke, claims in claims_by_stroke(view):
        missing = view.keymap.keyboard.made(stroke).missing
        if not missing:
            continue
        of_factory += claims
        for claim in of_schemes(claims):
            yield Finding(
                ID,
                SEVERITY,
                view.app.name,
                f"{claim.trigger} of “{view.title(claim.command)}” cannot be pressed: {missing}.",
                f"olive-compass free {view.app.name} --for {claim.command}",
                (place(claim),),
                (claim.command,),
                (str(claim.trigger),),
            )
    says = "This keyboard cannot make these factory keys: {keys}."
    yield from factory_note(view, ID, says, of_factory)
